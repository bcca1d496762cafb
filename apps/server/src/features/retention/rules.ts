/** What is kept for how long; docs/operations.md says the same. The audit trail and decisions are kept for ever. */
import type { Queries } from '../../db/database.ts';

export interface RetentionRule {
  /** What goes, for the log. */
  readonly what: string;
  readonly keptDays: number;
  /** Deletes what was over before `$1`. */
  readonly sql: string;
}

export const RETENTION_RULES: readonly RetentionRule[] = [
  // Thirteen months, so that a month can be held against the same one of the year before.
  { what: 'visits by hour', keptDays: 400, sql: 'delete from visit_hour where hour < $1' },
  { what: 'visits by address', keptDays: 400, sql: 'delete from visit_address where day < $1' },
  {
    what: 'ended jobs',
    keptDays: 30,
    sql: `delete from job where state in ('done', 'failed', 'cancelled') and ended_at < $1`,
  },
  { what: 'notices that were seen', keptDays: 90, sql: 'delete from notice where seen_at < $1' },
  { what: 'notices nobody saw', keptDays: 400, sql: 'delete from notice where at < $1' },
  { what: 'what others were told', keptDays: 30, sql: `delete from delivery where state <> 'waiting' and at < $1` },
  {
    what: 'invitations that ended',
    keptDays: 30,
    sql: 'delete from invitation where used_by is null and expires_at < $1',
  },
  { what: 'links for new passwords', keptDays: 1, sql: 'delete from password_reset where expires_at < $1' },
];

/** @returns how many rows went, by what they were */
export async function deleteOld(queries: Queries, nowMs: number): Promise<Map<string, number>> {
  const gone = new Map<string, number>();
  for (const { what, keptDays, sql } of RETENTION_RULES)
    gone.set(what, await queries.run(sql, [new Date(nowMs - keptDays * DAY_MS)]));
  return gone;
}

const DAY_MS = 24 * 60 * 60 * 1000;
