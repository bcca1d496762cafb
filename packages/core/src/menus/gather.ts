/**
 * The site's menus, out of the lists of links found in its pages. Repetition is the evidence: the same links in
 * the same order at the same kind of place on several pages are a menu, whatever their markup. Ways to the page
 * before and the next one, and trails of where one is, change from page to page: they are told, and kept apart.
 */
import { findAddressOfFile } from '../address/index.ts';
import {
  keyItem,
  settleWords,
  signItems,
  signTopItems,
  type CurrentMark,
  type FoundItem,
  type FoundMenu,
} from './menu.ts';

/** The same list in the same place, with all pages that have it. */
export interface ListOnPages {
  readonly menu: FoundMenu;
  /** Paths in the import. */
  readonly pages: readonly string[];
}

export interface SiteMenu {
  /** Stays the same from export to export while the menu stays where it is and begins as it did. */
  readonly id: string;
  /** Where most pages have it, and where else it stands on others. */
  readonly way: string;
  readonly ways: readonly string[];
  readonly items: readonly FoundItem[];
  readonly mark: CurrentMark | undefined;
  readonly marksBranch: boolean;
  /** Whether each page shows only the items below the branch it is in; then the first level is the menu. */
  readonly opensBranch: boolean;
  /** Pages that have exactly this list. */
  readonly pages: readonly string[];
  /** Somebody pointed at it, since it was not found by itself. */
  readonly isPointed?: true;
  /** Pages with another list in its place that has most of its links: with what differs. */
  readonly differing: readonly {
    readonly page: string;
    readonly missing: readonly string[];
    readonly extra: readonly string[];
  }[];
}

/** Links that differ from page to page by their nature; they follow moves and are no menus. */
export interface KeptApart {
  /** `steps`: to the page before, the next one, the one above; `trail`: from the front down to the page. */
  readonly kind: 'steps' | 'trail';
  readonly way: string;
  readonly pages: number;
  /** As one of the pages has them. */
  readonly labels: readonly string[];
}

export interface SiteMenus {
  readonly menus: readonly SiteMenu[];
  readonly apart: readonly KeptApart[];
}

const LEAST_PAGES = 3;
/** A list on fewer of the pages that have any list in this place is a page's own. */
const LEAST_SHARE = 0.1;
/** How much of two lists has to be the same for one to be a variant of the other (Jaccard index). */
const LEAST_ALIKE = 0.5;
/** How much of what stands in one place has to go on from one list, for it to be a trail. */
const LEAST_RELATED = 0.8;
const MOST_STARTS = 50;
/** Fewer ways to go on may be one menu with an item more. */
const LEAST_BRANCHES = 2;
/** Where no page says that a list is there for the way, more pages have to have it. */
const LEAST_SHARE_OF_SITE = 0.02;

/** @param pagesInAll of the site, also those without any list */
export function gatherMenus(lists: readonly ListOnPages[], pagesInAll: number): SiteMenus {
  const byWay = new Map<string, ListOnPages[]>();
  for (const list of settleLists(lists)) {
    const there = byWay.get(list.menu.way);
    if (there) there.push(list);
    else byWay.set(list.menu.way, [list]);
  }
  const apart: KeptApart[] = [];
  const menus: SiteMenu[] = [];
  for (const [way, there] of byWay) {
    const kind = judgeChanging(there) ?? (isBranching(there) ? 'trail' : undefined);
    const found = kind ? [] : formMenus(way, there, pagesInAll);
    menus.push(...found);
    const pages = there.reduce((sum, list) => sum + list.pages.length, 0);
    if (found.length > 0 || pages < LEAST_PAGES) continue;
    const trail = kind ?? (isTrail(there) ? 'trail' : undefined);
    if (trail) apart.push({ kind: trail, way, pages, labels: listLabels(there) });
  }
  return { menus: withOwnIds(mergeWays(menus)).sort((a, b) => b.pages.length - a.pages.length), apart };
}

/** Lists by page, brought together. */
export function gatherLists(
  pages: readonly { readonly page: string; readonly menus: readonly FoundMenu[] }[],
): ListOnPages[] {
  const lists = new Map<string, { menu: FoundMenu; pages: Set<string> }>();
  for (const { page, menus } of pages) {
    for (const menu of menus) {
      const key = `${menu.way}\n${signItems(menu.items)}`;
      const list = lists.get(key);
      if (!list) lists.set(key, { menu, pages: new Set([page]) });
      else {
        list.pages.add(page);
        list.menu = withMark(list.menu, menu);
      }
    }
  }
  return [...lists.values()].map(({ menu, pages: on }) => ({ menu, pages: [...on] }));
}

