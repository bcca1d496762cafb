/** Removing: what goes, what takes over, and where its addresses lead meanwhile. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { RemoveRequest } from '@fastigium/contracts/decisions/removals';
import { DomainError } from '@fastigium/contracts/errors';
import { thing as named } from '@fastigium/contracts/messages/names';
import { sectionNamed, parsePage } from '@fastigium/core/html';
import type { MenuItem } from '@fastigium/core/menus';
import type { Message } from '@fastigium/core/messages';
import { importedItems } from '@fastigium/core/release';
import {
  sectionKey,
  siteAddress,
  type Decision,
  type HomeChoice,
  type RemovedThing,
  type StandIn,
} from '@fastigium/core/site';
import { contentBytes } from '../../shared/contents.ts';
import { planOne } from '../compileOne.ts';
import { labelOfSection } from '../sectionsNow.ts';
import { menuName } from '../menuNames.ts';
import { pagesOfItems, siteMenus } from '../menus.ts';
import { pagesById } from '../pageFiles.ts';
import { prepareHome } from './home.ts';
import { draftTree, nameOf, nodeName, pageOf, type DraftTree, type Prepared, type Situation } from './situation.ts';

/** What a request takes out, and what it is called. */
export interface Going {
  readonly thing: RemovedThing;
  readonly label: string;
  readonly message: Message;
  /** How much goes with it, where it is a branch. */
  readonly below?: number;
  /** Of a menu item: the menu with it marked. */
  readonly menu?: { readonly items: readonly MenuItem[]; readonly whereItDiffers: boolean };
}

export async function prepareRemove(situation: Situation, request: RemoveRequest): Promise<Prepared> {
  const going = await whatGoes(situation, request.thing);
  const home = going.thing.kind === 'nodes' ? await nextHome(situation, going.thing.nodes, request.newHome) : undefined;
  const standIn = await standInFor(situation, going.thing, request.standIn);
  const decision: Decision = {
    kind: 'removed',
    thing: going.thing,
    atMs: situation.deps.world.clock.nowMs(),
    why: request.why,
    standIn,
    links: request.links,
    ...(home ? { home } : {}),
    ...(going.menu ? { menu: going.menu } : {}),
  };
  return {
    decision,
    message: decided('removed', {
      thing: going.message,
      below: going.below ?? 0,
      leads: standIn.kind === 'none' ? 'nowhere' : standIn.kind,
      page: standIn.kind === 'page' ? await nameOf(situation, await pageOf(situation, standIn.page)) : '',
      newHome: home ? 'yes' : 'no',
      home: home ? await nameOf(situation, await pageOf(situation, home.page)) : '',
    }),
  };
}

export async function whatGoes(situation: Situation, thing: RemoveRequest['thing']): Promise<Going> {
  switch (thing.kind) {
    case 'node':
      return nodesGoing(situation, thing);
    case 'section':
      return sectionGoing(situation, thing);
    case 'file':
      return fileGoing(situation, thing.address);
    case 'menu-item':
      return itemGoing(situation, thing);
    case 'redirects':
      return redirectsGoing(situation, thing);
  }
}

type Wanted<K extends RemoveRequest['thing']['kind']> = Extract<RemoveRequest['thing'], { kind: K }>;

async function nodesGoing(situation: Situation, { node, alone }: Wanted<'node'>): Promise<Going> {
  if (situation.draft.removed.has(node)) throw new DomainError('already-removed');
  const tree = await draftTree(situation);
  const nodes = alone
    ? tree.rows.filter(({ page }) => page.id === node).map(({ page }) => page.id)
    : branchOf(tree, node);
  if (nodes.length === 0) throw new DomainError('not-found', { what: 'page' });
  const gone = new Set(nodes);
  if (![...tree.pages.keys()].some((id) => !gone.has(id))) throw new DomainError('last-page');
  const label = await nodeName(situation, tree, node);
  const below = nodes.length - 1;
  return {
    thing: { kind: 'nodes', nodes },
    label,
    message: named('named', { label }),
    below,
  };
}

/** What stands at and below a node, in tree order. */
export function branchOf({ rows }: DraftTree, node: string): string[] {
  const at = rows.findIndex(({ page }) => page.id === node);
  const root = rows[at];
  if (!root) return [];
  let end = at + 1;
  while ((rows[end]?.depth ?? 0) > root.depth) end += 1;
  return rows.slice(at, end).map(({ page }) => page.id);
}

async function sectionGoing(situation: Situation, { page: id, section }: Wanted<'section'>): Promise<Going> {
  const page = await pageOf(situation, id);
  const { name, nth } = section;
  const document = parsePage(await contentBytes(situation.tx, page.hash));
  const found = sectionNamed(document, { name, nth });
  if (!found || situation.draft.removedSections.get(id)?.has(sectionKey(section)))
    throw new DomainError('not-found', { what: 'sectionOfPage' });
  const { plan, shared } = await planOne(situation.tx, situation.site, situation, page);
  const label = labelOfSection(plan, shared, document, found);
  return {
    thing: { kind: 'section', page: id, section: { name, nth } },
    label,
    message: named('section-of', { label: label.slice(0, 80), page: await nameOf(situation, page) }),
  };
}

