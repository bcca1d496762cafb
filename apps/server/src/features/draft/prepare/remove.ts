/** Removing: what goes, what takes over, and where its addresses lead meanwhile. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { RemoveRequest } from '@fastigium/contracts/decisions/removals';
import { DomainError } from '@fastigium/contracts/errors';
import { thing as named } from '@fastigium/contracts/messages/names';
import { findSectionNamed, parsePage } from '@fastigium/core/html';
import type { MenuItem } from '@fastigium/core/menus';
import type { Message, Part } from '@fastigium/core/messages';
import { readImportedItems } from '@fastigium/core/release';
import {
  keySection,
  findSiteAddress,
  type Decision,
  type HomeChoice,
  type RemovedThing,
  type StandIn,
} from '@fastigium/core/site';
import { readContent } from '../../shared/contents.ts';
import { planOne } from '../compileOne.ts';
import { readSectionLabel } from '../sectionsNow.ts';
import { nameMenu } from '../menuNames.ts';
import { readPagesOfItems, readSiteMenus } from '../menus.ts';
import { readPagesById } from '../pageFiles.ts';
import { prepareHome } from './home.ts';
import {
  readDraftTree,
  readName,
  readNodeName,
  requirePage,
  type DraftTree,
  type Prepared,
  type Situation,
} from './situation.ts';

/** What a request takes out, and what it is called. */
export interface Going {
  readonly thing: RemovedThing;
  readonly label: Part;
  readonly message: Message;
  /** How much goes with it, where it is a branch. */
  readonly below?: number;
  /** Of a menu item: the menu with it marked. */
  readonly menu?: { readonly items: readonly MenuItem[]; readonly whereItDiffers: boolean };
}

export async function prepareRemove(situation: Situation, request: RemoveRequest): Promise<Prepared> {
  const going = await readWhatGoes(situation, request.thing);
  const home =
    going.thing.kind === 'nodes' ? await chooseNextHome(situation, going.thing.nodes, request.newHome) : undefined;
  const standIn = await prepareStandIn(situation, going.thing, request.standIn);
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
      page: standIn.kind === 'page' ? await readName(situation, await requirePage(situation, standIn.page)) : '',
      newHome: home ? 'yes' : 'no',
      home: home ? await readName(situation, await requirePage(situation, home.page)) : '',
    }),
  };
}

export async function readWhatGoes(situation: Situation, thing: RemoveRequest['thing']): Promise<Going> {
  switch (thing.kind) {
    case 'node':
      return removeNodes(situation, thing);
    case 'section':
      return removeSection(situation, thing);
    case 'file':
      return removeFile(situation, thing.address);
    case 'menu-item':
      return removeItem(situation, thing);
    case 'redirects':
      return removeRedirects(situation, thing);
  }
}

type Wanted<K extends RemoveRequest['thing']['kind']> = Extract<RemoveRequest['thing'], { kind: K }>;

async function removeNodes(situation: Situation, { node, alone }: Wanted<'node'>): Promise<Going> {
  if (situation.draft.removed.has(node)) throw new DomainError('already-removed');
  const tree = await readDraftTree(situation);
  const nodes = alone
    ? tree.rows.filter(({ page }) => page.id === node).map(({ page }) => page.id)
    : listBranch(tree, node);
  if (nodes.length === 0) throw new DomainError('not-found', { what: 'page' });
  const gone = new Set(nodes);
  if (![...tree.pages.keys()].some((id) => !gone.has(id))) throw new DomainError('last-page');
  const label = await readNodeName(situation, tree, node);
  const below = nodes.length - 1;
  return {
    thing: { kind: 'nodes', nodes },
    label,
    message: named('named', { label }),
    below,
  };
}

/** What stands at and below a node, in tree order. */
export function listBranch({ rows }: DraftTree, node: string): string[] {
  const at = rows.findIndex(({ page }) => page.id === node);
  const root = rows[at];
  if (!root) return [];
  let end = at + 1;
  while ((rows[end]?.depth ?? 0) > root.depth) end += 1;
  return rows.slice(at, end).map(({ page }) => page.id);
}

async function removeSection(situation: Situation, { page: id, section }: Wanted<'section'>): Promise<Going> {
  const page = await requirePage(situation, id);
  const { name, nth } = section;
  const document = parsePage(await readContent(situation.tx, page.hash));
  const found = findSectionNamed(document, { name, nth });
  if (!found || situation.draft.removedSections.get(id)?.has(keySection(section)))
    throw new DomainError('not-found', { what: 'sectionOfPage' });
  const { plan, shared } = await planOne(situation.tx, situation.site, situation, page);
  const label = readSectionLabel(plan, shared, document, found);
  return {
    thing: { kind: 'section', page: id, section: { name, nth } },
    label,
    message: named('section-of', { label: label.slice(0, 80), page: await readName(situation, page) }),
  };
}

