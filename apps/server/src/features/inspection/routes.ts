import { inspectionApi } from '@fastigium/contracts/api/inspection';
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { releases } from '../releases/list.ts';
import { siteState } from '../draft/history.ts';
import { inspectNow } from './inspectJob.ts';
import { inspectionOf } from './kept.ts';
import { releaseReport } from './report.ts';

export function inspectionRoutes(routes: Routes, deps: Deps): void {
  routes.on(inspectionApi.get, async ({ params }) => {
    const found = await inspectionOf(deps.db, params.site, params.number);
    if (found === null) return { inspection: null };
    const { facts: _, ...inspection } = found;
    return { inspection };
  });
  routes.on(inspectionApi.ask, async ({ params, person }) => ({ job: await inspectNow(deps, params.site, person.id) }));
  routes.on(inspectionApi.report, async ({ params, res }) => {
    const inspection = await inspectionOf(deps.db, params.site, params.number);
    const release = (await releases(deps.db, params.site)).find(({ number }) => number === params.number);
    if (!inspection || !release) throw new DomainError('not-inspected', { number: params.number });
    const { name } = await siteState(deps.db, params.site);
    res.type('text/html').attachment(`release-${params.number}.html`).send(releaseReport({ site: name, release, inspection, facts: inspection.facts }));
    return ANSWERED;
  });
}
