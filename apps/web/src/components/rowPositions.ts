/** Where a row stands among those it belongs to, for those who hear the list read (WAI-ARIA 1.2, `aria-posinset`, `aria-setsize`). */
export interface RowPosition {
  /** From 1. */
  readonly at: number;
  readonly of: number;
}

/**
 * A row of a tree is counted among the rows beside it under the same parent, a row of a list among all. Headings
 * (depth undefined) are not counted. Each row's set is one object, so `of` is known once all rows are.
 */
export function reckonRowPositions(depths: readonly (number | undefined)[]): (RowPosition | undefined)[] {
  const open: { of: number }[] = [];
  const placed = depths.map((depth) => {
    if (depth === undefined) return undefined;
    // Rows deeper down belong to branches that end here.
    open.length = Math.min(open.length, depth + 1);
    const set = (open[depth] ??= { of: 0 });
    set.of += 1;
    return { at: set.of, set };
  });
  return placed.map((place) => place && { at: place.at, of: place.set.of });
}
