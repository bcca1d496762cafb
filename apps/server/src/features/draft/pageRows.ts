/** What the Pages station lists: the tree as the draft has it. */
import type { MenuMessage } from '@fastigium/contracts/messages/names';
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import { walkItems, type MenuItem } from '@fastigium/core/menus';
import {
  findDifferingShards,
  parseShard,
  findPublishedPath,
  type ManifestEntry,
  type ShardHashes,
} from '@fastigium/core/release';
import {
  reckonDraftRows,
  isAdded,
  isOut,
  labelTitle,
  withoutNodes,
  withRemoved,
  type Draft,
  type DraftNode,
  type TreeRow,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readShardTexts } from '../shared/manifests.ts';
import { readKeptRemovals } from './keptRemovals.ts';
import { compileDraft } from './compileDraft.ts';
import { readListedPages, type ListedPage } from './listedPages.ts';
import { readListings } from './listings.ts';
import { nameMenu } from './menuNames.ts';
import { findMenuItems, readPagesOfItems, readSiteMenus } from './menus.ts';
import { readTitleEndings } from './prepare/situation.ts';

interface Shown {
  readonly draft: Draft;
  readonly endings: readonly string[];
  readonly menus: ReadonlyMap<string, readonly InMenu[]>;
  readonly touches: ReadonlyMap<string, number>;
  readonly entries: ReadonlyMap<string, number>;
  readonly stateOf: (path: string) => PageRow['state'];
  /** Pages that lead to a page, itself left out. */
  readonly linksTo: (page: ListedPage) => number;
}

export async function readPageRows(
  deps: Deps,
  site: string,
): Promise<{ version: number; style: Draft['style']; pages: PageRow[]; removed: RemovedRow[] }> {
  const { draft, importId, version, shards } = await compileDraft(deps, site);
  const pages = await readListedPages(deps.db, importId, withRemoved(draft));
  const listings = await readListings(deps.db, site, importId, draft);
  const shown: Shown = {
    draft,
    endings: await readTitleEndings(deps.db, importId),
    menus: await readMenusOfPages(deps.db, importId, draft),
    touches: await countTouchesOfPages(deps.db, importId, draft),
    entries: new Map(
      [...listings].map(([id, { plans }]) => [id, plans.reduce((sum, { entries }) => sum + entries.length, 0)]),
    ),
    stateOf: await readStatesAgainstLive(deps.db, site, shards),
    linksTo: await linkCounts(deps.db, site, draft),
  };
  const whole = reckonDraftRows(draft, pages);
  const rows = withoutNodes(whole, (id) => isOut(draft, id)).map(({ page, depth, parent }) =>
    writePageRow(shown, page, depth, parent),
  );
  return { version, style: draft.style, pages: rows, removed: await readRemovedRows(deps, site, shown, whole, rows) };
}

function writePageRow(
  shown: Shown,
  { id, address, file }: DraftNode<ListedPage>,
  depth: number,
  parent: string | null,
): PageRow {
  const { draft } = shown;
  if (!file) return writeNodeRow(draft, id, depth, parent);
  const set = draft.titles.get(id);
  const title = set ?? file.title ?? '';
  const isReady = !draft.notReady.has(id);
  const inMenus = [...(shown.menus.get(id) ?? []), ...(address === '/' ? (shown.menus.get(HOME) ?? []) : [])];
  return {
    id,
    kind: 'page',
    sourcePath: file.sourcePath,
    address: draft.basePath + (address ?? ''),
    depth,
    parent,
    title,
    label: labelTitle(title, shown.endings),
    importedTitle: set === undefined ? null : (file.title ?? ''),
    language: file.language,
    isHome: address === '/' && !isOut(draft, id),
    isAdded: isAdded(draft, id),
    isReady,
    inMenus: !draft.hidden.has(id),
    menus: [...new Map(inMenus.map(({ menu, name }) => [menu, name])).values()],
    menuWords: inMenus.map(({ menu, name, label }) => ({ menu, name, label })),
    date: file.date,
    lists: shown.entries.get(id) ?? null,
    touches: shown.touches.get(id) ?? 0,
    state: isReady && !isOut(draft, id) ? shown.stateOf(findPublishedPath(draft, file)) : 'new',
    linksIn: shown.linksTo(file),
    textOf: draft.sources.get(id)?.release ?? null,
  };
}

/** Of the draft as it was checked last; before its first check of the import, which it still is. */
async function linkCounts(queries: Queries, site: string, draft: Draft): Promise<Shown['linksTo']> {
  if (!(await queries.maybeOne('select 1 from check_state where site_id = $1', [site]))) return ({ uses }) => uses;
  const rows = await queries.many<{ path: string; pages: number }>(
    'select path, count(*)::int as pages from (select unnest(targets) as path from page_fact where site_id = $1) led group by path',
    [site],
  );
  const counts = new Map(rows.map(({ path, pages }) => [path, pages]));
  return (page) => counts.get(findPublishedPath(draft, page)) ?? 0;
}

