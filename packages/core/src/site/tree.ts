/** Pages in their tree, made from their addresses. */

export interface TreeRow<P> {
  readonly page: P;
  /** 0 for the top. */
  readonly depth: number;
}

/**
 * Rows in tree order: the home page first, then by address, each page right behind the nearest page
 * above it. Folders without a page of their own add no level, since there is nothing to show there.
 */
export function treeRows<P extends { readonly address: string }>(pages: readonly P[]): TreeRow<P>[] {
  const sorted = [...pages].sort((a, b) => compareAddresses(a.address, b.address));
  const open: string[] = [];
  return sorted.map((page) => {
    while (open.length > 0 && !isInside(page.address, open.at(-1) ?? '')) open.pop();
    const depth = open.length;
    // "/" is the home page, not the parent of everything: the tree would gain a level and no order.
    if (page.address !== '/') open.push(page.address);
    return { page, depth };
  });
}

function isInside(address: string, parent: string): boolean {
  return parent.endsWith('/') && address !== parent && address.startsWith(parent);
}

/** Segment by segment, so that `/a-b/` does not fall between `/a/` and `/a/c/`. */
function compareAddresses(a: string, b: string): number {
  const left = a.split('/');
  const right = b.split('/');
  for (let i = 0; i < Math.min(left.length, right.length); i += 1) {
    const [x = '', y = ''] = [left[i], right[i]];
    if (x !== y) return x < y ? -1 : 1;
  }
  return left.length - right.length;
}
