/**
 * From decisions to a manifest. Only what the decisions since the last compile touch is compiled
 * again, so the cost follows the change; from nothing, or for another import, it starts at the
 * imported files. Both ways come to the same manifest (compileDraft.test.ts holds them together).
 */
import { DomainError } from '@fastigium/contracts/errors';
import type { Progress } from '@fastigium/contracts/api/jobs';
import {
  applyDelta, compileRules, compileStyle, emptyManifest, fileHeaders, publishedPath, touchedShards, underBase,
  type CompiledRules, type ManifestDelta, type ManifestEntry, type ShardHashes,
} from '@fastigium/core/release';
import { affectedBetween, emptyDraft, movedAddresses, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compilePages, sha256, type CompiledFile } from '../../threads/tasks.ts';
import { keepContents } from '../contents.ts';
import { keepShards, shardTexts } from '../manifests.ts';
import { draftAt, history, siteState } from './history.ts';
import { allPages, pagesById, pagesLinkingTo, pagesOfRules, type SourcePage } from './pageFiles.ts';

export interface CompiledDraft {
  readonly importId: string;
  readonly version: number;
  readonly draft: Draft;
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
  readonly rules: CompiledRules;
}

interface Base {
  readonly draft: Draft;
  /** Nothing has been compiled yet. */
  readonly isImported?: boolean;
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
}

export interface CompileOptions {
  /** Compile the draft as it stood at this version instead of as it stands. */
  readonly version?: number;
  readonly signal?: AbortSignal;
  readonly report?: (progress: Progress) => void;
}

/** Pages compiled at once; small enough for progress and cancelling, large enough for the threads. */
const PAGES_A_BATCH = 64;
/** Up to here the way to a thread and back costs more than the work. */
const INLINE_PAGES = 4;

