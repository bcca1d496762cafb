/** Rows of the tree with the removed ones in their places. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';

export type TreeEntry = PageRow | RemovedRow;

export function isRemoved(row: TreeEntry): row is RemovedRow {
  return 'removal' in row;
}

/** @param removed in the tree's order, each before the row it names */
export function putInPlace(pages: readonly PageRow[], removed: readonly RemovedRow[]): TreeEntry[] {
  if (removed.length === 0) return [...pages];
  const before = new Map<string | null, RemovedRow[]>();
  for (const row of removed) {
    const list = before.get(row.before);
    if (list) list.push(row);
    else before.set(row.before, [row]);
  }
  return [...pages.flatMap((page): TreeEntry[] => [...(before.get(page.id) ?? []), page]), ...(before.get(null) ?? [])];
}
