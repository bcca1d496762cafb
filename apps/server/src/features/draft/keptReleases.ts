/** A kept release as it was: what it held, and any page of it as a source. */
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile } from '@fastigium/core/address';
import { linkEdits, parsePage, splice } from '@fastigium/core/html';
import { stripBase, findPublishedPath, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';
import { compileOne } from './compileOne.ts';
import { foldDraftAt, readHistory } from './history.ts';
import { readAllPages, type SourcePage } from './pageFiles.ts';
import { readEntries } from '../shared/manifests.ts';

export interface KeptRelease {
  readonly number: number;
  readonly shards: ShardHashes;
  readonly importId: string;
  /** The draft it was made from. */
  readonly draft: Draft;
}

export async function readKeptRelease(queries: Queries, site: string, number: number): Promise<KeptRelease> {
  const row = await queries.maybeOne<{ shards: string[] | null; version: number; importId: string }>(
    `select shards, version, import_id as "importId" from release where site_id = $1 and number = $2 and state in ('live', 'past')`,
    [site, number],
  );
  if (!row?.shards) throw new DomainError('release-not-kept', { number });
  return {
    number,
    shards: row.shards,
    importId: row.importId,
    draft: foldDraftAt(await readHistory(queries, site), row.version),
  };
}

export async function readKeptEntry(
  queries: Queries,
  { shards, number }: KeptRelease,
  path: string,
): Promise<ManifestEntry> {
  const entry = (await readEntries(queries, shards, [path])).get(path);
  if (!entry) throw new DomainError('not-in-release', { address: findAddressOfFile(path), number });
  return entry;
}

/** The page that was published at a path; undefined for one whose files were deleted since. */
export async function findPageThen(
  queries: Queries,
  { importId, draft }: KeptRelease,
  path: string,
): Promise<SourcePage | undefined> {
  return [...(await readAllPages(queries, importId, draft)).values()].find(
    (page) => findPublishedPath(draft, page) === path,
  );
}

export interface TakenPage {
  readonly bytes: Uint8Array;
  /** The file whose place its links are written from. */
  readonly writtenAt: string;
}

/**
 * A page's source as it was then, with the touches of then in it; its address, its menus and its head are
 * those of today's draft and are written anew when it is compiled. Where its file is gone the published page
 * itself is the source.
 */
export async function readSourceThen(
  queries: Queries,
  site: string,
  release: KeptRelease,
  path: string,
): Promise<TakenPage> {
  const page = await findPageThen(queries, release, path);
  if (page) {
    const { draft } = release;
    const bare: Draft = {
      ...draft,
      addresses: new Map(),
      style: 'imported',
      basePath: '',
      head: new Map(),
      icons: [],
      menus: new Map(),
      hidden: new Set(),
      notReady: new Set(),
      removed: new Map(),
      removals: new Map(),
      listings: new Map(),
      home: undefined,
    };
    const compiled = await compileOne(
      queries,
      site,
      { draft: bare, importId: release.importId },
      page.sourcePath,
      (id) => id === page.id,
    );
    if (compiled) return { bytes: compiled.bytes, writtenAt: page.sourcePath };
  }
  const entry = await readKeptEntry(queries, release, path);
  return withoutBase(await readContent(queries, entry.hash), path, release.draft.basePath);
}

/** A page published under a path says it in its links; a source does not. */
function withoutBase(bytes: Uint8Array, path: string, basePath: string): TakenPage {
  const writtenAt = stripBase(basePath, path) ?? path;
  if (basePath === '') return { bytes, writtenAt };
  const document = parsePage(bytes);
  const inside = (address: string) => (address.startsWith(`${basePath}/`) ? address.slice(basePath.length) : undefined);
  return {
    bytes: splice(
      bytes,
      document.source,
      linkEdits(document, { before: findAddressOfFile(path), after: findAddressOfFile(writtenAt), movedTo: inside }),
    ),
    writtenAt,
  };
}
