/** Whether an address is suddenly asked for: somebody with many readers links to it. */

/** Fewer are no reason to get up; common practice, no source. */
export const LEAST_OF_A_SPIKE = 10;

/**
 * Visits come by themselves and independently of each other, so a day's number scatters by its root around the usual
 * one (Poisson); four times that is no chance. The usual one is the median of the days before, which a spike of last
 * week does not move.
 *
 * @param today visits so far
 * @param before visits of the days before, zeros among them
 */
export function isSpike(today: number, before: readonly number[]): boolean {
  if (today < LEAST_OF_A_SPIKE) return false;
  const usual = computeMedian(before);
  return today > usual + 4 * Math.sqrt(Math.max(usual, 1));
}

/** 0 for none. */
export function computeMedian(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? (sorted[middle] ?? 0) : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
}