/** How the current item is marked shows only on pages that are in the menu. */
export function withMark(menu: FoundMenu, other: FoundMenu): FoundMenu {
  return {
    ...menu,
    mark: menu.mark ?? other.mark,
    marksBranch: menu.marksBranch || other.marksBranch,
    isBeside: menu.isBeside === true || other.isBeside === true,
    ...(menu.opensFrame || other.opensFrame ? { opensFrame: true } : {}),
  };
}

/** Lists in which the item of the page one is on is no link, brought together with those of the other pages. */
function settleLists(lists: readonly ListOnPages[]): ListOnPages[] {
  const plain = lists.filter(({ menu }) => !hasWords(menu.items));
  if (plain.length === lists.length) return [...lists];
  const known = indexByLabel(lists);
  const out = new Map<string, { menu: FoundMenu; pages: string[] }>();
  const add = (menu: FoundMenu, pages: readonly string[]) => {
    const key = `${menu.way}\n${signItems(menu.items)}`;
    const there = out.get(key);
    if (!there) out.set(key, { menu, pages: [...pages] });
    else {
      there.pages.push(...pages);
      there.menu = withMark(there.menu, menu);
    }
  };
  for (const { menu, pages } of plain) add(menu, pages);
  for (const { menu, pages } of lists) {
    if (!hasWords(menu.items)) continue;
    const items = settleWords(
      menu.items,
      menu.items.flatMap(({ label }) => known.get(`${menu.way}\n${label}`) ?? []),
    );
    // Words are the page's own item only where their link leads to that very page.
    const words = items.find((item, index) => item.to !== '' && menu.items[index]?.to === '');
    const isOwn = words !== undefined && pages.some((page) => findAddressOfFile(page) === words.to);
    const mark: CurrentMark | undefined = isOwn
      ? { kind: 'words', ...(words.tag === undefined ? {} : { tag: words.tag }) }
      : undefined;
    add(isOwn ? { ...menu, items, mark: menu.mark ?? mark } : menu, pages);
  }
  return [...out.values()];
}

/** Items that are links, by way and label; of several with one label the one on most pages. */
function indexByLabel(lists: readonly ListOnPages[]): Map<string, FoundItem> {
  const counts = new Map<string, Map<string, { item: FoundItem; pages: number }>>();
  for (const { menu, pages } of lists) {
    for (const item of menu.items) {
      if (item.form !== undefined) continue;
      const key = `${menu.way}\n${item.label}`;
      const there = counts.get(key) ?? new Map<string, { item: FoundItem; pages: number }>();
      const known = there.get(item.to);
      if (known) known.pages += pages.length;
      else there.set(item.to, { item, pages: pages.length });
      counts.set(key, there);
    }
  }
  return new Map(
    [...counts].flatMap(([key, there]) => {
      const [most] = [...there.values()].sort((a, b) => b.pages - a.pages);
      return most ? [[key, most.item] as const] : [];
    }),
  );
}

function hasWords(items: readonly FoundItem[]): boolean {
  return items.some(({ form, children }) => form === 'words' || hasWords(children));
}

const compareByPages = (a: ListOnPages, b: ListOnPages) => b.pages.length - a.pages.length;

function formMenus(way: string, lists: readonly ListOnPages[], pagesInAll: number): SiteMenu[] {
  const total = lists.reduce((sum, { pages }) => sum + pages.length, 0);
  const least = Math.min(LEAST_PAGES, Math.max(1, pagesInAll));
  const isRepeated = ({ menu, pages }: ListOnPages) => {
    if (menu.opensFrame) return true;
    const isBeside = menu.isBeside !== false;
    if (pages.length < least || pages.length < total * LEAST_SHARE) return false;
    return isBeside || (pagesInAll >= LEAST_PAGES && pages.length >= pagesInAll * LEAST_SHARE_OF_SITE);
  };
  const opening = findOpeningLists(lists, isRepeated);
  const menus = [
    ...opening,
    ...lists.filter((list) => isRepeated(list) && !opening.some((open) => isSameTop(open, list))),
  ].sort(compareByPages);
  const variants = new Map(menus.map((list) => [list, [] as SiteMenu['differing'][number][]]));
  for (const list of lists) {
    if (menus.includes(list) || opening.some((open) => isSameTop(open, list))) continue;
    const near = menus
      .map((other) => ({ other, share: reckonAlikeness(list.menu.items, other.menu.items) }))
      .sort((a, b) => b.share - a.share)[0];
    if (!near || near.share < LEAST_ALIKE) continue;
    variants.get(near.other)?.push(...compareLists(list, near.other.menu.items));
  }
  return menus.map((list) => {
    const { items, mark, marksBranch } = list.menu;
    return {
      id: `${way} ${items[0]?.to || (items[0]?.label ?? '')}`,
      way,
      ways: [way],
      items: items.map(unmark),
      mark,
      marksBranch,
      opensBranch: opening.includes(list),
      pages: list.pages,
      differing: variants.get(list) ?? [],
    };
  });
}