export async function compileDraft(deps: Deps, site: string, options: CompileOptions = {}): Promise<CompiledDraft> {
  return deps.db.transaction(async (tx) => {
    // One compile a site at a time, in whichever process; the next one then finds most of it done.
    await tx.run('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`compile ${site}`]);
    const { currentImport: importId, version: latest } = await siteState(tx, site);
    if (importId === null) throw new DomainError('nothing-imported');
    const version = options.version ?? latest;
    const decisions = await history(tx, site);
    const after = draftAt(decisions, version);
    const kept = await tx.maybeOne<{ version: number; shards: string[]; files: number; bytes: number }>(
      'select version, shards, files, bytes from draft where site_id = $1 and import_id = $2', [site, importId],
    );
    const before = kept && draftAt(decisions, kept.version);
    // Under another path everything is elsewhere, so it is compiled anew.
    const base = kept && before && before.basePath === after.basePath ? { ...kept, draft: before } : await importedFiles(tx, importId, after.basePath);
    const compiled = await bring(deps, tx, importId, base, after, options);
    if (version === latest && (kept?.version !== version || !kept)) {
      await tx.run(
        `insert into draft (site_id, import_id, version, shards, files, bytes) values ($1, $2, $3, $4, $5, $6)
         on conflict (site_id) do update set import_id = $2, version = $3, shards = $4, files = $5, bytes = $6`,
        [site, importId, version, compiled.shards, compiled.files, compiled.bytes],
      );
    }
    const rules = compileRules(after, await pagesOfRules(tx, importId, after));
    return { importId, version, draft: after, rules, ...compiled };
  });
}

/** The manifest of an import nobody has decided anything about but the path it is under; pages are still as they came. */
async function importedFiles(tx: Queries, importId: string, basePath: string): Promise<Base> {
  const files = await tx.many<ManifestEntry & Record<string, unknown>>(
    'select path, hash, size_bytes as "sizeBytes", headers from source_file where import_id = $1', [importId],
  );
  const put = basePath === '' ? files : await filesUnder(tx, files, basePath);
  const { shards, texts, filesMore, bytesMore } = applyDelta(emptyManifest, () => '', { put, remove: [] }, sha256);
  await keepShards(tx, texts);
  return { draft: { ...emptyDraft, basePath }, isImported: true, shards, files: filesMore, bytes: bytesMore };
}

/** The page a host shows for what it does not find; it looks for it at the root, wherever the site stands. */
const NOT_FOUND_PAGE = '404.html';

type FileEntry = ManifestEntry & Record<string, unknown>;

/** Files in the folder the site is published under, style sheets saying from there what they said from the root. */
async function filesUnder(tx: Queries, files: readonly FileEntry[], basePath: string): Promise<ManifestEntry[]> {
  const out: ManifestEntry[] = [];
  for (const { path, hash, sizeBytes, headers } of files) {
    const entry = { path: underBase(basePath, path), hash, sizeBytes, headers };
    if (path === NOT_FOUND_PAGE) out.push({ ...entry, path });
    if (headers['content-type']?.startsWith('text/css') !== true) {
      out.push(entry);
      continue;
    }
    const { bytes } = await tx.one<{ bytes: Buffer }>('select bytes from content where hash = $1', [hash]);
    const style = compileStyle(bytes, basePath);
    if (style === (bytes as Uint8Array)) out.push(entry);
    else {
      const fresh = { hash: sha256(style), bytes: style };
      await keepContents(tx, [fresh], null);
      out.push({ ...entry, hash: fresh.hash, sizeBytes: style.length });
    }
  }
  return out;
}

async function bring(deps: Deps, tx: Queries, importId: string, base: Base, after: Draft, options: CompileOptions) {
  const delta = await affectedDelta(deps, tx, importId, base, after, options);
  const touched = touchedShards(delta).map((index) => base.shards[index]);
  const { shards, texts, filesMore, bytesMore } = applyDelta(base.shards, await shardTexts(tx, touched), delta, sha256);
  await keepShards(tx, texts);
  return { shards, files: base.files + filesMore, bytes: base.bytes + bytesMore };
}

async function affectedDelta(
  deps: Deps, tx: Queries, importId: string, { draft: before, isImported = false }: Base, after: Draft, options: CompileOptions,
): Promise<ManifestDelta> {
  const affected = affectedBetween(before, after);
  // Under a path any page may say something from the root.
  const pages = isImported && after.basePath !== '' ? await allPages(tx, importId) : await pagesById(tx, importId, affected.pages);
  const movedPaths = [...affected.moved].flatMap((id) => pages.get(id)?.sourcePath ?? []);
  for (const page of await pagesLinkingTo(tx, importId, movedPaths)) pages.set(page.id, page);
  const moves = movedAddresses(after, (await pagesById(tx, importId, after.addresses.keys())).values());

  const put: ManifestEntry[] = [];
  const all = [...pages.values()];
  for (let from = 0; from < all.length; from += PAGES_A_BATCH * deps.threads.size) {
    options.signal?.throwIfAborted();
    options.report?.({ step: 'Compiling pages', done: from, total: all.length, unit: 'pages' });
    const batch = all.slice(from, from + PAGES_A_BATCH * deps.threads.size);
    const files = await compileBatch(deps, tx, batch, after, moves, options.signal);
    const fresh = files.filter(({ hash }, i) => hash !== batch[i]?.hash);
    await keepContents(tx, fresh, null);
    for (const { path, hash, encoding, bytes } of files) {
      const entry = { path, hash, sizeBytes: bytes.length, headers: fileHeaders(path, encoding) };
      put.push(entry);
      if (after.basePath !== '' && path === underBase(after.basePath, NOT_FOUND_PAGE)) put.push({ ...entry, path: NOT_FOUND_PAGE });
    }
  }
  const kept = new Set(put.map(({ path }) => path));
  const remove = all.map((page) => publishedPath(before, page)).filter((path) => !kept.has(path));
  return { put, remove };
}

async function compileBatch(
  deps: Deps, tx: Queries, pages: readonly SourcePage[], draft: Draft, moves: ReadonlyMap<string, string>, signal?: AbortSignal,
): Promise<readonly CompiledFile[]> {
  const contents = new Map(
    (await tx.many<{ hash: string; bytes: Buffer }>('select hash, bytes from content where hash = any($1)', [pages.map(({ hash }) => hash)]))
      .map(({ hash, bytes }) => [hash, bytes]),
  );
  const work = pages.map(({ id, sourcePath, hash }) => {
    const bytes = contents.get(hash);
    if (bytes === undefined) throw new Error(`content ${hash} is not kept`);
    return { id, sourcePath, bytes, title: draft.titles.get(id), address: draft.addresses.get(id) };
  });
  if (work.length <= INLINE_PAGES) return compilePages(work, moves, draft.basePath);
  const share = Math.ceil(work.length / deps.threads.size);
  const shares = Array.from({ length: deps.threads.size }, (_, i) => work.slice(i * share, (i + 1) * share)).filter((part) => part.length > 0);
  return (await Promise.all(shares.map((part) => deps.threads.compile(part, moves, draft.basePath, signal)))).flat();
}
