/** Pages in their tree: by their addresses, and where people put them. */
import { stripAddressEnding } from '../address/index.ts';
import type { Place } from './nodes.ts';
import type { PageId } from './pageId.ts';

export interface TreeNode {
  readonly id: PageId;
  /** Undefined for a group or an outside link, which have none here. */
  readonly address: string | undefined;
}

export interface TreeRow<N> {
  readonly page: N;
  /** 0 for the top. */
  readonly depth: number;
  readonly parent: PageId | null;
}

/** In the order they were decided; a node may be placed more than once. */
export type Places = Iterable<readonly [PageId, Place]>;

/**
 * Rows in tree order. What nobody placed stands by its address: the home page first, then each page
 * behind the nearest one above it. Folders without a page of their own add no level, since there is
 * nothing to show there.
 *
 * @param places one after the other, each on what the ones before it made. One whose parent is gone, or
 *   that would make a page stand below itself, does not count; one whose sibling is gone puts the page
 *   at the end.
 */
export function reckonTreeRows<N extends TreeNode>(nodes: readonly N[], places: Places = []): TreeRow<N>[] {
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const sorted = sortByAddress(nodes);
  const parents = findParentsByAddress(sorted);
  const children = new Map<PageId | null, PageId[]>();
  const listOf = (parent: PageId | null) => {
    const list = children.get(parent) ?? [];
    children.set(parent, list);
    return list;
  };
  for (const { id } of sorted) listOf(parents.get(id) ?? null).push(id);
  for (const [id, { parent, after }] of places) {
    if (!byId.has(id) || (parent !== null && !byId.has(parent)) || isBelow(parents, parent, id)) continue;
    const from = listOf(parents.get(id) ?? null);
    from.splice(from.indexOf(id), 1);
    parents.set(id, parent);
    const to = listOf(parent);
    const before = after === null ? -1 : to.indexOf(after);
    to.splice(after !== null && before < 0 ? to.length : before + 1, 0, id);
  }
  const rows: TreeRow<N>[] = [];
  const stack = [{ parent: null as PageId | null, depth: 0, list: children.get(null) ?? [], at: 0 }];
  for (let level = stack.at(-1); level; level = stack.at(-1)) {
    const id = level.list[level.at];
    if (id === undefined) {
      stack.pop();
      continue;
    }
    level.at += 1;
    const page = byId.get(id);
    if (page) rows.push({ page, depth: level.depth, parent: level.parent });
    const below = children.get(id);
    if (below) stack.push({ parent: id, depth: level.depth + 1, list: below, at: 0 });
  }
  return rows;
}

/**
 * The tree without some of its nodes. What they held moves up, in their place, to the nearest node above
 * that stays; so everybody who stays keeps the order among those who stay, and a node that comes in again
 * is where it was.
 */
export function withoutNodes<N extends TreeNode>(
  rows: readonly TreeRow<N>[],
  isOut: (id: PageId) => boolean,
): TreeRow<N>[] {
  const standing = new Map<PageId, { readonly parent: PageId | null; readonly depth: number }>();
  const top = { parent: null, depth: 0 };
  return rows.flatMap(({ page, parent }) => {
    const here = (parent === null ? undefined : standing.get(parent)) ?? top;
    if (isOut(page.id)) {
      standing.set(page.id, here);
      return [];
    }
    standing.set(page.id, { parent: page.id, depth: here.depth + 1 });
    return [{ page, depth: here.depth, parent: here.parent }];
  });
}

/** Whether a node stands at or below another, following parents. */
function isBelow(parents: ReadonlyMap<PageId, PageId | null>, node: PageId | null, above: PageId): boolean {
  for (let at = node; at !== null; at = parents.get(at) ?? null) if (at === above) return true;
  return false;
}

/** @param sorted by address */
function findParentsByAddress(sorted: readonly TreeNode[]): Map<PageId, PageId | null> {
  const parents = new Map<PageId, PageId | null>();
  const open: { id: PageId; stem: string }[] = [];
  for (const { id, address } of sorted) {
    if (address === undefined) {
      parents.set(id, null);
      continue;
    }
    const stem = stripAddressEnding(address);
    while (open.length > 0 && !stem.startsWith(`${open.at(-1)?.stem ?? ''}/`)) open.pop();
    parents.set(id, open.at(-1)?.id ?? null);
    // "/" is the home page, not the parent of everything: the tree would gain a level and no order.
    if (address !== '/') open.push({ id, stem });
  }
  return parents;
}

function sortByAddress<N extends TreeNode>(nodes: readonly N[]): N[] {
  const keyed = nodes.map((node) => ({
    node,
    parts:
      node.address === undefined
        ? undefined
        : node.address === '/'
          ? ['']
          : stripAddressEnding(node.address).split('/'),
  }));
  return keyed.sort((a, b) => compareParts(a.parts, b.parts)).map(({ node }) => node);
}

/** Segment by segment, so that `/a-b/` does not fall between `/a/` and `/a/c/`; what has no address comes last. */
function compareParts(left: readonly string[] | undefined, right: readonly string[] | undefined): number {
  if (!left || !right) return left ? -1 : right ? 1 : 0;
  for (let i = 0; i < Math.min(left.length, right.length); i += 1) {
    const [x = '', y = ''] = [left[i], right[i]];
    if (x !== y) return x < y ? -1 : 1;
  }
  return left.length - right.length;
}
