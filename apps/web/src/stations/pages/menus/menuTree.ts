/** A menu as a list of rows that can be moved, and back. */
import type { MenuItemRequest } from '@fastigium/contracts/decisions/lists';

/** An item of any level. */
export interface AnyItem {
  readonly target: MenuItemRequest['target'];
  readonly was?: string | undefined;
  readonly label: string;
  readonly newWindow: boolean;
  readonly children: readonly AnyItem[];
  /** The removal that took it out; it keeps its place. */
  readonly removed?: number | undefined;
}

/** Where an item stands: its place at each level, from 0. */
export type Path = readonly number[];

export interface MenuRowItem {
  readonly item: AnyItem;
  readonly path: Path;
}

const MOST_DEPTH = 3;

/**
 * What an item is, wherever it stands and whatever it is called: its own markup in the imported pages, or what it
 * leads to. Acts are aimed at this and not at a place in a list, since lists change while people work.
 */
export function identifyItem({ was, target, label }: AnyItem): string {
  return was ?? JSON.stringify(target.kind === 'none' ? [target, label] : target);
}

/** Rows by what each item is; of those alike the first, the second … */
export function keyRows(
  items: readonly AnyItem[],
): { readonly key: string; readonly item: AnyItem; readonly path: Path }[] {
  const counts = new Map<string, number>();
  return [...listMenuRows(items)].map(({ item, path }) => {
    const identity = identifyItem(item);
    const nth = counts.get(identity) ?? 0;
    counts.set(identity, nth + 1);
    return { key: nth === 0 ? identity : `${identity} (${nth + 1})`, item, path };
  });
}

/** Where the item of a key stands now; undefined where it is gone. */
export function findPath(items: readonly AnyItem[], key: string): Path | undefined {
  return keyRows(items).find((row) => row.key === key)?.path;
}

export function* listMenuRows(items: readonly AnyItem[], above: Path = []): Generator<MenuRowItem> {
  for (const [index, item] of items.entries()) {
    const path = [...above, index];
    yield { item, path };
    yield* listMenuRows(item.children, path);
  }
}

/** The list at a path's parent, changed. */
function withList(
  items: readonly AnyItem[],
  above: Path,
  change: (list: readonly AnyItem[]) => readonly AnyItem[],
): readonly AnyItem[] {
  const [first, ...rest] = above;
  if (first === undefined) return change(items);
  return items.map((item, index) =>
    index === first ? { ...item, children: withList(item.children, rest, change) } : item,
  );
}

export function findItem(items: readonly AnyItem[], path: Path): AnyItem | undefined {
  const [first, ...rest] = path;
  const item = first === undefined ? undefined : items[first];
  return rest.length === 0 ? item : item && findItem(item.children, rest);
}

export function replaceItem(items: readonly AnyItem[], path: Path, item: AnyItem): readonly AnyItem[] {
  return withList(items, path.slice(0, -1), (list) => list.map((each, index) => (index === path.at(-1) ? item : each)));
}

export function without(items: readonly AnyItem[], path: Path): readonly AnyItem[] {
  return withList(items, path.slice(0, -1), (list) => list.filter((_, index) => index !== path.at(-1)));
}

function insertItem(items: readonly AnyItem[], path: Path, item: AnyItem): readonly AnyItem[] {
  const at = path.at(-1) ?? 0;
  return withList(items, path.slice(0, -1), (list) => [...list.slice(0, at), item, ...list.slice(at)]);
}

const countDepth = (item: AnyItem): number => 1 + Math.max(0, ...item.children.map(countDepth));

/** One step by the keyboard, as in the tree of pages; undefined where there is no place that way. */
export function moveItem(
  items: readonly AnyItem[],
  path: Path,
  key: string,
): { readonly items: readonly AnyItem[]; readonly path: Path } | undefined {
  const item = findItem(items, path);
  const above = path.slice(0, -1);
  const at = path.at(-1);
  if (!item || at === undefined) return undefined;
  const siblings = above.length === 0 ? items : (findItem(items, above)?.children ?? []);
  const to = (next: Path) => ({ items: insertItem(without(items, path), next, item), path: next });
  switch (key) {
    case 'ArrowUp':
      return at > 0 ? to([...above, at - 1]) : undefined;
    case 'ArrowDown':
      return at < siblings.length - 1 ? to([...above, at + 1]) : undefined;
    case 'ArrowRight': {
      const before = siblings[at - 1];
      return before && path.length + countDepth(item) <= MOST_DEPTH
        ? to([...above, at - 1, before.children.length])
        : undefined;
    }
    case 'ArrowLeft': {
      const parent = above.at(-1);
      return parent === undefined ? undefined : to([...above.slice(0, -1), parent + 1]);
    }
    default:
      return undefined;
  }
}
