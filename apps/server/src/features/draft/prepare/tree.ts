/** Decisions about the tree: names, places, what is added, what is held back. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { stripAddressEnding, makeSlug } from '@fastigium/core/address';
import { leadOf, readOwnLines } from '@fastigium/core/head';
import { writeNewPage, parseForReading, readDocument } from '@fastigium/core/html';
import { findPlainAddress, findSiteAddress, type AddedNode, type Decision, type Place } from '@fastigium/core/site';
import { randomUUID } from 'node:crypto';
import { hashSha256 } from '../../../threads/tasks.ts';
import { readContent, keepContents } from '../../shared/contents.ts';
import {
  readAddressEnding,
  proposeAddress,
  foldWith,
  findFreeBelow,
  moveAlong,
  refuseSharedAddress,
} from './addresses.ts';
import {
  readDraftTree,
  readName,
  readNodeName,
  requirePage,
  readTitleEndings,
  readTitle,
  type DraftTree,
  type Prepared,
  type Situation,
} from './situation.ts';

type Request<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { kind: K }>;

export async function prepareTitle(situation: Situation, request: Request<'title'>): Promise<Prepared> {
  const title = joinLines(request.title);
  const decision = { kind: 'title', page: request.page, title } as const;
  const node = situation.draft.nodes.get(request.page);
  if (node && node.kind !== 'page')
    return {
      decision,
      message: decided('name-set', { before: situation.draft.titles.get(node.id) ?? node.title, title }),
    };
  const page = await requirePage(situation, request.page);
  return {
    decision,
    message: decided('title-set', {
      address: situation.draft.basePath + findSiteAddress(situation.draft, page),
      title,
    }),
  };
}

function joinLines(text: string): string {
  const title = text.replace(/\s+/g, ' ').trim();
  if (title === '') throw new DomainError('title-empty');
  return title;
}

export async function prepareRename(situation: Situation, request: Request<'rename'>): Promise<Prepared> {
  const page = await requirePage(situation, request.page);
  const { draft } = situation;
  const from = findPlainAddress(draft, page);
  if (findSiteAddress(draft, page) === '/') throw new DomainError('home-keeps-address');
  const to = proposeAddress(request.address, from);
  // What is removed below it goes along, so that it comes back there.
  const { every } = await readDraftTree(situation);
  const decision: Decision = { kind: 'address', page: page.id, addresses: moveAlong(draft, page, to, every.values()) };
  const after = foldWith(situation, decision);
  await refuseSharedAddress(situation, after);
  const more = Object.keys(decision.addresses).length - 1;
  return {
    decision,
    message: decided('address-set', {
      before: findSiteAddress(draft, page),
      after: findSiteAddress(after, page),
      below: more,
    }),
  };
}

export async function preparePlace(situation: Situation, request: Request<'place'>): Promise<Prepared> {
  const tree = await readDraftTree(situation);
  const row = tree.rows.find(({ page }) => page.id === request.node);
  if (!row) throw new DomainError('not-found', { what: 'page' });
  const place = checkPlace(tree, request, request.node);
  const page = tree.pages.get(request.node);
  const goesElsewhere =
    page && row.parent !== place.parent && !request.keepAddress && findSiteAddress(situation.draft, page) !== '/';
  const addresses = goesElsewhere ? await prepareAddressesUnder(situation, tree, page.id, place) : {};
  const decision: Decision = { kind: 'place', node: request.node, place, addresses };
  if (Object.keys(addresses).length > 0) await refuseSharedAddress(situation, foldWith(situation, decision));
  const name = await readNodeName(situation, tree, request.node);
  const elsewhere = row.parent === place.parent ? 'no' : 'yes';
  return {
    decision,
    message:
      place.parent === null
        ? decided('placed-at-top', { name, elsewhere })
        : decided('placed-under', { name, parent: await readNodeName(situation, tree, place.parent), elsewhere }),
  };
}

function checkPlace(tree: DraftTree, { parent, after }: Place, node?: string): Place {
  const parents = new Map(tree.rows.map((row) => [row.page.id, row.parent]));
  for (const id of [parent, after])
    if (id !== null && !parents.has(id)) throw new DomainError('not-found', { what: 'place' });
  for (let at = parent; at !== null; at = parents.get(at) ?? null)
    if (at === node) throw new DomainError('move-into-itself');
  return { parent, after };
}

/** The stem that pages at a place begin with: that of the nearest page above, since groups have no address. */
function readStemAt({ draft }: Situation, tree: DraftTree, parent: string | null): string {
  const parents = new Map(tree.rows.map((row) => [row.page.id, row.parent]));
  for (let at = parent; at !== null; at = parents.get(at) ?? null) {
    const page = tree.pages.get(at);
    if (page) return stripAddressEnding(findPlainAddress(draft, page)).replace(/^\/$/, '');
  }
  return '';
}

