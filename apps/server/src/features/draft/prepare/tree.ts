/** Decisions about the tree: names, places, what is added, what is held back. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { addressStem, slug } from '@fastigium/core/address';
import { leadOf, ownLines } from '@fastigium/core/head';
import { newPageFrom, parseForReading, readDocument } from '@fastigium/core/html';
import { plainAddress, siteAddress, type AddedNode, type Decision, type Place } from '@fastigium/core/site';
import { randomUUID } from 'node:crypto';
import { sha256 } from '../../../threads/tasks.ts';
import { contentBytes, keepContents } from '../../shared/contents.ts';
import { addressEnding, addressFor, draftWith, freeBelow, movedAlong, refuseSharedAddress } from './addresses.ts';
import {
  draftTree,
  nameOf,
  nodeName,
  pageOf,
  titleEndings,
  titleOf,
  type DraftTree,
  type Prepared,
  type Situation,
} from './situation.ts';

type Request<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { kind: K }>;

export async function prepareTitle(situation: Situation, request: Request<'title'>): Promise<Prepared> {
  const title = oneLine(request.title);
  const decision = { kind: 'title', page: request.page, title } as const;
  const node = situation.draft.nodes.get(request.page);
  if (node && node.kind !== 'page')
    return {
      decision,
      message: decided('name-set', { before: situation.draft.titles.get(node.id) ?? node.title, title }),
    };
  const page = await pageOf(situation, request.page);
  return {
    decision,
    message: decided('title-set', { address: situation.draft.basePath + siteAddress(situation.draft, page), title }),
  };
}

function oneLine(text: string): string {
  const title = text.replace(/\s+/g, ' ').trim();
  if (title === '') throw new DomainError('title-empty');
  return title;
}

export async function prepareRename(situation: Situation, request: Request<'rename'>): Promise<Prepared> {
  const page = await pageOf(situation, request.page);
  const { draft } = situation;
  const from = plainAddress(draft, page);
  if (siteAddress(draft, page) === '/') throw new DomainError('home-keeps-address');
  const to = addressFor(request.address, from);
  // What is removed below it goes along, so that it comes back there.
  const { every } = await draftTree(situation);
  const decision: Decision = { kind: 'address', page: page.id, addresses: movedAlong(draft, page, to, every.values()) };
  const after = draftWith(situation, decision);
  await refuseSharedAddress(situation, after);
  const more = Object.keys(decision.addresses).length - 1;
  return {
    decision,
    message: decided('address-set', { before: siteAddress(draft, page), after: siteAddress(after, page), below: more }),
  };
}

export async function preparePlace(situation: Situation, request: Request<'place'>): Promise<Prepared> {
  const tree = await draftTree(situation);
  const row = tree.rows.find(({ page }) => page.id === request.node);
  if (!row) throw new DomainError('not-found', { what: 'page' });
  const place = checkedPlace(tree, request, request.node);
  const page = tree.pages.get(request.node);
  const goesElsewhere =
    page && row.parent !== place.parent && !request.keepAddress && siteAddress(situation.draft, page) !== '/';
  const addresses = goesElsewhere ? await addressesUnder(situation, tree, page.id, place) : {};
  const decision: Decision = { kind: 'place', node: request.node, place, addresses };
  if (Object.keys(addresses).length > 0) await refuseSharedAddress(situation, draftWith(situation, decision));
  const name = await nodeName(situation, tree, request.node);
  const elsewhere = row.parent === place.parent ? 'no' : 'yes';
  return {
    decision,
    message:
      place.parent === null
        ? decided('placed-at-top', { name, elsewhere })
        : decided('placed-under', { name, parent: await nodeName(situation, tree, place.parent), elsewhere }),
  };
}

function checkedPlace(tree: DraftTree, { parent, after }: Place, node?: string): Place {
  const parents = new Map(tree.rows.map((row) => [row.page.id, row.parent]));
  for (const id of [parent, after])
    if (id !== null && !parents.has(id)) throw new DomainError('not-found', { what: 'place' });
  for (let at = parent; at !== null; at = parents.get(at) ?? null)
    if (at === node) throw new DomainError('move-into-itself');
  return { parent, after };
}

/** The stem that pages at a place begin with: that of the nearest page above, since groups have no address. */
function stemAt({ draft }: Situation, tree: DraftTree, parent: string | null): string {
  const parents = new Map(tree.rows.map((row) => [row.page.id, row.parent]));
  for (let at = parent; at !== null; at = parents.get(at) ?? null) {
    const page = tree.pages.get(at);
    if (page) return addressStem(plainAddress(draft, page)).replace(/^\/$/, '');
  }
  return '';
}

async function addressesUnder(
  situation: Situation,
  tree: DraftTree,
  id: string,
  place: Place,
): Promise<Record<string, string>> {
  const page = tree.pages.get(id);
  if (!page) return {};
  const from = plainAddress(situation.draft, page);
  const stem = addressStem(from);
  const to = stemAt(situation, tree, place.parent) + stem.slice(stem.lastIndexOf('/')) + addressEnding(from);
  return to === from ? {} : movedAlong(situation.draft, page, to, tree.every.values());
}