async function fileGoing({ tx, importId, draft }: Situation, address: string): Promise<Going> {
  const row = await tx.maybeOne<{ path: string }>(
    'select path from source_file where import_id = $1 and page_id is null and address = $2',
    [importId, address],
  );
  const path = row?.path ?? [...draft.assets.keys()].find((each) => `/${each}` === decodeURI(address));
  if (path !== undefined && draft.removedFiles.has(path)) throw new DomainError('already-removed');
  if (path === undefined) throw new DomainError('file-not-there', { address });
  return {
    thing: { kind: 'file', path },
    label: path.slice(path.lastIndexOf('/') + 1),
    message: named('file', { address }),
  };
}

async function itemGoing(
  { tx, importId, draft, seq }: Situation,
  { menu: id, path }: Wanted<'menu-item'>,
): Promise<Going> {
  const menus = await siteMenus(tx, importId);
  const menu = menus.find((each) => each.id === id);
  if (!menu) throw new DomainError('menu-unknown');
  const decided = draft.menus.get(id);
  const items = decided?.items ?? importedItems(menu, await pagesOfItems(tx, importId, menus));
  const item = itemAt(items, path);
  if (!item || item.removed !== undefined) throw new DomainError('not-found', { what: 'menuItem' });
  return {
    thing: { kind: 'menu-item', menu: id, label: item.label },
    label: item.label,
    message: named('item-of-menu', { label: item.label, menu: menuName(menu, menus) }),
    menu: { items: marked(items, path, seq), whereItDiffers: decided?.whereItDiffers ?? false },
  };
}

function itemAt(items: readonly MenuItem[], [first = 0, ...rest]: readonly number[]): MenuItem | undefined {
  const item = items[first];
  return rest.length === 0 || !item ? item : itemAt(item.children, rest);
}

function marked(items: readonly MenuItem[], [first = 0, ...rest]: readonly number[], removed: number): MenuItem[] {
  return items.map((item, index) =>
    index !== first
      ? item
      : rest.length === 0
        ? { ...item, removed }
        : { ...item, children: marked(item.children, rest, removed) },
  );
}

function redirectsGoing({ draft }: Situation, { froms, patterns }: Wanted<'redirects'>): Going {
  const unknown = froms.find((from) => !draft.redirects.has(from));
  if (unknown !== undefined) throw new DomainError('redirect-unknown', { address: unknown });
  const lost = patterns.find((id) => !draft.patterns.has(id));
  if (lost !== undefined) throw new DomainError('not-found', { what: 'pattern' });
  const size = froms.length + patterns.length;
  if (size === 0) throw new DomainError('nothing-to-settle');
  const [first] = froms.length > 0 ? froms : [draft.patterns.get(patterns[0] ?? '')?.text ?? ''];
  const label = size === 1 ? (first ?? '') : `${size.toLocaleString('en')} redirects`;
  return {
    thing: { kind: 'redirects', froms: [...new Set(froms)], patterns: [...new Set(patterns)] },
    label,
    message: size === 1 ? named('redirect', { label }) : named('redirects', { count: size }),
  };
}

/** Visitors need a home page: where it goes, somebody says which one takes over. */
async function nextHome(
  situation: Situation,
  nodes: readonly string[],
  newHome: string | null,
): Promise<HomeChoice | undefined> {
  const { tx, importId, draft } = situation;
  const going = await pagesById(tx, importId, draft, nodes);
  if (![...going.values()].some((page) => siteAddress(draft, page) === '/')) return undefined;
  if (newHome === null || going.has(newHome)) throw new DomainError('removal-needs-home');
  const { decision } = await prepareHome(situation, { page: newHome });
  if (decision.kind !== 'home') throw new Error('a home page was to be chosen');
  return { page: decision.page, importedHome: decision.importedHome };
}

async function standInFor(
  situation: Situation,
  thing: RemovedThing,
  wanted: RemoveRequest['standIn'],
): Promise<StandIn> {
  const hasAddress = thing.kind === 'nodes' || thing.kind === 'file';
  if (!hasAddress) return { kind: 'none' };
  const gone = new Set(thing.kind === 'nodes' ? thing.nodes : []);
  if (wanted.kind === 'parent') {
    const parent = await pageAbove(situation, thing.kind === 'nodes' ? (thing.nodes[0] ?? '') : '');
    return parent === undefined || gone.has(parent) ? { kind: 'home' } : { kind: 'page', page: parent };
  }
  if (wanted.kind !== 'page') return wanted;
  const page = (await pagesById(situation.tx, situation.importId, situation.draft, [wanted.page])).get(wanted.page);
  if (!page || gone.has(page.id) || situation.draft.notReady.has(page.id)) throw new DomainError('stand-in-missing');
  return { kind: 'page', page: page.id };
}

/** The nearest page above that visitors can be sent to; groups have no address. */
export async function pageAbove(situation: Situation, node: string): Promise<string | undefined> {
  const { rows, pages } = await draftTree(situation);
  const parents = new Map(rows.map(({ page, parent }) => [page.id, parent]));
  for (let at = parents.get(node) ?? null; at !== null; at = parents.get(at) ?? null)
    if (pages.has(at) && !situation.draft.notReady.has(at)) return at;
  return undefined;
}
