/** Whether the live site was there in the last thirty days, beside what its plan promises. */
import { UP_DAYS, type Up } from '@fastigium/contracts/api/watch';
import type { Part } from '@fastigium/core/messages';
import {
  reckonAllowedMinutes,
  computeQuantile,
  reckonUptime,
  reckonUptimePercent,
  type Probe,
} from '@fastigium/core/watch';
import { readHostAccount, hostSettings } from '../../adapters/host/hosts.ts';
import type { Deps } from '../../deps.ts';
import { PROBE_EVERY_MS } from './probe.ts';

const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;

export async function readUp(deps: Deps, site: string): Promise<Up> {
  const nowMs = deps.world.clock.nowMs();
  const rows = await deps.db.many<{ at: Date; isUp: boolean; firstByteMs: number | null; problem: Part | null }>(
    'select at, is_up as "isUp", first_byte_ms as "firstByteMs", problem from probe where site_id = $1 and at > $2 order by at',
    [site, new Date(nowMs - UP_DAYS * DAY_MS)],
  );
  const probes = rows.map(({ at, isUp, firstByteMs, problem }): Probe => ({
    atMs: at.getTime(),
    isUp,
    firstByteMs: firstByteMs ?? undefined,
    problem: problem ?? undefined,
  }));
  const whole = reckonUptime(probes, PROBE_EVERY_MS, nowMs);
  const times = (all: readonly Probe[]) => all.flatMap(({ firstByteMs }) => firstByteMs ?? []);
  const [median, p95] = [computeQuantile(times(probes), 0.5), computeQuantile(times(probes), 0.95)];
  const promised = await promiseOf(deps, site);
  const last = probes.at(-1);
  return {
    percent: reckonUptimePercent(whole) ?? null,
    watchedMinutes: whole.watchedMs / MINUTE_MS,
    downMinutes: whole.downMs / MINUTE_MS,
    promised: promised === undefined ? null : { percent: promised, minutes: reckonAllowedMinutes(promised, UP_DAYS) },
    firstByte: median === undefined || p95 === undefined ? null : { median, p95 },
    lastAt: last ? new Date(last.atMs).toISOString() : null,
    isUp: last?.isUp ?? null,
    days: Array.from({ length: UP_DAYS }, (_, n) => {
      const day = new Date(nowMs - (UP_DAYS - 1 - n) * DAY_MS).toISOString().slice(0, 10);
      const from = Date.parse(`${day}T00:00:00Z`);
      const ofDay = probes.filter(({ atMs }) => atMs >= from && atMs < from + DAY_MS);
      return {
        day,
        percent: reckonUptimePercent(reckonUptime(ofDay, PROBE_EVERY_MS, Math.min(nowMs, from + DAY_MS))) ?? null,
        median: computeQuantile(times(ofDay), 0.5) ?? null,
      };
    }),
    outages: [...whole.outages].reverse().map(({ fromMs, toMs, problem }) => ({
      from: new Date(fromMs).toISOString(),
      to: toMs === undefined ? null : new Date(toMs).toISOString(),
      problem,
    })),
  };
}

/** Percent; undefined where no plan was chosen, or the host has none. */
async function promiseOf(deps: Deps, site: string): Promise<number | undefined> {
  const { plan } = hostSettings.parse((await readHostAccount(deps.db, site))?.settings ?? {});
  const { naming } = await deps.hosts.of(deps.db, site);
  if (plan === undefined || !naming) return undefined;
  // A host that is away now is what this view is about; it is shown all the same.
  const offer = await naming.offer().catch(() => undefined);
  return offer?.plans.find(({ id }) => id === plan)?.uptimePercent;
}