async function prepareAddressesUnder(
  situation: Situation,
  tree: DraftTree,
  id: string,
  place: Place,
): Promise<Record<string, string>> {
  const page = tree.pages.get(id);
  if (!page) return {};
  const from = findPlainAddress(situation.draft, page);
  const stem = stripAddressEnding(from);
  const to = readStemAt(situation, tree, place.parent) + stem.slice(stem.lastIndexOf('/')) + readAddressEnding(from);
  return to === from ? {} : moveAlong(situation.draft, page, to, tree.every.values());
}

export async function prepareDuplicate(situation: Situation, request: Request<'duplicate'>): Promise<Prepared> {
  const { draft } = situation;
  const title = joinLines(request.title);
  const page = await requirePage(situation, request.page);
  const tree = await readDraftTree(situation);
  const row = tree.rows.find((each) => each.page.id === page.id);
  const from = findPlainAddress(draft, page);
  const stem = stripAddressEnding(from);
  const endings = await readTitleEndings(situation.tx, situation.importId);
  const address = await findFreeBelow(
    situation,
    from === '/' ? '' : stem.slice(0, stem.lastIndexOf('/')),
    writeNameInAddress(title, endings),
    readAddressEnding(from) || '/',
  );
  const bytes = await readContent(situation.tx, page.hash);
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
  const name = await readName(situation, page);
  return {
    decision: { kind: 'node-added', node, place: { parent: row?.parent ?? null, after: page.id }, title },
    message: decided('page-duplicated', { name, title, address }),
    made: node.id,
  };
}

function writeNameInAddress(title: string, endings: readonly string[]): string {
  const ending = endings.find((each) => title.endsWith(each));
  return makeSlug(ending === undefined ? title : title.slice(0, -ending.length));
}

export async function prepareNewPage(situation: Situation, request: Request<'add-page'>): Promise<Prepared> {
  const heading = joinLines(request.title);
  const tree = await readDraftTree(situation);
  const place = checkPlace(tree, request);
  const pattern = await requirePage(situation, request.like);
  const patternTitle = await readTitle(situation, pattern);
  const ending =
    (await readTitleEndings(situation.tx, situation.importId)).find((each) => patternTitle.endsWith(each)) ?? '';
  const paragraphs = request.text
    .split(/\n\s*\n/)
    .map((paragraph) => paragraph.replace(/\s+/g, ' ').trim())
    .filter((paragraph) => paragraph !== '');
  const bytes = writeNewPage(await readContent(situation.tx, pattern.hash), {
    title: heading + ending,
    heading,
    paragraphs,
  });
  if (!bytes) throw new DomainError('page-not-made');
  const hash = hashSha256(bytes);
  await keepContents(situation.tx, [{ hash, bytes }], null);
  const address = await findFreeBelow(
    situation,
    readStemAt(situation, tree, place.parent),
    makeSlug(heading),
    readAddressEnding(findPlainAddress(situation.draft, pattern)) || '/',
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
      JSON.stringify(readOwnLines(document)).replaceAll('\\u0000', ''),
      leadOf(document).replaceAll('\0', ''),
    ],
  );
}

export async function prepareNode(
  situation: Situation,
  request: Request<'add-group'> | Request<'add-link'>,
): Promise<Prepared> {
  const title = joinLines(request.title);
  const place = checkPlace(await readDraftTree(situation), request);
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
  const page = await requirePage(situation, request.page);
  if (!request.ready && findSiteAddress(situation.draft, page) === '/') throw new DomainError('home-needed');
  return {
    decision: { ...request },
    message: decided('ready-set', { name: await readName(situation, page), ready: request.ready ? 'yes' : 'no' }),
  };
}

export async function prepareInMenus(situation: Situation, request: Request<'in-menus'>): Promise<Prepared> {
  const page = await requirePage(situation, request.page);
  return {
    decision: { ...request },
    message: decided('in-menus-set', { name: await readName(situation, page), shown: request.shown ? 'yes' : 'no' }),
  };
}

export async function prepareStyle(situation: Situation, request: Request<'address-style'>): Promise<Prepared> {
  if (request.style === situation.draft.style) throw new DomainError('style-same');
  const decision: Decision = { ...request };
  await refuseSharedAddress(situation, foldWith(situation, decision));
  return { decision, message: decided('style-set', { style: request.style }) };
}
