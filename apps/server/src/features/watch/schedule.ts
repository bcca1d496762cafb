/** Reading access logs and probing by themselves: a site whose turn it is by the world's clock, by one process only. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { repeat, type Repeated } from '../../jobs/repeat.ts';
import { tellAlerts } from './alerts.ts';
import { DRIFT_EVERY_MS, lookForDrift } from '../inspection/drift.ts';
import { PROBE_EVERY_MS, probeNow } from './probe.ts';
import { READ_EVERY_MS, readLogNow } from './readLog.ts';

const CHECK_EVERY_MS = 2000;

export function startWatching(deps: Deps, log: Logger): Repeated {
  return repeat(
    CHECK_EVERY_MS,
    async () => {
      await readAtDue(deps, log);
      await probeAtDue(deps, log);
      await driftAtDue(deps, log);
    },
    log,
    'watching live sites',
  );
}

async function driftAtDue(deps: Deps, log: Logger): Promise<void> {
  for (const site of await taken(deps, 'next_drift_at', DRIFT_EVERY_MS)) {
    await lookForDrift(deps, site).catch((error: unknown) =>
      log.warn({ err: error, site }, 'the live host could not be held against its release'),
    );
    await tellAlerts(deps, site).catch((error: unknown) => log.warn({ err: error, site }, 'alerts could not be told'));
  }
}

async function probeAtDue(deps: Deps, log: Logger): Promise<void> {
  for (const site of await taken(deps, 'next_probe_at', PROBE_EVERY_MS))
    await probeNow(deps, site).catch((error: unknown) => log.warn({ err: error, site }, 'a probe failed'));
}

/** Whoever takes a site that is due has it until the next time. */
async function taken(
  deps: Deps,
  column: 'next_read_at' | 'next_probe_at' | 'next_drift_at',
  everyMs: number,
): Promise<string[]> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update watched_log set ${column} = $2
      where site_id in (select site_id from watched_log where ${column} <= $1 order by ${column} for update skip locked limit 5) returning site_id as site`,
    [new Date(nowMs), new Date(nowMs + everyMs)],
  );
  return due.map(({ site }) => site);
}

async function readAtDue(deps: Deps, log: Logger): Promise<void> {
  for (const site of await taken(deps, 'next_read_at', READ_EVERY_MS)) {
    // A host that gives none has nothing to be read; it is asked again when another one is chosen.
    if (!(await deps.hosts.of(deps.db, site)).accessLog) continue;
    await readLogNow(deps, site).catch((error: unknown) =>
      log.warn({ err: error, site }, 'an access log could not be read'),
    );
  }
}
