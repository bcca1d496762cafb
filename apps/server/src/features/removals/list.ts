/** Everything that is removed and can be put back. */
import type { PersonRef } from '@fastigium/contracts/api/common';
import type { MenuMessage } from '@fastigium/contracts/messages/names';
import { standIn, stood, type StoodMessage } from '@fastigium/contracts/messages/removal';
import type { RemovalList, RemovalRow } from '@fastigium/contracts/api/removals';
import { findAddressOfFile } from '@fastigium/core/address';
import {
  findDraftAddress,
  reckonDraftRows,
  labelTitle as titleLabel,
  NOTICE_DAYS,
  findStandIn,
  withRemoved,
  type Draft,
  type DraftNode,
  type Removal,
  type TreeRow,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readListedPages, type ListedPage } from '../draft/listedPages.ts';
import { nameMenu } from '../draft/menuNames.ts';
import { readSiteMenus } from '../draft/menus.ts';
import { readTitleEndings } from '../draft/prepare/situation.ts';
import { readKeepingRule, readKeptRemovals, readPeople, type Kept } from '../draft/keptRemovals.ts';
import { openDraft } from '../draft/openDraft.ts';
import { labelRemoval } from './words.ts';

const DAY_MS = 24 * 60 * 60 * 1000;

/** What messages about removals are made of. */
export interface Known {
  readonly draft: Draft;
  readonly whole: readonly TreeRow<DraftNode<ListedPage>>[];
  readonly byId: ReadonlyMap<string, TreeRow<DraftNode<ListedPage>>>;
  readonly nth: ReadonlyMap<string, number>;
  readonly nameOf: (id: string) => string;
  readonly menuNames: ReadonlyMap<string, MenuMessage>;
}

export async function readRemovalList(deps: Deps, site: string): Promise<RemovalList> {
  const { db } = deps;
  const { draft, importId, version } = await openDraft(db, site);
  const known = await readKnown(db, importId, draft);
  const kept = await readKeptRemovals(db, site, draft);
  const holders = await readPeople(
    db,
    site,
    [...draft.removals.values()].flatMap(({ held }) => (held ? [held.seq] : [])),
  );
  const asked = await readVisits(
    db,
    site,
    [...draft.removals.values()].flatMap((removal) => listAddresses(known, removal)),
  );
  const rows = [...draft.removals.values()].reverse().flatMap((removal): RemovalRow[] => {
    const keptFor = kept.get(removal.seq);
    return keptFor ? [writeRow(known, removal, keptFor, removal.held && holders.get(removal.held.seq), asked)] : [];
  });
  const { keptDays } = await readKeepingRule(db, site);
  const soon = new Date(deps.world.clock.nowMs() + NOTICE_DAYS * DAY_MS).toISOString();
  return {
    version,
    keptDays,
    sweptSoon: rows.filter(({ keptUntil }) => keptUntil !== null && keptUntil <= soon).length,
    rows,
  };
}

export async function readKnown(db: Queries, importId: string, draft: Draft): Promise<Known> {
  const pages = await readListedPages(db, importId, withRemoved(draft));
  const whole = reckonDraftRows(draft, pages);
  const byId = new Map(whole.map((row) => [row.page.id, row]));
  const endings = await readTitleEndings(db, importId);
  const menus = await readSiteMenus(db, importId);
  const counts = new Map<string | null, number>();
  const nth = new Map<string, number>();
  for (const { page, parent } of whole) {
    if (draft.removed.has(page.id) && !draft.removals.has(draft.removed.get(page.id) ?? 0)) continue;
    counts.set(parent, (counts.get(parent) ?? 0) + 1);
    nth.set(page.id, counts.get(parent) ?? 0);
  }
  return {
    draft,
    whole,
    byId,
    nth,
    menuNames: new Map(menus.map((menu) => [menu.id, nameMenu(menu, menus)])),
    nameOf: (id) => {
      const node = draft.nodes.get(id);
      const file = byId.get(id)?.page.file;
      return (
        titleLabel(
          draft.titles.get(id) ?? (node && node.kind !== 'page' ? node.title : (file?.title ?? '')),
          endings,
        ) || (file ? findDraftAddress(draft, file) : '')
      );
    },
  };
}

