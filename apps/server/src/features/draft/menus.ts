/** The menus of an import, and how they stand in a draft. */
import { listCandidateFiles } from '@fastigium/core/address';
import { splitPath } from '@fastigium/core/html';
import {
  walkItems,
  gatherMenus,
  plainTarget,
  type FoundItem,
  type MenuItem,
  type SiteMenu,
  type SiteMenus,
} from '@fastigium/core/menus';
import { readImportedItems, planMenus, type MenuPlan } from '@fastigium/core/release';
import { findDraftAddress, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readPagesAt, readPagesById } from './pageFiles.ts';

/** The menus of an import, and what is like them and no menu; their pages are paths in the import. */
export async function readFoundMenus(queries: Queries, importId: string): Promise<SiteMenus> {
  const row = await queries.maybeOne<{ found: SiteMenus }>('select found from import_menus where import_id = $1', [
    importId,
  ]);
  return row?.found ?? readGatheredBefore(queries, importId);
}

export async function readSiteMenus(queries: Queries, importId: string): Promise<readonly SiteMenu[]> {
  return (await readFoundMenus(queries, importId)).menus;
}

/** Of an import that was read before menus were told from all its pages at once. */
async function readGatheredBefore(queries: Queries, importId: string): Promise<SiteMenus> {
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
    items.map((item) => ({ ...item, to: plainTarget(item.to), children: plain(item.children) }));
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
export async function readMenusInDraft(queries: Queries, importId: string, draft: Draft): Promise<MenusInDraft> {
  if (draft.menus.size === 0 && draft.hidden.size === 0 && draft.notReady.size === 0 && draft.removed.size === 0)
    return { menus: [], plans: [], pageAt: () => undefined, pageAddresses: new Map() };
  const menus = await readSiteMenus(queries, importId);
  const pageAt = await readPagesOfItems(queries, importId, menus);
  const wanted = new Set<string>();
  for (const menu of menus)
    for (const { to } of walkItems(menu.items)) {
      const page = pageAt(to);
      if (page !== undefined) wanted.add(page);
    }
  for (const { items } of draft.menus.values())
    for (const { target } of walkItems<MenuItem>(items)) if (target.kind === 'page') wanted.add(target.page);
  const pageAddresses = await readAddresses(queries, importId, draft, wanted);
  return { menus, plans: planMenus(draft, menus, pageAddresses, pageAt), pageAt, pageAddresses };
}

/** The items of a menu as they stand in a draft, removed ones included. */
export function findMenuItems(
  draft: Draft,
  menu: SiteMenu,
  pageAt: (path: string) => string | undefined,
): readonly MenuItem[] {
  return draft.menus.get(menu.id)?.items ?? readImportedItems(menu, pageAt);
}

/** Which page each address of the menus leads to in the import. */
export async function readPagesOfItems(
  queries: Queries,
  importId: string,
  menus: readonly Pick<SiteMenu, 'items'>[],
): Promise<(path: string) => string | undefined> {
  const addresses = new Set(
    menus.flatMap(({ items }) => [...walkItems(items)].map(({ to }) => to)).filter((to) => to.startsWith('/')),
  );
  const candidates = (address: string) => {
    const [path] = splitPath(address);
    return [...listCandidateFiles(path), ...listCandidateFiles(`${path}/`)];
  };
  const files = new Map(
    (await readPagesAt(queries, importId, [...addresses].flatMap(candidates))).map(({ sourcePath, id }) => [
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
export async function readAddresses(
  queries: Queries,
  importId: string,
  draft: Draft,
  ids: Iterable<string>,
): Promise<Map<string, string>> {
  const pages = await readPagesById(queries, importId, draft, ids);
  return new Map(
    [...pages.values()]
      .filter(({ id }) => !draft.notReady.has(id))
      .map((page) => [page.id, findDraftAddress(draft, page)]),
  );
}
