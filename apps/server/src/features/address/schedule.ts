/** Asking again by itself: a site whose lookup is due by the world's clock gets one, by one process only. */
import type { Logger } from 'pino';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { lookUpNow } from './lookUpNow.ts';

const CHECK_EVERY_MS = 2000;
/** While one process looks up, no other takes the same site; afterwards the lookup itself says when the next is due. */
const CLAIM_MS = 30_000;

/** Something happened that the chain will show: the next lookup is due now. */
export async function lookUpSoon(queries: Queries, site: string, nowMs: number): Promise<void> {
  await queries.run('update address set next_lookup_at = $2 where site_id = $1', [site, new Date(nowMs)]);
}

export function startLooking(deps: Deps, log: Logger): Repeated {
  return startSchedule(
    {
      name: 'looking at an address',
      everyMs: CHECK_EVERY_MS,
      atOnce: 6,
      withinMs: 2 * 60_000,
      claim: (most) => claimDue(deps, most),
      keyOf: (site) => site,
      work: (site) => lookUpNow(deps, site),
    },
    log,
  );
}

async function claimDue(deps: Deps, most: number): Promise<string[]> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update address set next_lookup_at = $2
      where site_id in (select a.site_id from address a join domain d on d.site_id = a.site_id and d.role = 'own' join site s on s.id = a.site_id
                          where a.next_lookup_at <= $1 and s.deleted_at is null order by a.next_lookup_at for update of a skip locked limit $3)
      returning site_id as site`,
    [new Date(nowMs), new Date(nowMs + CLAIM_MS), most],
  );
  return due.map(({ site }) => site);
}
