/** Menus as data: found in the imported pages, edited once, written into every page that has them. */

/** Where an item leads. A page is meant by its identity, so that a later move keeps it right. */
export type MenuTarget =
  | { readonly kind: 'page'; readonly page: string }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string };

export interface MenuItem {
  readonly target: MenuTarget;
  /** What it led to in the imported pages, to find its own markup by; absent for an item added here. */
  readonly was?: string;
  /** As it stands in the menu; it may differ from the page's title. */
  readonly label: string;
  readonly newWindow: boolean;
  readonly children: readonly MenuItem[];
  /** The removal that took it out, with all below it; it keeps its place among the others. */
  readonly removed?: number;
}

/** An item as it was found in one page. */
export interface FoundItem {
  /** Address path and query inside the site, or a whole URL. */
  readonly to: string;
  readonly label: string;
  readonly newWindow: boolean;
  readonly isCurrent: boolean;
  readonly children: readonly FoundItem[];
}

/** How a page marks the item of the page one is on. */
export type CurrentMark =
  | { readonly kind: 'attribute'; readonly name: string; readonly value: string }
  | { readonly kind: 'class'; readonly name: string; readonly on: 'item' | 'link' };

/** A list of links found in one page outside its main content. */
export interface FoundMenu {
  /** The way to it from the body, `header > nav > ul`: the same on all pages of one design. */
  readonly way: string;
  readonly items: readonly FoundItem[];
  readonly mark: CurrentMark | undefined;
  /** Whether the mark stands for a whole branch too: on a page below the item's own. */
  readonly marksBranch: boolean;
}

/** All items of a menu, level by level as they are read. */
export function* allItems<I extends { readonly children: readonly I[] }>(items: readonly I[]): Generator<I> {
  for (const item of items) {
    yield item;
    yield* allItems(item.children);
  }
}

/** What a menu leads to, in order: two lists with the same signature are the same menu. */
export function signature(items: readonly FoundItem[]): string {
  return items.map(({ to, children }) => (children.length === 0 ? to : `${to}(${signature(children)})`)).join(' ');
}
