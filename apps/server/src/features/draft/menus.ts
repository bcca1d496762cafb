/** The menus of an import, and how they stand in a draft. */
import { candidateFiles } from '@fastigium/core/address';
import { splitPath } from '@fastigium/core/html';
import {
  allItems,
  gatherMenus,
  plainTo,
  type FoundItem,
  type MenuItem,
  type SiteMenu,
  type SiteMenus,
} from '@fastigium/core/menus';
import { importedItems, planMenus, type MenuPlan } from '@fastigium/core/release';
import { draftAddress, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { pagesAt, pagesById } from './pageFiles.ts';

/** The menus of an import, and what is like them and no menu; their pages are paths in the import. */
export async function foundMenus(queries: Queries, importId: string): Promise<SiteMenus> {
  const row = await queries.maybeOne<{ found: SiteMenus }>('select found from import_menus where import_id = $1', [
    importId,
  ]);
  return row?.found ?? gatheredBefore(queries, importId);
}

export async function siteMenus(queries: Queries, importId: string): Promise<readonly SiteMenu[]> {
  return (await foundMenus(queries, importId)).menus;
}

/** Of an import that was read before menus were told from all its pages at once. */
async function gatheredBefore(queries: Queries, importId: string): Promise<SiteMenus> {
  const rows = await queries.many<{
    way: string;
    items: FoundItem[];
    mark: SiteMenu['mark'] | null;
    marksBranch: boolean;
    pages: string[];
  }>(
    `select l.way, l.items, l.mark, l.marks_branch as "marksBranch", array_agg(p.path order by p.path) as pages
       from menu_list l join menu_place p using (import_id, way, list) where l.import_id = $1 group by l.import_id, l.way, l.list order by l.way, l.list`,
    [importId],
  );
  const { menus, apart } = gatherMenus(
    rows.map(({ way, items, mark, marksBranch, pages }) => ({
      menu: { way, items, mark: mark ?? undefined, marksBranch },
      pages,
    })),
    Infinity,
  );
  // Lists in one way were numbered then, in the identities of menus too.
  const plain = (items: readonly FoundItem[]): FoundItem[] =>
    items.map((item) => ({ ...item, to: plainTo(item.to), children: plain(item.children) }));
  return {
    apart,
    menus: menus.map((menu) => ({
      ...menu,
      items: plain(menu.items),
      ways: menu.ways.map((way) => way.replace(/ \(\d+\)$/, '')),
    })),
  };
}

export interface MenusInDraft {
  readonly menus: readonly SiteMenu[];
  readonly plans: readonly MenuPlan[];
  /** The page an imported address led to. */
  readonly pageAt: (path: string) => string | undefined;
  readonly pageAddresses: ReadonlyMap<string, string>;
}

/** Those that are not as they were imported. Nothing is read where no decision can have changed a menu. */
export async function menusInDraft(queries: Queries, importId: string, draft: Draft): Promise<MenusInDraft> {
  if (draft.menus.size === 0 && draft.hidden.size === 0 && draft.notReady.size === 0 && draft.removed.size === 0)
    return { menus: [], plans: [], pageAt: () => undefined, pageAddresses: new Map() };
  const menus = await siteMenus(queries, importId);
  const pageAt = await pagesOfItems(queries, importId, menus);
  const wanted = new Set<string>();
  for (const menu of menus)
    for (const { to } of allItems(menu.items)) {
      const page = pageAt(to);
      if (page !== undefined) wanted.add(page);
    }
  for (const { items } of draft.menus.values())
    for (const { target } of allItems<MenuItem>(items)) if (target.kind === 'page') wanted.add(target.page);
  const pageAddresses = await addressesOf(queries, importId, draft, wanted);
  return { menus, plans: planMenus(draft, menus, pageAddresses, pageAt), pageAt, pageAddresses };
}

/** The items of a menu as they stand in a draft, removed ones included. */
export function itemsOf(
  draft: Draft,
  menu: SiteMenu,
  pageAt: (path: string) => string | undefined,
): readonly MenuItem[] {
  return draft.menus.get(menu.id)?.items ?? importedItems(menu, pageAt);
}

/** Which page each address of the menus leads to in the import. */
export async function pagesOfItems(
  queries: Queries,
  importId: string,
  menus: readonly Pick<SiteMenu, 'items'>[],
): Promise<(path: string) => string | undefined> {
  const addresses = new Set(
    menus.flatMap(({ items }) => [...allItems(items)].map(({ to }) => to)).filter((to) => to.startsWith('/')),
  );
  const candidates = (address: string) => {
    const [path] = splitPath(address);
    return [...candidateFiles(path), ...candidateFiles(`${path}/`)];
  };
  const files = new Map(
    (await pagesAt(queries, importId, [...addresses].flatMap(candidates))).map(({ sourcePath, id }) => [
      sourcePath,
      id,
    ]),
  );
  return (address) =>
    candidates(address)
      .map((file) => files.get(file))
      .find((id) => id !== undefined);
}

/** Addresses in the draft of some pages; those held back have none. */
export async function addressesOf(
  queries: Queries,
  importId: string,
  draft: Draft,
  ids: Iterable<string>,
): Promise<Map<string, string>> {
  const pages = await pagesById(queries, importId, draft, ids);
  return new Map(
    [...pages.values()].filter(({ id }) => !draft.notReady.has(id)).map((page) => [page.id, draftAddress(draft, page)]),
  );
}
