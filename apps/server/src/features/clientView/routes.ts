import { clientViewApi, type ClientView } from '@fastigium/contracts/api/clientView';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { readRehearsal } from '../releases/rehearse.ts';
import { readSiteSummary } from '../sites/sites.ts';

/** As many reports as anybody looks at; older ones are with those who made them. */
const MOST_REPORTS = 50;

export function addClientViewRoutes(routes: Routes, deps: Deps): void {
  routes.on(clientViewApi.get, ({ params }) => readClientView(deps, params.site));
}

async function readClientView(deps: Deps, site: string): Promise<ClientView> {
  const { name, answersAt, liveUrl } = await readSiteSummary(deps, site);
  const live = await deps.db.maybeOne<{ number: number; at: Date }>(
    `select r.number, r.live_at as at from site s join release r on r.id = s.live_release where s.id = $1`,
    [site],
  );
  const rehearsal = await readRehearsal(deps.db, site);
  const reports = await deps.db.many<{ release: number; at: Date; verdict: 'right'; isLive: boolean }>(
    `select r.number as release, i.at, i.verdict, r.id = s.live_release as "isLive" from inspection i
       join release r on r.id = i.release_id join site s on s.id = i.site_id
      where i.site_id = $1 order by r.number desc limit $2`,
    [site, MOST_REPORTS],
  );
  return {
    name,
    answersAt,
    liveUrl,
    live: live ? { number: live.number, at: live.at.toISOString() } : null,
    rehearsal: rehearsal && { origin: rehearsal.origin, at: rehearsal.at, verdict: rehearsal.verdict },
    reports: reports.map(({ at, isLive, ...report }) => ({ ...report, isLive: isLive ?? false, at: at.toISOString() })),
  };
}
