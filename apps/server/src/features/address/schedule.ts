/** Asking again by itself: whoever's look is due by the world's clock gets one, by one process only. */
import type { Logger } from 'pino';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { repeat, type Repeated } from '../../jobs/repeat.ts';
import { lookNow } from './lookNow.ts';

const CHECK_EVERY_MS = 2000;
/** While one process looks, no other takes the same site; afterwards the look itself says when the next is due. */
const CLAIM_MS = 30_000;

/** Something happened that the chain will show: the next look is due now. */
export async function lookSoon(queries: Queries, site: string, nowMs: number): Promise<void> {
  await queries.run('update address set next_look_at = $2 where site_id = $1', [site, new Date(nowMs)]);
}

export function startLooking(deps: Deps, log: Logger): Repeated {
  return repeat(CHECK_EVERY_MS, () => lookAtDue(deps, log), log, 'looking at addresses');
}

async function lookAtDue(deps: Deps, log: Logger): Promise<void> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update address set next_look_at = $2
      where site_id in (select a.site_id from address a join domain d on d.site_id = a.site_id and d.role = 'own' where a.next_look_at <= $1 order by a.next_look_at for update of a skip locked limit 5)
      returning site_id as site`,
    [new Date(nowMs), new Date(nowMs + CLAIM_MS)],
  );
  for (const { site } of due)
    await lookNow(deps, site).catch((error: unknown) => log.warn({ err: error, site }, 'a look failed'));
}
