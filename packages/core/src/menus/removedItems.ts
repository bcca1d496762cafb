/** Removed items keep their places while a menu is written anew by somebody who may not know of them. */
import { placeAmong } from '../placing/index.ts';
import { walkItems, type MenuItem } from './menu.ts';

/** What tells an item from the others of its menu, whatever it is called now. */
const deriveKey = ({ target, was }: MenuItem): string => JSON.stringify([target, was ?? null]);

/**
 * A menu's new items with those removed from the former ones that they do not hold: each below the item it
 * was below, or the nearest one above that is still there, among the neighbours it had.
 */
export function withRemovedItems(former: readonly MenuItem[], next: readonly MenuItem[]): MenuItem[] {
  const known = new Set([...walkItems(next)].flatMap(({ removed }) => removed ?? []));
  return merge(former, next, known);
}

function merge(former: readonly MenuItem[], next: readonly MenuItem[], known: ReadonlySet<number>): MenuItem[] {
  const out = [...next];
  const keys = former.map(deriveKey);
  former.forEach((item, index) => {
    const at = out.findIndex(
      (each) => deriveKey(each) === keys[index] && (item.removed === undefined || each.removed === item.removed),
    );
    const there = out[at];
    if (item.removed !== undefined && !known.has(item.removed)) {
      out.splice(placeAmong(keys.slice(0, index), keys.slice(index + 1), out.map(deriveKey)), 0, item);
    } else if (there) {
      out[at] = { ...there, children: merge(item.children, there.children, known) };
    } else {
      // The item is gone; what was removed below it moves up in its place.
      const orphans = findRemoved(item.children).filter(({ removed }) => removed !== undefined && !known.has(removed));
      out.splice(placeAmong(keys.slice(0, index), keys.slice(index + 1), out.map(deriveKey)), 0, ...orphans);
    }
  });
  return out;
}

function findRemoved(items: readonly MenuItem[]): MenuItem[] {
  return items.flatMap((item) => (item.removed !== undefined ? [item] : findRemoved(item.children)));
}
