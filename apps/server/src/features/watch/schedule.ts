/** Reading access logs by itself: a site whose reading is due by the world's clock, by one process only. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { repeat, type Repeated } from '../../jobs/repeat.ts';
import { READ_EVERY_MS, readLogNow } from './readLog.ts';

const CHECK_EVERY_MS = 2000;

export function startReadingLogs(deps: Deps, log: Logger): Repeated {
  return repeat(CHECK_EVERY_MS, () => readAtDue(deps, log), log, 'reading access logs');
}

async function readAtDue(deps: Deps, log: Logger): Promise<void> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update watched_log set next_read_at = $2
      where site_id in (select site_id from watched_log where next_read_at <= $1 order by next_read_at for update skip locked limit 5) returning site_id as site`,
    [new Date(nowMs), new Date(nowMs + READ_EVERY_MS)],
  );
  for (const { site } of due) {
    // A host that gives none has nothing to be read; it is asked again when another one is chosen.
    if (!(await deps.hosts.of(deps.db, site)).accessLog) continue;
    await readLogNow(deps, site).catch((error: unknown) => log.warn({ err: error, site }, 'an access log could not be read'));
  }
}
