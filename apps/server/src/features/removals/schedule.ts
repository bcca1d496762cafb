/** Sweeping by itself: a site whose removed things are due by the world's clock, by one process only. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { repeat, type Repeated } from '../../jobs/repeat.ts';
import { sweepDue } from './sweep.ts';

const CHECK_EVERY_MS = 2000;
/** A sweep that failed is tried again after this. */
const AGAIN_AFTER_MS = 60_000;

export function startSweeping(deps: Deps, log: Logger): Repeated {
  return repeat(CHECK_EVERY_MS, () => sweepAtDue(deps, log), log, 'sweeping');
}

async function sweepAtDue(deps: Deps, log: Logger): Promise<void> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update site set next_sweep_at = $2
      where id in (select id from site where next_sweep_at <= $1 order by next_sweep_at for update skip locked limit 5) returning id as site`,
    [new Date(nowMs), new Date(nowMs + AGAIN_AFTER_MS)],
  );
  for (const { site } of due)
    await sweepDue(deps, site).catch((error: unknown) => log.warn({ err: error, site }, 'a sweep failed'));
}
