/** How long removed things are kept. */
import type { Removal } from './removal.ts';

const DAY_MS = 24 * 60 * 60 * 1000;
/** Nobody loses anything to a time limit that was not announced a week before. */
export const NOTICE_DAYS = 7;

export interface KeepingRule {
  /** 0 for without end. */
  readonly keptDays: number;
  /** When the limit was set, in milliseconds since 1970; undefined while nobody set it. */
  readonly setAtMs: number | undefined;
}

/**
 * The instant from which a sweep may take something, in milliseconds since 1970: so many days after it was
 * removed, but not within the days of notice after the limit was set. Undefined where it is held, or kept
 * without end.
 */
export function reckonKeptUntilMs(
  { atMs, held }: Pick<Removal, 'atMs' | 'held'>,
  { keptDays, setAtMs }: KeepingRule,
): number | undefined {
  if (held !== undefined || keptDays === 0) return undefined;
  const due = atMs + keptDays * DAY_MS;
  return setAtMs === undefined ? due : Math.max(due, setAtMs + Math.min(NOTICE_DAYS, keptDays) * DAY_MS);
}
