/** Addresses that pages get: read from what was typed, with everything below moving along, and never two pages at one. */
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, stripAddressEnding, isUnder, parseAddress } from '@fastigium/core/address';
import { findPublishedPath, stripBase } from '@fastigium/core/release';
import {
  foldDecisions,
  isAdded,
  findPlainAddress,
  findSiteAddress,
  withRemoved,
  type Addresses,
  type Decision,
  type Draft,
} from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import { readAllPages, readPagesById, type SourcePage } from '../pageFiles.ts';
import { readAddress, readTitle, type Situation } from './situation.ts';

/** What an address ends in, `/` or `.html`: a page keeps it when it moves. */
export function readAddressEnding(address: string): string {
  return address.slice(stripAddressEnding(address).length);
}

/** An address as somebody typed it for a page, in the page's own ending. */
export function proposeAddress(text: string, current: string): string {
  const typed = text.trim();
  const parsed = parseAddress(typed.startsWith('/') || typed.includes('://') ? typed : `/${typed}`);
  if (!parsed.ok || parsed.address.query !== undefined || parsed.host !== undefined || /\/\/|[#?]/.test(typed))
    throw new DomainError('address-unreadable', { address: text });
  const { path } = parsed.address;
  if (path === '/') throw new DomainError('address-is-home');
  const end = readAddressEnding(current) || '/';
  return stripAddressEnding(path) + (current === '/' ? '/' : end);
}

/** New addresses, before the style, of a page and all that stand below it by their addresses. */
export function moveAlong(draft: Draft, page: SourcePage, to: string, pages: Iterable<SourcePage>): Addresses {
  const from = findPlainAddress(draft, page);
  const out: Record<string, string> = { [page.id]: to };
  if (from === '/') return out;
  const [old, now] = [stripAddressEnding(from), stripAddressEnding(to)];
  for (const each of pages) {
    const address = findPlainAddress(draft, each);
    if (each.id !== page.id && address !== from && isUnder(address, from))
      out[each.id] = now + address.slice(old.length);
  }
  return out;
}

/** The draft with one more decision. */
export function foldWith({ decisions, seq }: Pick<Situation, 'decisions' | 'seq'>, decision: Decision): Draft {
  return foldDecisions([...decisions, { seq, decision }]);
}

/** Throws where a draft would have two pages at one address, or a page where a file of the site stands. */
export async function refuseSharedAddress(situation: Situation, after: Draft): Promise<void> {
  const { tx, importId } = situation;
  const isWhole = after.style !== 'imported';
  const pages = isWhole
    ? await readAllPages(tx, importId, after)
    : await readPagesById(tx, importId, after, after.addresses.keys());
  const owners = new Map<string, SourcePage>();
  for (const page of pages.values()) {
    const path = findPublishedPath(after, page);
    const other = owners.get(path);
    if (other)
      throw new DomainError('address-taken', {
        address: findSiteAddress(after, page),
        title: await readTitle(situation, other),
      });
    owners.set(path, page);
  }
  await refuseFiles(tx, importId, after, owners);
}

/** Files of the import, or added ones, that stand where a page would; a page that moved away has left its place. */
async function refuseFiles(
  tx: Queries,
  importId: string,
  after: Draft,
  owners: ReadonlyMap<string, SourcePage>,
): Promise<void> {
  const moved = [
    ...[...owners.values()].filter(({ id }) => !isAdded(after, id)).map(({ id }) => id),
    ...after.removed.keys(),
  ];
  const inside = new Map(
    [...owners].flatMap(([path, page]) => {
      const file = stripBase(after.basePath, path);
      return file === undefined ? [] : [[file, page] as const];
    }),
  );
  const rows = await tx.many<{ path: string; page: string | null; title: string | null }>(
    `select f.path, f.page_id as page, r.title from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and f.path = any($2) and (f.page_id is null or f.page_id <> all ($3::uuid[]))`,
    [importId, [...inside.keys()], moved],
  );
  for (const { path, title } of rows)
    if (!after.removedFiles.has(path))
      throw new DomainError('address-taken', { address: findAddressOfFile(path), title: title ?? `/${path}` });
  for (const path of after.assets.keys())
    if (inside.has(path) && !after.removedFiles.has(path))
      throw new DomainError('address-taken', { address: `/${path}`, title: `/${path}` });
}

/** The first of `/name/`, `/name-2/` … below a parent that no page and no file has, and no redirect, unless it may take one's place. */
export async function findFreeBelow(
  { tx, importId, draft }: Situation,
  parentStem: string,
  name: string,
  end: string,
  overRedirects = false,
): Promise<string> {
  // An address that something removed would come back to is nobody's proposal.
  const pages = await readAllPages(tx, importId, withRemoved(draft));
  const taken = new Set([...pages.values()].map((page) => stripAddressEnding(findPlainAddress(draft, page))));
  const files = await tx.many<{ address: string }>(
    'select address from source_file where import_id = $1 and page_id is null and address like $2',
    [importId, `${parentStem.replace(/[\\%_]/g, '\\$&')}/%`],
  );
  for (const { address } of files) taken.add(stripAddressEnding(address));
  if (!overRedirects) for (const redirect of draft.redirects.keys()) taken.add(stripAddressEnding(redirect));
  for (let n = 1; ; n += 1) {
    const stem = `${parentStem}/${name === '' || name === 'index' ? 'page' : name}${n === 1 ? '' : `-${n}`}`;
    if (!taken.has(stem)) return readAddress(stem) + end;
  }
}