async function removeFile({ tx, importId, draft }: Situation, address: string): Promise<Going> {
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

async function removeItem(
  { tx, importId, draft, seq }: Situation,
  { menu: id, path }: Wanted<'menu-item'>,
): Promise<Going> {
  const menus = await readSiteMenus(tx, importId);
  const menu = menus.find((each) => each.id === id);
  if (!menu) throw new DomainError('menu-unknown');
  const decided = draft.menus.get(id);
  const items = decided?.items ?? readImportedItems(menu, await readPagesOfItems(tx, importId, menus));
  const item = findItemAt(items, path);
  if (!item || item.removed !== undefined) throw new DomainError('not-found', { what: 'menuItem' });
  return {
    thing: { kind: 'menu-item', menu: id, label: item.label },
    label: item.label,
    message: named('item-of-menu', { label: item.label, menu: nameMenu(menu, menus) }),
    menu: { items: markItem(items, path, seq), whereItDiffers: decided?.whereItDiffers ?? false },
  };
}

function findItemAt(items: readonly MenuItem[], [first = 0, ...rest]: readonly number[]): MenuItem | undefined {
  const item = items[first];
  return rest.length === 0 || !item ? item : findItemAt(item.children, rest);
}

function markItem(items: readonly MenuItem[], [first = 0, ...rest]: readonly number[], removed: number): MenuItem[] {
  return items.map((item, index) =>
    index !== first
      ? item
      : rest.length === 0
        ? { ...item, removed }
        : { ...item, children: markItem(item.children, rest, removed) },
  );
}

function removeRedirects({ draft }: Situation, { froms, patterns }: Wanted<'redirects'>): Going {
  const unknown = froms.find((from) => !draft.redirects.has(from));
  if (unknown !== undefined) throw new DomainError('redirect-unknown', { address: unknown });
  const lost = patterns.find((id) => !draft.patterns.has(id));
  if (lost !== undefined) throw new DomainError('not-found', { what: 'pattern' });
  const size = froms.length + patterns.length;
  if (size === 0) throw new DomainError('nothing-to-settle');
  const [first] = froms.length > 0 ? froms : [draft.patterns.get(patterns[0] ?? '')?.text ?? ''];
  return {
    thing: { kind: 'redirects', froms: [...new Set(froms)], patterns: [...new Set(patterns)] },
    label: size === 1 ? (first ?? '') : named('redirects', { count: size }),
    message: size === 1 ? named('redirect', { label: first ?? '' }) : named('redirects', { count: size }),
  };
}

/** Visitors need a home page: where it goes, somebody says which one takes over. */
async function chooseNextHome(
  situation: Situation,
  nodes: readonly string[],
  newHome: string | null,
): Promise<HomeChoice | undefined> {
  const { tx, importId, draft } = situation;
  const going = await readPagesById(tx, importId, draft, nodes);
  if (![...going.values()].some((page) => findSiteAddress(draft, page) === '/')) return undefined;
  if (newHome === null || going.has(newHome)) throw new DomainError('removal-needs-home');
  const { decision } = await prepareHome(situation, { page: newHome });
  if (decision.kind !== 'home') throw new Error('a home page was to be chosen');
  return { page: decision.page, importedHome: decision.importedHome };
}

async function prepareStandIn(
  situation: Situation,
  thing: RemovedThing,
  wanted: RemoveRequest['standIn'],
): Promise<StandIn> {
  const hasAddress = thing.kind === 'nodes' || thing.kind === 'file';
  if (!hasAddress) return { kind: 'none' };
  const gone = new Set(thing.kind === 'nodes' ? thing.nodes : []);
  if (wanted.kind === 'parent') {
    const parent = await findPageAbove(situation, thing.kind === 'nodes' ? (thing.nodes[0] ?? '') : '');
    return parent === undefined || gone.has(parent) ? { kind: 'home' } : { kind: 'page', page: parent };
  }
  if (wanted.kind !== 'page') return wanted;
  const page = (await readPagesById(situation.tx, situation.importId, situation.draft, [wanted.page])).get(wanted.page);
  if (!page || gone.has(page.id) || situation.draft.notReady.has(page.id)) throw new DomainError('stand-in-missing');
  return { kind: 'page', page: page.id };
}

/** The nearest page above that visitors can be sent to; groups have no address. */
export async function findPageAbove(situation: Situation, node: string): Promise<string | undefined> {
  const { rows, pages } = await readDraftTree(situation);
  const parents = new Map(rows.map(({ page, parent }) => [page.id, parent]));
  for (let at = parents.get(node) ?? null; at !== null; at = parents.get(at) ?? null)
    if (pages.has(at) && !situation.draft.notReady.has(at)) return at;
  return undefined;
}
