/** Taking a page, a section or a file as a kept release had it. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { TakeRequest } from '@fastigium/contracts/decisions/removals';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, stripAddressEnding, isPageFile } from '@fastigium/core/address';
import { decodeSource, linkEdits, parsePage, readPage, findSections, splice } from '@fastigium/core/html';
import { placeAmong } from '@fastigium/core/placing';
import { stripBase, findPublishedPath } from '@fastigium/core/release';
import { findPlainAddress, reckonStandingRows, withRemoved, findWrittenFrom, type Place } from '@fastigium/core/site';
import type { Touch } from '@fastigium/core/touches';
import { randomUUID } from 'node:crypto';
import { hashSha256 } from '../../../threads/tasks.ts';
import { readContent, keepContents } from '../../shared/contents.ts';
import {
  readKeptEntry,
  readKeptRelease,
  findPageThen,
  readSourceThen,
  type KeptRelease,
  type TakenPage,
} from '../keptReleases.ts';
import { readAllPages, readPagesById, type SourcePage } from '../pageFiles.ts';
import { keepTouchPlaces } from '../touchPlaces.ts';
import { readAddressEnding, findFreeBelow } from './addresses.ts';
import { readDraftTree, readName, requirePage, type Prepared, type Situation } from './situation.ts';
import { keepAddedPage } from './tree.ts';

export async function prepareTake(situation: Situation, request: TakeRequest): Promise<Prepared> {
  const { tx, site } = situation;
  const release = await readKeptRelease(tx, site, request.release);
  await readKeptEntry(tx, release, request.path);
  if (!isPageFile(request.path)) return takeFile(situation, release, request);
  const then = await findPageThen(tx, release, request.path);
  const today = then && (await readPagesById(tx, situation.importId, situation.draft, [then.id])).get(then.id);
  if (request.take.kind === 'section')
    return takeSection(situation, release, request.path, today, request.take.section);
  if (request.take.kind === 'instead') {
    if (!today) throw new DomainError('not-found', { what: 'pageOfDraft' });
    return takeText(situation, release, request.path, today);
  }
  return takePage(situation, release, request.path, then);
}

/** A page of its own, where its neighbours of then stand. */
async function takePage(
  situation: Situation,
  release: KeptRelease,
  path: string,
  then: SourcePage | undefined,
): Promise<Prepared> {
  const taken = await readSourceThen(situation.tx, situation.site, release, path);
  const hash = await keep(situation, taken);
  const wanted = then
    ? findPlainAddress(release.draft, then)
    : findAddressOfFile(stripBase(release.draft.basePath, path) ?? path);
  const stem = stripAddressEnding(wanted);
  const name = stem.slice(stem.lastIndexOf('/') + 1);
  const address = await findFreeBelow(
    situation,
    stem.slice(0, Math.max(0, stem.lastIndexOf('/'))),
    name,
    readAddressEnding(wanted) || '/',
    true,
  );
  // Settled while the page was away, its address is its own again.
  const unsettled = [situation.draft.basePath + address].filter((from) => situation.draft.redirects.has(from));
  const id = randomUUID();
  await keepAddedPage(situation, id, taken.bytes);
  const title = (then && release.draft.titles.get(then.id)) ?? readPage(taken.bytes).title ?? address;
  const place = then
    ? await placeOf(situation, release, then)
    : { parent: null, after: await findLastAtTop(situation) };
  return {
    decision: {
      kind: 'node-added',
      node: { kind: 'page', id, hash, sizeBytes: taken.bytes.length, writtenAt: taken.writtenAt, address },
      place,
      title,
      ...(unsettled.length > 0 ? { unsettled } : {}),
    },
    message: decided('page-of-release', { title, release: release.number, address }),
    made: id,
  };
}

async function keep({ tx }: Situation, { bytes }: TakenPage): Promise<string> {
  const hash = hashSha256(bytes);
  await keepContents(tx, [{ hash, bytes: Buffer.from(bytes) }], null);
  return hash;
}

/** Under the nearest page above it that still stands, among the neighbours it had there. */
async function placeOf(situation: Situation, release: KeptRelease, then: SourcePage): Promise<Place> {
  const { tx } = situation;
  const before = reckonStandingRows(
    release.draft,
    (await readAllPages(tx, release.importId, withRemoved(release.draft))).values(),
  );
  const { rows } = await readDraftTree(situation);
  const standing = new Set(rows.map(({ page }) => page.id));
  const parents = new Map(before.map(({ page, parent }) => [page.id, parent]));
  let [node, parent] = [then.id, parents.get(then.id) ?? null];
  while (parent !== null && !standing.has(parent)) [node, parent] = [parent, parents.get(parent) ?? null];
  const former = before.filter((row) => row.parent === parents.get(node)).map(({ page }) => page.id);
  const present = rows.filter((row) => row.parent === parent).map(({ page }) => page.id);
  const at = placeAmong(
    [...former.slice(0, former.indexOf(node)), ...(present.includes(node) ? [node] : [])],
    former.slice(former.indexOf(node) + 1),
    present,
  );
  return { parent, after: present[at - 1] ?? null };
}

