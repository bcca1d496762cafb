/** The site's menus, out of the lists found in its pages: the same list of links on most pages of a kind. */
import { signature, type CurrentMark, type FoundItem, type FoundMenu } from './menu.ts';

/** The same list in the same place, with all pages that have it. */
export interface ListOnPages {
  readonly menu: FoundMenu;
  readonly pages: readonly string[];
}

export interface SiteMenu {
  /** Stays the same from export to export while the menu stays where it is and begins as it did. */
  readonly id: string;
  readonly way: string;
  readonly items: readonly FoundItem[];
  readonly mark: CurrentMark | undefined;
  readonly marksBranch: boolean;
  /** Pages that have exactly this list. */
  readonly pages: readonly string[];
  /** Pages with another list in its place that has most of its links: with what differs. */
  readonly differing: readonly { readonly page: string; readonly missing: readonly string[]; readonly extra: readonly string[] }[];
}

const LEAST_PAGES = 3;
/** A list on fewer of the pages that have any list in this place is a page's own. */
const LEAST_SHARE = 0.1;
/** How much of two lists has to be the same for one to be a variant of the other (Jaccard index). */
const LEAST_ALIKE = 0.5;

export function gatherMenus(lists: readonly ListOnPages[]): SiteMenu[] {
  const byWay = new Map<string, ListOnPages[]>();
  for (const list of lists) {
    const there = byWay.get(list.menu.way);
    if (there) there.push(list);
    else byWay.set(list.menu.way, [list]);
  }
  return [...byWay].flatMap(([way, there]) => menusAt(way, there)).sort((a, b) => b.pages.length - a.pages.length);
}

/** Lists by page, brought together. */
export function listsOnPages(pages: readonly { readonly page: string; readonly menus: readonly FoundMenu[] }[]): ListOnPages[] {
  const lists = new Map<string, { menu: FoundMenu; pages: string[] }>();
  for (const { page, menus } of pages) {
    for (const menu of menus) {
      const key = `${menu.way}\n${signature(menu.items)}`;
      const list = lists.get(key);
      if (!list) lists.set(key, { menu, pages: [page] });
      else {
        list.pages.push(page);
        list.menu = withMark(list.menu, menu);
      }
    }
  }
  return [...lists.values()];
}

/** How the current item is marked shows only on pages that are in the menu. */
export function withMark(menu: FoundMenu, other: FoundMenu): FoundMenu {
  return { ...menu, mark: menu.mark ?? other.mark, marksBranch: menu.marksBranch || other.marksBranch };
}

function menusAt(way: string, lists: readonly ListOnPages[]): SiteMenu[] {
  const total = lists.reduce((sum, { pages }) => sum + pages.length, 0);
  const isMenu = ({ pages }: ListOnPages) => pages.length >= LEAST_PAGES && pages.length >= total * LEAST_SHARE;
  const menus = lists.filter(isMenu).sort((a, b) => b.pages.length - a.pages.length);
  const ids = new Set<string>();
  const variants = new Map(menus.map((list) => [list, [] as SiteMenu['differing'][number][]]));
  for (const list of lists) {
    if (isMenu(list)) continue;
    const near = menus.map((other) => ({ other, share: alike(list.menu.items, other.menu.items) })).sort((a, b) => b.share - a.share)[0];
    if (!near || near.share < LEAST_ALIKE) continue;
    const wanted = near.other.menu.items;
    const [has, should] = [new Set(list.menu.items.map(({ to }) => to)), new Set(wanted.map(({ to }) => to))];
    const missing = wanted.filter(({ to }) => !has.has(to)).map(({ label }) => label);
    const extra = list.menu.items.filter(({ to }) => !should.has(to)).map(({ label }) => label);
    for (const page of list.pages) variants.get(near.other)?.push({ page, missing, extra });
  }
  return menus.map((list) => {
    const { items, mark, marksBranch } = list.menu;
    let id = `${way} ${items[0]?.to ?? ''}`;
    while (ids.has(id)) id += ' +';
    ids.add(id);
    return { id, way, items: items.map(unmarked), mark, marksBranch, pages: list.pages, differing: variants.get(list) ?? [] };
  });
}

function unmarked(item: FoundItem): FoundItem {
  return { ...item, isCurrent: false, children: item.children.map(unmarked) };
}

function alike(a: readonly FoundItem[], b: readonly FoundItem[]): number {
  const [left, right] = [new Set(a.map(({ to }) => to)), new Set(b.map(({ to }) => to))];
  const shared = [...left].filter((to) => right.has(to)).length;
  return shared / (left.size + right.size - shared || 1);
}
