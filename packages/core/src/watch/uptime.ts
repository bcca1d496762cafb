/** Whether a site was there, from probes, and what a promise of uptime means. */
import type { Part } from '../messages/index.ts';
import { outage } from './messages.ts';

export interface Probe {
  readonly atMs: number;
  readonly isUp: boolean;
  /** To the first byte of the answer; undefined where there was none. */
  readonly firstByteMs: number | undefined;
  /** Why it was not up. */
  readonly problem: Part | undefined;
}

export interface Outage {
  readonly fromMs: number;
  /** Of the first probe that found it up again; undefined while it is down. */
  readonly toMs: number | undefined;
  readonly problem: Part;
}

export interface Uptime {
  /** Time that was watched: gaps in which nobody asked count for nothing. */
  readonly watchedMs: number;
  readonly downMs: number;
  readonly outages: readonly Outage[];
}

/**
 * What a probe found holds until the next one, but no longer than three times the usual pause: after that nobody was
 * watching.
 *
 * @param probes in their order
 * @param everyMs usual pause between two
 * @param nowMs until when the last one holds
 */
export function reckonUptime(probes: readonly Probe[], everyMs: number, nowMs: number): Uptime {
  let [watchedMs, downMs] = [0, 0];
  const outages: { fromMs: number; toMs: number | undefined; problem: Part }[] = [];
  probes.forEach(({ atMs, isUp, problem }, n) => {
    const until = Math.min(probes[n + 1]?.atMs ?? nowMs, atMs + 3 * everyMs);
    const heldMs = Math.max(0, until - atMs);
    watchedMs += heldMs;
    const last = outages.at(-1);
    const isOpen = last !== undefined && last.toMs === undefined;
    if (isUp) {
      if (isOpen) last.toMs = atMs;
      return;
    }
    downMs += heldMs;
    if (!isOpen) outages.push({ fromMs: atMs, toMs: undefined, problem: problem ?? outage('no-answer') });
  });
  return { watchedMs, downMs, outages };
}

/** Percent of the watched time; undefined where nothing was watched. */
export function reckonUptimePercent({ watchedMs, downMs }: Pick<Uptime, 'watchedMs' | 'downMs'>): number | undefined {
  return watchedMs === 0 ? undefined : (1 - downMs / watchedMs) * 100;
}

/** Minutes that a promise allows a site to be away: 99.9 % of 30 days is 43.2 minutes. */
export function reckonAllowedMinutes(percent: number, days: number): number {
  return (1 - percent / 100) * days * 24 * 60;
}

/**
 * The value below which a share of all values lies, between neighbours in proportion: definition 7 of Hyndman and Fan,
 * "Sample Quantiles in Statistical Packages", The American Statistician 50 (1996).
 *
 * @param share from 0 to 1
 * @returns undefined for no values
 */
export function computeQuantile(values: readonly number[], share: number): number | undefined {
  if (values.length === 0) return undefined;
  const sorted = [...values].sort((a, b) => a - b);
  const at = (sorted.length - 1) * share;
  const [low, high] = [sorted[Math.floor(at)] ?? 0, sorted[Math.ceil(at)] ?? 0];
  return low + (high - low) * (at - Math.floor(at));
}