export async function prepareDuplicate(situation: Situation, request: Request<'duplicate'>): Promise<Prepared> {
  const { draft } = situation;
  const title = oneLine(request.title);
  const page = await pageOf(situation, request.page);
  const tree = await draftTree(situation);
  const row = tree.rows.find((each) => each.page.id === page.id);
  const from = plainAddress(draft, page);
  const stem = addressStem(from);
  const endings = await titleEndings(situation.tx, situation.importId);
  const address = await freeBelow(
    situation,
    from === '/' ? '' : stem.slice(0, stem.lastIndexOf('/')),
    nameInAddress(title, endings),
    addressEnding(from) || '/',
  );
  const bytes = await contentBytes(situation.tx, page.hash);
  const node = {
    kind: 'page',
    id: randomUUID(),
    hash: page.hash,
    sizeBytes: page.sizeBytes,
    writtenAt: page.sourcePath,
    address,
    copyOf: page.id,
  } as const;
  await keepAddedPage(situation, node.id, bytes);
  const name = await nameOf(situation, page);
  return {
    decision: { kind: 'node-added', node, place: { parent: row?.parent ?? null, after: page.id }, title },
    message: decided('page-duplicated', { name, title, address }),
    made: node.id,
  };
}

function nameInAddress(title: string, endings: readonly string[]): string {
  const ending = endings.find((each) => title.endsWith(each));
  return slug(ending === undefined ? title : title.slice(0, -ending.length));
}

export async function prepareNewPage(situation: Situation, request: Request<'add-page'>): Promise<Prepared> {
  const heading = oneLine(request.title);
  const tree = await draftTree(situation);
  const place = checkedPlace(tree, request);
  const pattern = await pageOf(situation, request.like);
  const patternTitle = await titleOf(situation, pattern);
  const ending =
    (await titleEndings(situation.tx, situation.importId)).find((each) => patternTitle.endsWith(each)) ?? '';
  const paragraphs = request.text
    .split(/\n\s*\n/)
    .map((paragraph) => paragraph.replace(/\s+/g, ' ').trim())
    .filter((paragraph) => paragraph !== '');
  const bytes = newPageFrom(await contentBytes(situation.tx, pattern.hash), {
    title: heading + ending,
    heading,
    paragraphs,
  });
  if (!bytes) throw new DomainError('page-not-made');
  const hash = sha256(bytes);
  await keepContents(situation.tx, [{ hash, bytes }], null);
  const address = await freeBelow(
    situation,
    stemAt(situation, tree, place.parent),
    slug(heading),
    addressEnding(plainAddress(situation.draft, pattern)) || '/',
  );
  const node: AddedNode = {
    kind: 'page',
    id: randomUUID(),
    hash,
    sizeBytes: bytes.length,
    writtenAt: pattern.sourcePath,
    address,
  };
  await keepAddedPage(situation, node.id, bytes);
  return {
    decision: { kind: 'node-added', node, place },
    message: decided('page-added', { title: heading, address }),
    made: node.id,
  };
}

/** What is read in a page that is added here, which is a page of the site from then on. */
export async function keepAddedPage({ tx, site }: Situation, page: string, bytes: Uint8Array): Promise<void> {
  const document = parseForReading(bytes);
  const { title, language, description, headings, date } = readDocument(document);
  await tx.run('insert into page (id, site_id) values ($1, $2)', [page, site]);
  await tx.run(
    'insert into added_page (site_id, page_id, title, language, description, headings, dated, own_head, lead) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
    [
      site,
      page,
      title ?? null,
      language ?? null,
      description ?? null,
      JSON.stringify(headings).replaceAll('\\u0000', ''),
      date ?? null,
      JSON.stringify(ownLines(document)).replaceAll('\\u0000', ''),
      leadOf(document).replaceAll('\0', ''),
    ],
  );
}

export async function prepareNode(
  situation: Situation,
  request: Request<'add-group'> | Request<'add-link'>,
): Promise<Prepared> {
  const title = oneLine(request.title);
  const place = checkedPlace(await draftTree(situation), request);
  const id = randomUUID();
  const node: AddedNode =
    request.kind === 'add-group' ? { kind: 'group', id, title } : { kind: 'link', id, title, url: request.url };
  return {
    decision: { kind: 'node-added', node, place },
    message:
      request.kind === 'add-group'
        ? decided('group-added', { title })
        : decided('link-added', { title, url: request.url }),
    made: id,
  };
}

export function prepareNodeRemoved({ draft }: Situation, request: Request<'node-removed'>): Prepared {
  const node = draft.nodes.get(request.node);
  if (!node || node.kind === 'page') throw new DomainError('not-found', { what: 'groupOrLink' });
  const title = draft.titles.get(node.id) ?? node.title;
  return {
    decision: { kind: 'node-removed', node: node.id },
    message: decided('node-removed', { title, kind: node.kind }),
  };
}

export async function prepareReady(situation: Situation, request: Request<'ready'>): Promise<Prepared> {
  const page = await pageOf(situation, request.page);
  if (!request.ready && siteAddress(situation.draft, page) === '/') throw new DomainError('home-needed');
  return {
    decision: { ...request },
    message: decided('ready-set', { name: await nameOf(situation, page), ready: request.ready ? 'yes' : 'no' }),
  };
}

export async function prepareInMenus(situation: Situation, request: Request<'in-menus'>): Promise<Prepared> {
  const page = await pageOf(situation, request.page);
  return {
    decision: { ...request },
    message: decided('in-menus-set', { name: await nameOf(situation, page), shown: request.shown ? 'yes' : 'no' }),
  };
}

export async function prepareStyle(situation: Situation, request: Request<'address-style'>): Promise<Prepared> {
  if (request.style === situation.draft.style) throw new DomainError('style-same');
  const decision: Decision = { ...request };
  await refuseSharedAddress(situation, draftWith(situation, decision));
  return { decision, message: decided('style-set', { style: request.style }) };
}
