/**
 * A plan for a change still to come: lower the TTL so long before that every long-lived answer has run
 * out by the time of the change, change, keep the old host until the short ones have, raise it again.
 * Source: RFC 1912 section 2.2 (lowering TTLs ahead of a change); the rest is reckoned.
 */
export interface ChangePlan {
  /** Lower the TTL no later than this. */
  readonly lowerByMs: number;
  /** It is too late for that: answers with the long TTL will outlive the change. */
  readonly tooLate: boolean;
  readonly changeAtMs: number;
  /** The old host must answer until then. */
  readonly keepOldUntilMs: number;
  readonly raiseAfterMs: number;
  /** The same if the TTL is never lowered, and what that costs. */
  readonly unloweredKeepOldUntilMs: number;
  readonly savedMs: number;
}

/** Five minutes: short enough for an evening, long enough that name servers do not notice. Common practice, no source. */
export const LOW_TTL_SECONDS = 300;

export function planChange(input: {
  readonly nowMs: number;
  readonly changeAtMs: number;
  readonly ttlSeconds: number;
  readonly lowTtlSeconds?: number;
}): ChangePlan {
  const { nowMs, changeAtMs, ttlSeconds } = input;
  const low = Math.min(input.lowTtlSeconds ?? LOW_TTL_SECONDS, ttlSeconds);
  const lowerByMs = changeAtMs - ttlSeconds * 1000;
  const loweredAtMs = Math.max(nowMs, lowerByMs);
  // An answer handed out with the long TTL just before it was lowered.
  const lastLongMs = loweredAtMs + ttlSeconds * 1000;
  const keepOldUntilMs = Math.max(changeAtMs + low * 1000, lastLongMs > changeAtMs ? lastLongMs : 0);
  const unlowered = changeAtMs + ttlSeconds * 1000;
  return {
    lowerByMs,
    tooLate: nowMs > lowerByMs,
    changeAtMs,
    keepOldUntilMs: Math.min(keepOldUntilMs, unlowered),
    raiseAfterMs: Math.min(keepOldUntilMs, unlowered),
    unloweredKeepOldUntilMs: unlowered,
    savedMs: Math.max(0, unlowered - Math.min(keepOldUntilMs, unlowered)),
  };
}

/** When to ask again: soon after something changed, then ever more rarely, up to six hours. */
export function reckonNextLookupMs(sinceChangeMs: number): number {
  const least = 30_000; // 30 s
  const most = 6 * 3_600_000; // 6 h
  return Math.min(most, Math.max(least, Math.round(sinceChangeMs / 4)));
}
