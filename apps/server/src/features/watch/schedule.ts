/** What is done about live sites by itself: reading access logs, probing, and looking for drift, each by its own schedule. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { startSchedule, type Schedule } from '../../jobs/schedule.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { tellAlerts } from './alerts.ts';
import { DRIFT_EVERY_MS, checkDrift } from '../inspection/drift.ts';
import { PROBE_EVERY_MS, probeNow } from './probe.ts';
import { READ_EVERY_MS, readLogNow } from './readLog.ts';

const CHECK_EVERY_MS = 2000;

export function startWatching(deps: Deps, log: Logger): Readonly<Record<'logs' | 'probes' | 'drift', Repeated>> {
  return {
    logs: startSchedule(scheduleLogs(deps), log),
    probes: startSchedule(scheduleProbes(deps), log),
    drift: startSchedule(scheduleDrift(deps), log),
  };
}

/** Logs may be long and their hosts slow. */
function scheduleLogs(deps: Deps): Schedule<string> {
  return {
    name: 'reading an access log',
    everyMs: CHECK_EVERY_MS,
    atOnce: 4,
    withinMs: 10 * 60_000,
    claim: (most) => claimDueSites(deps, 'next_read_at', READ_EVERY_MS, most),
    keyOf: (site) => site,
    async work(site) {
      // A host that gives none has nothing to be read; it is asked again when another one is chosen.
      if ((await deps.hosts.of(deps.db, site)).accessLog) await readLogNow(deps, site);
    },
  };
}

function scheduleProbes(deps: Deps): Schedule<string> {
  return {
    name: 'a probe',
    everyMs: CHECK_EVERY_MS,
    atOnce: 10,
    withinMs: 60_000,
    claim: (most) => claimDueSites(deps, 'next_probe_at', PROBE_EVERY_MS, most),
    keyOf: (site) => site,
    work: (site) => probeNow(deps, site),
  };
}

function scheduleDrift(deps: Deps): Schedule<string> {
  return {
    name: 'holding a live host against its release',
    everyMs: CHECK_EVERY_MS,
    atOnce: 4,
    withinMs: 10 * 60_000,
    claim: (most) => claimDueSites(deps, 'next_drift_at', DRIFT_EVERY_MS, most),
    keyOf: (site) => site,
    async work(site) {
      try {
        await checkDrift(deps, site);
      } finally {
        // A host that cannot be asked is one of the alerts.
        await tellAlerts(deps, site);
      }
    },
  };
}

/** Whoever claims a site that is due has it until the next time. */
async function claimDueSites(
  deps: Deps,
  column: 'next_read_at' | 'next_probe_at' | 'next_drift_at',
  everyMs: number,
  most: number,
): Promise<string[]> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ site: string }>(
    `update watched_log set ${column} = $2
      where site_id in (select w.site_id from watched_log w join site s on s.id = w.site_id
                          where w.${column} <= $1 and s.deleted_at is null order by w.${column} for update of w skip locked limit $3) returning site_id as site`,
    [new Date(nowMs), new Date(nowMs + everyMs), most],
  );
  return due.map(({ site }) => site);
}
