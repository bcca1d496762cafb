/** An order that is given anew, without losing what it does not name. */

/**
 * The next order with everything in it that only the former one has. Each such member comes to stand
 * behind the nearest of those that stood before it and is still there; where none is, before the nearest
 * of those that stood behind it; where nobody of the former order is left, at the end. Taken in their
 * former order, members that come in together keep it.
 */
export function mergeOrder<K>(former: readonly K[], next: readonly K[]): K[] {
  const out = [...next];
  const there = new Set(next);
  former.forEach((member, index) => {
    if (there.has(member)) return;
    out.splice(placeAmong(former.slice(0, index), former.slice(index + 1), out), 0, member);
    there.add(member);
  });
  return out;
}

/**
 * Where something comes to stand among neighbours of whom some may have gone or changed places.
 *
 * @param before those that stood before it, in their order, and `after` those behind it
 * @returns an index into `present` at which it is to be put in
 */
export function placeAmong<K>(before: readonly K[], after: readonly K[], present: readonly K[]): number {
  const at = new Map(present.map((member, index) => [member, index]));
  for (let index = before.length - 1; index >= 0; index -= 1) {
    const found = at.get(before[index] as K);
    if (found !== undefined) return found + 1;
  }
  for (const member of after) {
    const found = at.get(member);
    if (found !== undefined) return found;
  }
  return present.length;
}