/** The pages of a list, with what it has less and more than a menu. */
function compareLists({ menu, pages }: ListOnPages, wanted: readonly FoundItem[]): SiteMenu['differing'] {
  const [has, should] = [new Set(menu.items.map(keyItem)), new Set(wanted.map(keyItem))];
  const missing = wanted.filter((item) => !has.has(keyItem(item))).map(({ label }) => label);
  const extra = menu.items.filter((item) => !should.has(keyItem(item))).map(({ label }) => label);
  return pages.map((page) => ({ page, missing, extra }));
}

/** A list that somebody said is a menu. */
export interface PointedMenu {
  readonly way: string;
  /** As it was where it was pointed at. */
  readonly items: readonly FoundItem[];
}

/**
 * Menus with those that were pointed at, each on all pages that have it. One that was found by itself meanwhile is not
 * told twice, and one that no page has any more is not told.
 *
 * @param lists all that stand at the ways of the pointed ones, repeated or not
 */
export function withPointedMenus(
  { menus, apart }: SiteMenus,
  pointed: readonly PointedMenu[],
  lists: readonly ListOnPages[],
): SiteMenus {
  const settled = settleLists(lists);
  const more = pointed.flatMap(({ way, items }): SiteMenu[] => {
    if (menus.some((menu) => menu.ways.includes(way) && isVariant(menu.items, items))) return [];
    const variants = settled
      .filter(({ menu }) => menu.way === way && isVariant(menu.items, items))
      .sort(compareByPages);
    const [most, ...others] = variants;
    if (!most) return [];
    const marked = variants.reduce((menu, list) => withMark(menu, list.menu), most.menu);
    return [
      {
        id: `${way} ${most.menu.items[0]?.to || (most.menu.items[0]?.label ?? '')}`,
        way,
        ways: [way],
        items: most.menu.items.map(unmark),
        mark: marked.mark,
        marksBranch: marked.marksBranch,
        opensBranch: false,
        isPointed: true,
        pages: most.pages,
        differing: others.flatMap((list) => compareLists(list, most.menu.items)),
      },
    ];
  });
  return { menus: withOwnIds([...menus, ...more]), apart };
}

const isSameTop = (a: ListOnPages, b: ListOnPages): boolean =>
  signTopItems(a.menu.items) === signTopItems(b.menu.items);

/** Menus whose first level is the same while what is below it differs from page to page: trees that show the open branch. */
function findOpeningLists(lists: readonly ListOnPages[], isRepeated: (list: ListOnPages) => boolean): ListOnPages[] {
  const byTop = new Map<string, ListOnPages[]>();
  for (const list of lists) {
    const top = signTopItems(list.menu.items);
    byTop.set(top, [...(byTop.get(top) ?? []), list]);
  }
  return [...byTop.values()].flatMap((alikes) => {
    const pages = [...new Set(alikes.flatMap((list) => list.pages))];
    const [most] = [...alikes].sort(compareByPages);
    if (!most || alikes.length < 2 || most.pages.length * 2 > pages.length) return [];
    const marked = alikes.reduce((menu, list) => withMark(menu, list.menu), most.menu);
    const menu = { ...marked, items: most.menu.items.map((item) => ({ ...item, children: [] })) };
    const open: ListOnPages = { menu, pages };
    return isRepeated(open) ? [open] : [];
  });
}

/** The same menu on pages of other designs is one; where a page has it twice it is two. */
function mergeWays(menus: readonly SiteMenu[]): SiteMenu[] {
  const out: SiteMenu[] = [];
  for (const menu of [...menus].sort((a, b) => b.pages.length - a.pages.length)) {
    const pages = new Set(menu.pages);
    const same = out.findIndex(
      (other) =>
        signItems(other.items) === signItems(menu.items) &&
        other.opensBranch === menu.opensBranch &&
        !other.pages.some((page) => pages.has(page)),
    );
    const other = out[same];
    if (!other) out.push(menu);
    else {
      out[same] = {
        ...other,
        ways: [...other.ways, ...menu.ways],
        pages: [...other.pages, ...menu.pages],
        differing: [...other.differing, ...menu.differing],
        mark: other.mark ?? menu.mark,
        marksBranch: other.marksBranch || menu.marksBranch,
      };
    }
  }
  return out;
}

