/** How long a site keeps what is removed. */
import { reckonKeptUntilMs, NOTICE_DAYS } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { readLatestDraft } from '../draft/history.ts';
import { sweepSoon } from '../draft/sweepSoon.ts';

const DAY_MS = 24 * 60 * 60 * 1000;

/** A shorter limit takes nothing at once: whatever it reaches already is kept for the days of notice. */
export async function keepFor(
  deps: Deps,
  site: string,
  days: number,
): Promise<{ keptDays: number; reached: number; notBefore: string | null }> {
  return deps.db.transaction(async (tx) => {
    const nowMs = deps.world.clock.nowMs();
    await tx.run('update site set removals_kept_days = $2, removals_limit_at = $3 where id = $1', [
      site,
      days,
      new Date(nowMs),
    ]);
    await sweepSoon(tx, site, nowMs);
    const draft = await readLatestDraft(tx, site);
    const reached =
      days === 0
        ? []
        : [...draft.removals.values()].filter(
            (removal) => (reckonKeptUntilMs(removal, { keptDays: days, setAtMs: undefined }) ?? Infinity) <= nowMs,
          );
    return {
      keptDays: days,
      reached: reached.length,
      notBefore: reached.length === 0 ? null : new Date(nowMs + Math.min(NOTICE_DAYS, days) * DAY_MS).toISOString(),
    };
  });
}