/** Removed rows in their places: below what stands or stood above them, before what comes next and still stands. */
async function readRemovedRows(
  deps: Deps,
  site: string,
  shown: Shown,
  whole: readonly TreeRow<DraftNode<ListedPage>>[],
  standing: readonly PageRow[],
): Promise<RemovedRow[]> {
  const { draft } = shown;
  if (draft.removals.size === 0) return [];
  const removals = await readKeptRemovals(deps.db, site, draft);
  const nodes = new Map(whole.map(({ page }) => [page.id, page]));
  const depths = new Map(standing.map(({ id, depth }) => [id, depth]));
  const counts = new Map<string | null, number>();
  const out: { -readonly [K in keyof RemovedRow]: RemovedRow[K] }[] = [];
  let waiting = 0;
  for (const { page, parent } of whole) {
    const removal = draft.removed.get(page.id) ?? 0;
    const kept = removals.get(removal);
    const above = parent === null ? -1 : (depths.get(parent) ?? -1);
    if (draft.removed.has(page.id) && !kept) {
      // What was removed for good is no level any more.
      depths.set(page.id, above);
      continue;
    }
    const nth = (counts.get(parent) ?? 0) + 1;
    counts.set(parent, nth);
    if (!kept) {
      for (; waiting < out.length; waiting += 1) {
        const row = out[waiting];
        if (row) row.before = page.id;
      }
      continue;
    }
    depths.set(page.id, above + 1);
    const parentNode = parent === null ? undefined : nodes.get(parent);
    out.push({
      ...writePageRow(shown, page, above + 1, parent),
      removal,
      nth,
      under: parentNode ? writePageRow(shown, parentNode, 0, null).label : '',
      before: null,
      by: kept.by,
      at: kept.at,
      keptUntil: kept.keptUntil,
    });
  }
  return out;
}

function writeNodeRow(draft: Draft, id: string, depth: number, parent: string | null): PageRow {
  const node = draft.nodes.get(id);
  const title = draft.titles.get(id) ?? (node && node.kind !== 'page' ? node.title : '');
  return {
    id,
    kind: node?.kind === 'link' ? 'link' : 'group',
    sourcePath: '',
    address: node?.kind === 'link' ? node.url : '',
    depth,
    parent,
    title,
    label: title,
    importedTitle: null,
    language: null,
    isHome: false,
    isAdded: true,
    isReady: true,
    inMenus: true,
    menus: [],
    menuWords: [],
    date: null,
    lists: null,
    touches: 0,
    state: 'live',
    linksIn: 0,
    textOf: null,
  };
}

async function readStatesAgainstLive(
  queries: Queries,
  site: string,
  shards: ShardHashes,
): Promise<(path: string) => PageRow['state']> {
  const live = await queries.maybeOne<{ shards: string[] }>(
    'select r.shards from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  if (!live) return () => 'new';
  const indices = findDifferingShards(live.shards, shards);
  const text = await readShardTexts(
    queries,
    indices.flatMap((index) => [live.shards[index], shards[index]]),
  );
  const read = (hash: string | undefined): ManifestEntry[] => (hash ? parseShard(text(hash)) : []);
  const before = new Map(indices.flatMap((index) => read(live.shards[index])).map((entry) => [entry.path, entry.hash]));
  const after = new Map(indices.flatMap((index) => read(shards[index])).map((entry) => [entry.path, entry.hash]));
  return (path) => {
    const now = after.get(path);
    if (now === undefined) return 'live';
    const was = before.get(path);
    return was === undefined ? 'new' : was === now ? 'live' : 'changed';
  };
}

/** An item that leads to a page. */
interface InMenu {
  readonly menu: string;
  readonly name: MenuMessage;
  readonly label: string;
}

/** Stands for whichever page is home. */
const HOME = 'home';

/** The items that lead to each page, as the draft has them. */
async function readMenusOfPages(queries: Queries, importId: string, draft: Draft): Promise<Map<string, InMenu[]>> {
  const menus = await readSiteMenus(queries, importId);
  const pageAt = await readPagesOfItems(queries, importId, menus);
  const out = new Map<string, InMenu[]>();
  for (const menu of menus) {
    const items = findMenuItems(draft, menu, pageAt);
    for (const { target, label, removed } of walkItems<MenuItem>(items)) {
      const page =
        target.kind === 'home'
          ? HOME
          : target.kind === 'page' && !draft.hidden.has(target.page)
            ? target.page
            : undefined;
      if (page === undefined || removed !== undefined) continue;
      out.set(page, [...(out.get(page) ?? []), { menu: menu.id, name: nameMenu(menu, menus), label }]);
    }
  }
  return out;
}

async function countTouchesOfPages(queries: Queries, importId: string, draft: Draft): Promise<Map<string, number>> {
  const out = new Map<string, number>();
  const wide: number[] = [];
  for (const [seq, { scope }] of draft.touches) {
    if (scope.kind === 'page') out.set(scope.page, (out.get(scope.page) ?? 0) + 1);
    else wide.push(seq);
  }
  if (wide.length === 0) return out;
  const rows = await queries.many<{ page: string; n: number }>(
    'select page_id as page, count(*)::int as n from touch_place where import_id = $1 and seq = any($2) group by page_id',
    [importId, wide],
  );
  for (const { page, n } of rows) out.set(page, (out.get(page) ?? 0) + n);
  return out;
}
