/** What the Pages station lists: the tree as the draft has it. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { allItems } from '@fastigium/core/menus';
import { differingShards, importedItems, parseShard, publishedPath, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import { isAdded, labelOf, siteAddress, treeRows, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { shardTexts } from '../manifests.ts';
import { compileDraft } from './compileDraft.ts';
import { listedPages, type ListedPage } from './listedPages.ts';
import { listingsInDraft } from './listings.ts';
import { menuName } from './menuNames.ts';
import { pagesOfItems, siteMenus } from './menus.ts';
import { titleEndings } from './prepare/situation.ts';

type Node = { readonly id: string; readonly address: string | undefined; readonly page?: ListedPage };

export async function pageRows(deps: Deps, site: string): Promise<{ version: number; style: Draft['style']; pages: PageRow[] }> {
  const { draft, importId, version, shards } = await compileDraft(deps, site);
  const pages = await listedPages(deps.db, importId, draft);
  const states = await statesAgainstLive(deps.db, site, shards);
  const endings = await titleEndings(deps.db, importId);
  const inMenus = await menusOfPages(deps.db, importId, draft);
  const touches = await touchesOfPages(deps.db, importId, draft);
  const listings = await listingsInDraft(deps.db, site, importId, draft);
  const nodes: Node[] = [
    ...pages.map((page) => ({ id: page.id, address: siteAddress(draft, page), page })),
    ...[...draft.nodes.values()].filter(({ kind }) => kind !== 'page').map(({ id }) => ({ id, address: undefined })),
  ];
  return {
    version, style: draft.style,
    pages: treeRows(nodes, draft.places).map(({ page: node, depth, parent }): PageRow => {
      if (!node.page) return nodeRow(draft, node.id, depth, parent);
      const { page } = node;
      const set = draft.titles.get(page.id);
      const title = set ?? page.title ?? '';
      const isReady = !draft.notReady.has(page.id);
      return {
        id: page.id, kind: 'page', sourcePath: page.sourcePath, address: draft.basePath + (node.address ?? ''), depth, parent,
        title, label: labelOf(title, endings), importedTitle: set === undefined ? null : (page.title ?? ''), language: page.language,
        isHome: node.address === '/', isAdded: isAdded(draft, page.id), isReady, inMenus: !draft.hidden.has(page.id),
        menus: inMenus.get(page.id) ?? [], date: page.date, lists: listings.get(page.id)?.plans.reduce((sum, { entries }) => sum + entries.length, 0) ?? null,
        touches: touches.get(page.id) ?? 0, state: isReady ? states(publishedPath(draft, page)) : 'new', linksIn: page.uses,
      };
    }),
  };
}

function nodeRow(draft: Draft, id: string, depth: number, parent: string | null): PageRow {
  const node = draft.nodes.get(id);
  const title = draft.titles.get(id) ?? (node && node.kind !== 'page' ? node.title : '');
  return {
    id, kind: node?.kind === 'link' ? 'link' : 'group', sourcePath: '', address: node?.kind === 'link' ? node.url : '', depth, parent, title, label: title, importedTitle: null, language: null,
    isHome: false, isAdded: true, isReady: true, inMenus: true, menus: [], date: null, lists: null, touches: 0, state: 'live', linksIn: 0,
  };
}

async function statesAgainstLive(queries: Queries, site: string, shards: ShardHashes): Promise<(path: string) => PageRow['state']> {
  const live = await queries.maybeOne<{ shards: string[] }>(
    'select r.shards from site s join release r on r.id = s.live_release where s.id = $1', [site],
  );
  if (!live) return () => 'new';
  const indices = differingShards(live.shards, shards);
  const text = await shardTexts(queries, indices.flatMap((index) => [live.shards[index], shards[index]]));
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

/** The names of the menus each page stands in, as the draft has them. */
async function menusOfPages(queries: Queries, importId: string, draft: Draft): Promise<Map<string, string[]>> {
  const menus = await siteMenus(queries, importId);
  const pageAt = await pagesOfItems(queries, importId, menus);
  const out = new Map<string, string[]>();
  for (const menu of menus) {
    const items = draft.menus.get(menu.id)?.items ?? importedItems(menu, pageAt);
    for (const { target } of allItems(items)) {
      if (target.kind !== 'page' || draft.hidden.has(target.page)) continue;
      const names = out.get(target.page) ?? [];
      const name = menuName(menu, menus);
      if (!names.includes(name)) out.set(target.page, [...names, name]);
    }
  }
  return out;
}

async function touchesOfPages(queries: Queries, importId: string, draft: Draft): Promise<Map<string, number>> {
  const out = new Map<string, number>();
  const wide: number[] = [];
  for (const [seq, { scope }] of draft.touches) {
    if (scope.kind === 'page') out.set(scope.page, (out.get(scope.page) ?? 0) + 1);
    else wide.push(seq);
  }
  if (wide.length === 0) return out;
  const rows = await queries.many<{ page: string; n: number }>('select page_id as page, count(*)::int as n from touch_place where import_id = $1 and seq = any($2) group by page_id', [importId, wide]);
  for (const { page, n } of rows) out.set(page, (out.get(page) ?? 0) + n);
  return out;
}