async function findLastAtTop(situation: Situation): Promise<string | null> {
  return (await readDraftTree(situation)).rows.filter(({ depth }) => depth === 0).at(-1)?.page.id ?? null;
}

/** The page's own text as it was then; its address, its place and all that refers to it stay. */
async function takeText(
  situation: Situation,
  release: KeptRelease,
  path: string,
  today: SourcePage,
): Promise<Prepared> {
  const taken = await readSourceThen(situation.tx, situation.site, release, path);
  const hash = await keep(situation, taken);
  if (hash === today.hash) throw new DomainError('same-as-release', { number: release.number });
  const title = release.draft.titles.get(today.id) ?? readPage(taken.bytes).title;
  return {
    decision: {
      kind: 'source',
      page: today.id,
      source: { hash, sizeBytes: taken.bytes.length, writtenAt: taken.writtenAt, release: release.number },
      ...(title === undefined ? {} : { title }),
    },
    message: decided('text-of-release', { name: await readName(situation, today), release: release.number }),
  };
}

export async function prepareTextOfFile(situation: Situation, id: string): Promise<Prepared> {
  const page = await requirePage(situation, id);
  if (!situation.draft.sources.has(id)) throw new DomainError('not-found', { what: 'textOfRelease' });
  return {
    decision: { kind: 'source', page: id, source: undefined },
    message: decided('text-of-file', { name: await readName(situation, page) }),
  };
}

/** One section of then behind the one it followed, where today's page still has that, else behind all. */
async function takeSection(
  situation: Situation,
  release: KeptRelease,
  path: string,
  today: SourcePage | undefined,
  wanted: { readonly name: string; readonly nth: number },
): Promise<Prepared> {
  if (!today) throw new DomainError('not-found', { what: 'pageOfDraft' });
  const taken = await readSourceThen(situation.tx, situation.site, release, path);
  const document = parsePage(taken.bytes);
  // Its links are said from where today's page stands in its source.
  const moved = splice(
    taken.bytes,
    document.source,
    linkEdits(document, {
      before: findAddressOfFile(taken.writtenAt),
      after: findWrittenFrom(today),
      movedTo: () => undefined,
    }),
  );
  const then = parsePage(moved);
  const all = findSections(then);
  const at = all.findIndex(({ name, nth }) => name === wanted.name && nth === wanted.nth);
  const section = all[at];
  if (!section) throw new DomainError('not-found', { what: 'sectionOfRelease' });
  const here = findSections(parsePage(await readContent(situation.tx, today.hash)));
  const before = all
    .slice(0, at)
    .reverse()
    .find((each) => here.some(({ name, nth }) => name === each.name && nth === each.nth));
  const behind = before ?? (at === 0 ? undefined : here.at(-1));
  const touch: Touch = {
    kind: 'section',
    scope: { kind: 'page', page: today.id },
    name: section.name,
    html: decodeSource(moved).text.slice(section.start, section.end),
    release: release.number,
    ...(behind ? { after: { name: behind.name, nth: behind.nth } } : {}),
  };
  await keepTouchPlaces(situation.tx, situation.site, situation.importId, situation.seq, [
    { page: today, places: 1, changed: false },
  ]);
  return {
    decision: { kind: 'touch', touch },
    message: decided('section-of-release', {
      section: section.name.slice(0, 80),
      page: await readName(situation, today),
      release: release.number,
    }),
  };
}

async function takeFile(situation: Situation, release: KeptRelease, { path, take }: TakeRequest): Promise<Prepared> {
  const { tx, importId, draft } = situation;
  const entry = await readKeptEntry(tx, release, path);
  const inside = stripBase(release.draft.basePath, path) ?? path;
  const standing = draft.removedFiles.has(inside)
    ? undefined
    : (draft.assets.get(inside) ??
      (await tx.maybeOne<{ hash: string }>(
        'select hash from source_file where import_id = $1 and page_id is null and path = $2',
        [importId, inside],
      )));
  if (standing?.hash === entry.hash) throw new DomainError('same-as-release', { number: release.number });
  const page = [...(await readAllPages(tx, importId, draft)).values()].find(
    (each) => stripBase(draft.basePath, findPublishedPath(draft, each)) === inside,
  );
  const isTaken =
    page !== undefined || draft.removedFiles.has(inside) || (standing !== undefined && take.kind !== 'instead');
  const to = isTaken ? await findFreeFile(situation, inside) : inside;
  return {
    decision: { kind: 'asset-added', path: to, hash: entry.hash, sizeBytes: entry.sizeBytes },
    message: decided('file-of-release', { address: findAddressOfFile(to), release: release.number }),
  };
}

async function findFreeFile({ tx, importId, draft }: Situation, path: string): Promise<string> {
  const dot = path.lastIndexOf('.') > path.lastIndexOf('/') ? path.lastIndexOf('.') : path.length;
  for (let n = 2; ; n += 1) {
    const candidate = `${path.slice(0, dot)}-${n}${path.slice(dot)}`;
    if (
      !draft.assets.has(candidate) &&
      (await tx.maybeOne('select 1 from source_file where import_id = $1 and path = $2', [importId, candidate])) ===
        undefined
    )
      return candidate;
  }
}
