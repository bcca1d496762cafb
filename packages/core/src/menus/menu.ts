/** Menus as data: found in the imported pages, edited once, written into every page that has them. */

/** Where an item leads. A page is meant by its identity, so that a later move keeps it right. */
export type MenuTarget =
  /** Whichever page is home. */
  | { readonly kind: 'home' }
  | {
      readonly kind: 'page';
      readonly page: string;
      /** Element in it, `team` of `/about/#team`. */ readonly fragment?: string | undefined;
      /** Not the page, which is a list, but the newest entry in it. */ readonly newest?: true | undefined;
    }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string }
  /** It heads the items below it, or leads nowhere yet. */
  | { readonly kind: 'none' };

export interface MenuItem {
  readonly target: MenuTarget;
  /** Its `keyItem` in the imported pages, to find its own markup by; absent for an item added here. */
  readonly was?: string;
  /** As it stands in the menu; it may differ from the page's title. */
  readonly label: string;
  readonly newWindow: boolean;
  readonly children: readonly MenuItem[];
  /** The removal that took it out, with all below it; it keeps its place among the others. */
  readonly removed?: number;
}

/**
 * What an item is in a page. `head`: a link, button or box that leads nowhere, as those over a drop-down do;
 * `words`: no link at all, as the item of the page one is on is written in many sites (common practice).
 */
export type ItemForm = 'head' | 'words';

/** An item as it was found in one page. */
export interface FoundItem {
  /** Address path, query and fragment inside the site, or a whole URL; empty where it leads nowhere. */
  readonly to: string;
  readonly label: string;
  readonly newWindow: boolean;
  readonly isCurrent: boolean;
  readonly children: readonly FoundItem[];
  /** Absent for a link. */
  readonly form?: ItemForm;
  /** Of words, the tag they stand in, such as `b`. */
  readonly tag?: string;
}

/** How a page marks the item of the page one is on. */
export type CurrentMark =
  | { readonly kind: 'attribute'; readonly name: string; readonly value: string }
  | { readonly kind: 'class'; readonly name: string; readonly on: 'item' | 'link' }
  /** It is no link; `tag` is what its words stand in instead, such as `b`. */
  | { readonly kind: 'words'; readonly tag?: string };

/** A list of links found in one page. */
export interface FoundMenu {
  /** The way to it from the body, `header > nav > ul`: the same on all pages of one design. */
  readonly way: string;
  readonly items: readonly FoundItem[];
  readonly mark: CurrentMark | undefined;
  /** Whether the mark stands for a whole branch too: on a page below the item's own. */
  readonly marksBranch: boolean;
  /** Whether its place says that it is there for the way: in a landmark, or in a box named so. */
  readonly isBeside?: boolean;
  /** Its links open in another frame (HTML 4.01, section 16.3): a menu, although it stands on one page alone. */
  readonly opensFrame?: boolean;
}

/** All items of a menu, level by level as they are read. */
export function* walkItems<I extends { readonly children: readonly I[] }>(items: readonly I[]): Generator<I> {
  for (const item of items) {
    yield item;
    yield* walkItems(item.children);
  }
}

/** What tells an item from its neighbours in the imported pages: where it leads, or its words where it leads nowhere. */
export function keyItem({ to, label }: Pick<FoundItem, 'to' | 'label'>): string {
  return to === '' ? `~${label}` : to;
}

/** Where an item leads in one spelling: a folder's page is meant by its folder, `/visit/index.html` by `/visit/`. */
export function plainTarget(to: string): string {
  return to.startsWith('/') ? to.replace(/^([^?#]*\/)index\.html?(?=$|[?#])/i, '$1') : to;
}

/** What a menu leads to, in order: two lists with the same signature are the same menu. */
export function signItems(items: readonly FoundItem[]): string {
  return items
    .map((item) => (item.children.length === 0 ? keyItem(item) : `${keyItem(item)}(${signItems(item.children)})`))
    .join(' ');
}

/** The same of its first level alone, for menus that show only the branch one is in. */
export function signTopItems(items: readonly FoundItem[]): string {
  return items.map(keyItem).join(' ');
}

/**
 * The items of one page's menu, with those that are no links led to where their like lead on other pages: the
 * item of the page one is on is often its words alone.
 *
 * @param known of other pages' menus
 */
export function settleWords<I extends FoundItem>(items: readonly I[], known: readonly FoundItem[]): I[] {
  return items.map((item) => {
    const like =
      item.form === 'words'
        ? known.find(({ label, to, form }) => form === undefined && to !== '' && label === item.label)
        : undefined;
    const below = known.find((each) => keyItem(each) === keyItem(like ?? item))?.children ?? [];
    const children = settleWords(item.children as readonly I[], below);
    return { ...item, children, ...(like ? { to: like.to } : {}) };
  });
}
