/** Sweeping by itself: a site whose removed things are due by the world's clock, by one process only. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { sweepDue } from './sweep.ts';

const CHECK_EVERY_MS = 2000;
/** A sweep that failed is tried again after this. */
const AGAIN_AFTER_MS = 60_000;

export function startSweeping(deps: Deps, log: Logger): Repeated {
  return startSchedule(
    {
      name: 'sweeping what is due',
      everyMs: CHECK_EVERY_MS,
      atOnce: 4,
      withinMs: 2 * 60_000,
      claim: (most) => claimDue(deps, most),
      keyOf: (site) => site,
      work: (site) => sweepDue(deps, site),
    },
    log,
  );
}

async function claimDue(deps: Deps, most: number): Promise<string[]> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update site set next_sweep_at = $2
      where id in (select id from site where next_sweep_at <= $1 and deleted_at is null order by next_sweep_at for update skip locked limit $3) returning id as site`,
    [new Date(nowMs), new Date(nowMs + AGAIN_AFTER_MS), most],
  );
  return due.map(({ site }) => site);
}