function withOwnIds(menus: readonly SiteMenu[]): SiteMenu[] {
  const ids = new Set<string>();
  return menus.map((menu) => {
    let { id } = menu;
    while (ids.has(id)) id += ' +';
    ids.add(id);
    return { ...menu, id };
  });
}

function unmark(item: FoundItem): FoundItem {
  const { form, tag: _, ...rest } = item;
  const bare = { ...rest, isCurrent: false, children: item.children.map(unmark) };
  // Words that were led to where their like lead are links on every page but their own.
  return form === undefined || (form === 'words' && item.to !== '') ? bare : { ...bare, form };
}

/** Whether a list is another menu's with some items more or fewer. */
export function isVariant(list: readonly FoundItem[], menu: readonly FoundItem[]): boolean {
  return reckonAlikeness(list, menu) >= LEAST_ALIKE;
}

function reckonAlikeness(a: readonly FoundItem[], b: readonly FoundItem[]): number {
  const [left, right] = [new Set(a.map(keyItem)), new Set(b.map(keyItem))];
  const shared = [...left].filter((key) => right.has(key)).length;
  return shared / (left.size + right.size - shared || 1);
}

/** Whether lists in one place have an item that is called the same on most pages and leads elsewhere on each. */
function judgeChanging(lists: readonly ListOnPages[]): 'steps' | undefined {
  const total = lists.reduce((sum, { pages }) => sum + pages.length, 0);
  const places = new Map<string, Map<string, number>>();
  for (const { menu, pages } of lists) {
    for (const { label, to } of new Map(menu.items.map((item) => [item.label, item])).values()) {
      if (to === '') continue;
      const tos = places.get(label) ?? new Map<string, number>();
      tos.set(to, (tos.get(to) ?? 0) + pages.length);
      places.set(label, tos);
    }
  }
  for (const tos of places.values()) {
    const on = [...tos.values()].reduce((sum, count) => sum + count, 0);
    if (on >= LEAST_PAGES && on * 2 >= total && tos.size >= LEAST_PAGES && tos.size * 2 >= on) return 'steps';
  }
  return undefined;
}

/** Whether lists in one place all begin alike and each goes on to another end. */
function isTrail(lists: readonly ListOnPages[]): boolean {
  const total = lists.reduce((sum, { pages }) => sum + pages.length, 0);
  const starts = new Map<string, number>();
  const ends = new Set<string>();
  for (const { menu, pages } of lists) {
    const [first, last] = [menu.items[0], menu.items.at(-1)];
    if (!first || !last) continue;
    starts.set(keyItem(first), (starts.get(keyItem(first)) ?? 0) + pages.length);
    ends.add(keyItem(last));
  }
  return Math.max(0, ...starts.values()) >= total * 0.8 && ends.size >= LEAST_PAGES;
}

/**
 * Whether lists in one place go on from one another: the whole of one is the beginning of several that part behind it,
 * as the ways down to pages of several folders do.
 */
function isBranching(lists: readonly ListOnPages[]): boolean {
  const keyed = lists.map(({ menu, pages }) => ({ keys: menu.items.map(keyItem), pages: pages.length }));
  const total = keyed.reduce((sum, { pages }) => sum + pages, 0);
  if (lists.some(({ menu }) => menu.items.some(({ children }) => children.length > 0))) return false;
  // The beginning is on many pages, or it is none.
  const starts = [...keyed].sort((a, b) => b.pages - a.pages).slice(0, MOST_STARTS);
  return starts.some(({ keys: start }) => {
    const goingOn = keyed.filter(({ keys }) => start.every((key, at) => key === keys[at]));
    if (goingOn.reduce((sum, { pages }) => sum + pages, 0) < total * LEAST_RELATED) return false;
    const next = new Set(goingOn.flatMap(({ keys }) => keys[start.length] ?? []));
    return next.size >= LEAST_BRANCHES;
  });
}

function listLabels(lists: readonly ListOnPages[]): string[] {
  const [first] = [...lists].sort((a, b) => b.menu.items.length - a.menu.items.length);
  return (first?.menu.items ?? []).slice(0, 6).map(({ label }) => label);
}
