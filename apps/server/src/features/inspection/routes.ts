import { inspectionApi } from '@fastigium/contracts/api/inspection';
import { DomainError } from '@fastigium/contracts/errors';
import { printPage } from '../../adapters/browser/printer.ts';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { readReleases } from '../shared/releaseList.ts';
import { readSiteState } from '../draft/history.ts';
import { inspectNow } from './inspectJob.ts';
import { readInspection } from './kept.ts';
import { writeReleaseReport } from './report.ts';

export function addInspectionRoutes(routes: Routes, deps: Deps): void {
  routes.on(inspectionApi.get, async ({ params }) => {
    const found = await readInspection(deps.db, params.site, params.number);
    if (found === null) return { inspection: null };
    const { facts: _, ...inspection } = found;
    return { inspection };
  });
  routes.on(inspectionApi.ask, async ({ params, person }) => ({ job: await inspectNow(deps, params.site, person.id) }));
  routes.on(inspectionApi.report, async ({ params, res }) => {
    res
      .type('text/html')
      .attachment(`release-${params.number}.html`)
      .send(await reportOf(deps, params));
    return ANSWERED;
  });
  routes.on(inspectionApi.printed, async ({ params, res }) => {
    const html = await reportOf(deps, params);
    const { chromium } = deps.config;
    if (chromium === undefined) throw new DomainError('report-not-printed');
    const pdf = await printPage(chromium, html).catch((error: unknown) => {
      throw new DomainError('report-not-printed', {}, { cause: error });
    });
    res.type('application/pdf').attachment(`release-${params.number}.pdf`).send(pdf);
    return ANSWERED;
  });
}

async function reportOf(
  { db }: Deps,
  { site, number }: { readonly site: string; readonly number: number },
): Promise<string> {
  const inspection = await readInspection(db, site, number);
  const release = (await readReleases(db, site)).find((each) => each.number === number);
  if (!inspection || !release) throw new DomainError('not-inspected', { number });
  const { name } = await readSiteState(db, site);
  return writeReleaseReport({ site: name, release, inspection, facts: inspection.facts });
}
