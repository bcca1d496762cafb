/** Menus that were not found by themselves: somebody points at one, and it is found on all pages that have it. */
import type { PointedList } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import type { MenuMessage } from '@fastigium/contracts/messages/names';
import { isPageFile } from '@fastigium/core/address';
import { parsePage, type PageDocument } from '@fastigium/core/html';
import {
  isVariant,
  gatherLists,
  findMenuAt,
  withPointedMenus,
  type FoundMenu,
  type ListOnPages,
  type PointedMenu,
  type SiteMenu,
  type SiteMenus,
} from '@fastigium/core/menus';
import { findWrittenFrom } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { stripMenu } from '../../threads/tasks.ts';
import { readContentsByHash } from '../shared/contents.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { openPage } from './openPage.ts';
import { nameMenu } from './menuNames.ts';
import { compileSoon } from './record.ts';
import { readFoundMenus } from './menus.ts';

/** Pages read at once. */
const AT_ONCE = 64;

/** The list of links around a place of a page, and the menu it is, if it is one. */
export async function listAround(
  queries: Queries,
  importId: string,
  document: PageDocument,
  at: { readonly page: string; readonly start: number },
): Promise<PointedList | null> {
  const place = findMenuAt(document, at.page, at.start);
  // What only leads about in the page itself is its table of contents.
  if (!place || place.items.every(({ to }) => to.replace(/#.*$/s, '') === at.page)) return null;
  const { menus } = await readFoundMenus(queries, importId);
  const menu = findMenu(menus, place);
  return {
    labels: place.items.map(({ label }) => label),
    menu: menu ? { id: menu.id, name: nameMenu(menu, menus) } : null,
  };
}

const findMenu = (menus: readonly SiteMenu[], list: FoundMenu): SiteMenu | undefined =>
  menus.find(({ ways, items }) => ways.includes(list.way) && isVariant(list.items, items));

/** Makes the list around a place a menu on all pages that have it. @returns what it is called, and how many they are */
export async function pointAtMenu(
  deps: Deps,
  site: string,
  by: string,
  { page: id, start }: { readonly page: string; readonly start: number },
): Promise<{ id: string; name: MenuMessage; pages: number }> {
  const { page, bytes, importId } = await openPage(deps.db, site, id);
  const place = findMenuAt(parsePage(bytes), findWrittenFrom(page), start);
  if (!place) throw new DomainError('no-menu-here');
  const { way, items } = stripMenu(place);
  const lists = await findPointedLists(deps, importId, [{ way, items }]);
  return deps.db.transaction(async (tx) => {
    await tx.run('select 1 from site where id = $1 for no key update', [site]);
    const { currentImport } = await readSiteState(tx, site);
    if (currentImport !== importId) throw new DomainError('draft-stale');
    const before = await readFoundMenus(tx, importId);
    const known = findMenu(before.menus, place);
    if (known) return { id: known.id, name: nameMenu(known, before.menus), pages: known.pages.length };
    const found = withPointedMenus(before, [{ way, items }], lists);
    const menu = findMenu(found.menus, place);
    if (!menu) throw new DomainError('no-menu-here');
    await tx.run('insert into pointed_menu (site_id, way, items, by) values ($1, $2, $3, $4)', [
      site,
      way,
      JSON.stringify(items),
      by,
    ]);
    await keepFound(tx, importId, found);
    await compileAnew(tx, site, by);
    return { id: menu.id, name: nameMenu(menu, found.menus), pages: menu.pages.length };
  });
}

/** A menu that was pointed at is none any more; one that was changed has to be as it was imported first. */
export async function letGoOfMenu(deps: Deps, site: string, by: string, id: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('select 1 from site where id = $1 for no key update', [site]);
    const { currentImport: importId } = await readSiteState(tx, site);
    if (importId === null) throw new DomainError('nothing-imported');
    const found = await readFoundMenus(tx, importId);
    const menu = found.menus.find((each) => each.id === id && each.isPointed);
    if (!menu) throw new DomainError('menu-unknown');
    if ((await readLatestDraft(tx, site)).menus.has(id)) throw new DomainError('menu-changed');
    for (const { id: row, way, items } of await readPointedMenus(tx, site))
      if (menu.ways.includes(way) && isVariant(menu.items, items))
        await tx.run('delete from pointed_menu where id = $1', [row]);
    await keepFound(tx, importId, { ...found, menus: found.menus.filter((each) => each !== menu) });
    await compileAnew(tx, site, by);
  });
}

/** Pages removed or held back leave a menu that was none before; nothing that was compiled knows of it. */
async function compileAnew(tx: Queries, site: string, by: string): Promise<void> {
  const { version } = await readSiteState(tx, site);
  await tx.run('delete from draft where site_id = $1', [site]);
  await announce(tx, { kind: 'draft', site, version, by: '' });
  await compileSoon(tx, site, by);
}

/** Finds the menus that were pointed at in earlier exports in the pages of another one. */
export async function findPointedMenus(deps: Deps, importId: string, signal: AbortSignal): Promise<void> {
  const { site } = await deps.db.one<{ site: string }>('select site_id as site from import where id = $1', [importId]);
  const pointed = await readPointedMenus(deps.db, site);
  if (pointed.length === 0) return;
  const lists = await findPointedLists(deps, importId, pointed, signal);
  await keepFound(deps.db, importId, withPointedMenus(await readFoundMenus(deps.db, importId), pointed, lists));
}

const readPointedMenus = (
  queries: Queries,
  site: string,
): Promise<(PointedMenu & { id: string } & Record<string, unknown>)[]> =>
  queries.many('select id, way, items from pointed_menu where site_id = $1 order by id', [site]);

async function keepFound(queries: Queries, importId: string, found: SiteMenus): Promise<void> {
  await queries.run(
    'insert into import_menus (import_id, found) values ($1, $2) on conflict (import_id) do update set found = $2',
    [importId, JSON.stringify(found).replaceAll('\\u0000', '')],
  );
}

/** All lists at the ways of menus that were pointed at, on all pages of an import. */
async function findPointedLists(
  deps: Deps,
  importId: string,
  pointed: readonly PointedMenu[],
  signal?: AbortSignal,
): Promise<ListOnPages[]> {
  const ways = new Set(pointed.map(({ way }) => way));
  // While an import is read, its pages have no identities yet.
  const pages = (
    await deps.db.many<{ path: string; hash: string }>(
      'select path, hash from source_file where import_id = $1 order by path',
      [importId],
    )
  ).filter(({ path }) => isPageFile(path));
  const found: { page: string; menus: readonly FoundMenu[] }[] = [];
  for (let from = 0; from < pages.length; from += AT_ONCE) {
    const batch = pages.slice(from, from + AT_ONCE);
    const contents = await readContentsByHash(
      deps.db,
      batch.map(({ hash }) => hash),
    );
    const read = batch.flatMap(({ path, hash }) => {
      const bytes = contents.get(hash);
      return bytes ? [{ path, bytes }] : [];
    });
    const lists = await deps.threads.findListsAt(read, ways, signal);
    found.push(...read.map(({ path }, index) => ({ page: path, menus: lists[index] ?? [] })));
  }
  return gatherLists(found);
}