function writeRow(
  known: Known,
  removal: Removal,
  { by, at, keptUntil }: Kept,
  holder: PersonRef | undefined,
  asked: ReadonlyMap<string, Asked>,
): RemovalRow {
  const { thing, left } = removal;
  const root = thing.kind === 'nodes' ? (left[0] ?? thing.nodes[0] ?? '') : undefined;
  const asks = listAddresses(known, removal).flatMap((address) => asked.get(address) ?? []);
  const visits = asks.flatMap((each) => each.visits ?? []);
  const last = asks
    .map(({ lastSeen }) => lastSeen?.toISOString() ?? '')
    .filter((instant) => instant > at)
    .sort()
    .at(-1);
  return {
    of: removal.seq,
    kind: judgeKind(known, removal),
    label: labelRemoval(known, removal),
    from: describeStoodAt(known, removal),
    address: listAddresses(known, removal)[0] ?? null,
    page: root !== undefined ? root : thing.kind === 'section' ? thing.page : null,
    by,
    at,
    why: removal.why,
    standsIn: describeStandIn(known, removal),
    size:
      thing.kind === 'nodes'
        ? thing.nodes.length
        : thing.kind === 'redirects'
          ? thing.froms.length + thing.patterns.length
          : 1,
    left: thing.kind === 'nodes' ? left.length : 1,
    visits: visits.length === 0 ? null : visits.reduce((sum, each) => sum + each, 0),
    askedSince: last ?? null,
    keptUntil,
    held: removal.held && holder ? { reason: removal.held.reason, by: holder } : null,
  };
}

function judgeKind({ draft }: Known, { thing, left }: Removal): RemovalRow['kind'] {
  if (thing.kind !== 'nodes') return thing.kind === 'menu-item' ? 'menu item' : thing.kind;
  const node = draft.nodes.get(left[0] ?? '');
  return thing.nodes.length > 1 ? 'branch' : node && node.kind !== 'page' ? node.kind : 'page';
}

function describeStoodAt({ byId, nth, nameOf, menuNames }: Known, { thing, left }: Removal): StoodMessage {
  switch (thing.kind) {
    case 'nodes': {
      const root = left[0] ?? thing.nodes[0] ?? '';
      const parent = byId.get(root)?.parent ?? null;
      const place = nth.get(root);
      if (parent === null) return place === undefined ? stood('at-top') : stood('nth-at-top', { nth: place });
      const name = nameOf(parent);
      return place === undefined ? stood('under', { name }) : stood('nth-under', { nth: place, name });
    }
    case 'section':
      return stood('in-page', { name: nameOf(thing.page) });
    case 'file':
      return thing.path.includes('/')
        ? stood('in-folder', { folder: `/${thing.path.slice(0, thing.path.lastIndexOf('/'))}/` })
        : stood('at-root');
    case 'menu-item': {
      const menu = menuNames.get(thing.menu);
      return menu ? stood('in-menu', { menu }) : stood('in-lost-menu');
    }
    case 'redirects':
      return stood('among-redirects');
  }
}

function describeStandIn({ draft, nameOf }: Known, removal: Removal): RemovalRow['standsIn'] {
  if (removal.thing.kind !== 'nodes' && removal.thing.kind !== 'file') return null;
  const standsIn = findStandIn(draft, removal);
  switch (standsIn.kind) {
    case 'none':
      return standIn('nothing');
    case 'gone':
      return standIn('gone');
    case 'home':
      return standIn('home');
    case 'page':
      return standIn('page', { name: nameOf(standsIn.page) });
  }
}

function listAddresses({ draft, byId }: Known, { thing, left }: Removal): string[] {
  if (thing.kind === 'file') return [draft.basePath + findAddressOfFile(thing.path)];
  return left.flatMap((id) => {
    const file = byId.get(id)?.page.file;
    return file ? [findDraftAddress(draft, file)] : [];
  });
}

interface Asked {
  readonly visits: number | null;
  readonly lastSeen: Date | null;
}

export async function readVisits(
  queries: Queries,
  site: string,
  addresses: readonly string[],
): Promise<Map<string, Asked>> {
  const rows = await queries.many<{ address: string; visits: number | null; lastSeen: Date | null }>(
    'select address, visits, last_seen as "lastSeen" from old_address where site_id = $1 and address = any($2)',
    [site, addresses],
  );
  return new Map(rows.map((row) => [row.address, row]));
}
