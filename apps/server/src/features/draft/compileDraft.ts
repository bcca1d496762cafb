/**
 * From decisions to a manifest. Only what the decisions since the last compile touch is compiled
 * again, so the cost follows the change; from nothing, or for another import, it starts at the
 * imported files. Both ways come to the same manifest (compileDraft.test.ts holds them together).
 */
import type { SiteAccess } from '@fastigium/core/access';
import { DomainError } from '@fastigium/contracts/errors';
import type { Progress } from '@fastigium/contracts/api/jobs';
import {
  applyDelta,
  emptyManifest,
  findFileHeaders,
  findPublishedPath,
  findTouchedShards,
  placeUnderBase,
  type CompiledRules,
  type ManifestDelta,
  type ManifestEntry,
  type ShardHashes,
} from '@fastigium/core/release';
import { emptyDraft, isOut, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { areKept, holdContents, keepContents } from '../shared/contents.ts';
import { createTurns } from '../shared/inTurn.ts';
import { readAllEntries, keepShards, readShardTexts } from '../shared/manifests.ts';
import { readToday } from '../shared/today.ts';
import { readAccess } from './access.ts';
import { readDraftRules } from './draftRules.ts';
import { readOrigin, setsHeads } from './heads/heads.ts';
import { hasSitemap, compareSiteFiles } from './heads/siteFiles.ts';
import { foldDraftAt, readHistory, readSiteState } from './history.ts';
import { readFeedEntries, listListingPaths, type ListingInDraft } from './listings.ts';
import { readAllPages, type SourcePage } from './pageFiles.ts';
import { compareFiles, placeFilesUnder, NOT_FOUND_PAGE, swapStyles } from './plainFiles.ts';
import { compileIn, readPagesThatMayDiffer, readBoth, type Basis, type ReadDraft } from './readDraft.ts';

export interface CompiledDraft {
  readonly importId: string;
  readonly version: number;
  readonly draft: Draft;
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
  readonly rules: CompiledRules;
  readonly access: SiteAccess;
}

interface Base {
  readonly draft: Draft;
  /** Nothing has been compiled yet. */
  readonly isImported?: boolean;
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
  /** The main address it was compiled with. */
  readonly origin: string | undefined;
}

const MOST_TRIES = 3;

export interface CompileOptions {
  /** Compile the draft as it stood at this version instead of as it stands. */
  readonly version?: number;
  readonly signal?: AbortSignal;
  readonly report?: (progress: Progress) => void;
}

const oneAtATime = createTurns();

/**
 * Nothing is held while it is compiled: contents and shards are kept by their hashes as they come, and the draft in one
 * short step at the end. Of two processes that compile the same at once, both come to the same.
 */
export function compileDraft(deps: Deps, site: string, options: CompileOptions = {}): Promise<CompiledDraft> {
  return oneAtATime(site, async () => {
    options.signal?.throwIfAborted();
    for (let tries = 1; ; tries += 1) {
      const compiled = await compileNow(deps, site, options);
      if (compiled) return compiled;
      // A sweep took a content meanwhile that came back: it is made anew, and seldom enough that once will do.
      if (tries === MOST_TRIES) throw new Error(`what the draft of ${site} is compiled to was swept again and again`);
    }
  });
}

/** @returns undefined where something that was compiled is not kept any more */
async function compileNow(deps: Deps, site: string, options: CompileOptions): Promise<CompiledDraft | undefined> {
  const { db } = deps;
  const { currentImport: importId, version: latest } = await readSiteState(db, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const version = options.version ?? latest;
  const decisions = await readHistory(db, site);
  const after = foldDraftAt(decisions, version);
  const kept = await readKeptDraft(db, site, importId);
  const day = readToday(deps);
  const before = kept && foldDraftAt(decisions, kept.version);
  const origin = speaksOfOrigin(after) || speaksOfOrigin(before) ? await readOrigin(db, site) : kept?.origin;
  // Under another path or in another address style everything is elsewhere, so it is compiled anew.
  const base =
    kept && before && before.basePath === after.basePath && before.style === after.style
      ? { ...kept, draft: before }
      : await readImportedFiles(db, importId, after.basePath);
  // Feeds and heads name the domain, and sitemaps the day, which no decision sets; everything else is as it was compiled.
  const isCompiled = kept?.version === version && kept.origin === origin && (!hasSitemap(after) || kept.day === day);
  const compiled = isCompiled
    ? { ...kept, put: [] }
    : await bring(deps, { site, importId, origin, day }, base, after, options);
  const isNew =
    kept?.version !== version ||
    kept.origin !== origin ||
    kept.day !== day ||
    compiled.shards.some((hash, index) => hash !== kept.shards[index]);
  if (isNew && !(await keepDraft(db, { site, importId, version, origin, day, isLatest: version === latest }, compiled)))
    return undefined;
  const { rules, withoutTarget } = await readDraftRules(db, importId, after, day);
  const access = await readAccess(db, importId, after, compiled.shards);
  return {
    importId,
    version,
    draft: after,
    rules: { rules, withoutTarget },
    access,
    shards: compiled.shards,
    files: compiled.files,
    bytes: compiled.bytes,
  };
}

const speaksOfOrigin = (draft: Draft | undefined) =>
  draft !== undefined && (setsHeads(draft) || draft.listings.size > 0);

async function readKeptDraft(queries: Queries, site: string, importId: string) {
  const row = await queries.maybeOne<{
    version: number;
    shards: string[];
    files: number;
    bytes: number;
    origin: string | null;
    day: string | null;
  }>('select version, shards, files, bytes, origin, day from draft where site_id = $1 and import_id = $2', [
    site,
    importId,
  ]);
  return row && { ...row, origin: row.origin ?? undefined };
}

/**
 * The draft refers to what was compiled from here on, so that sweeps leave it; they wait for it by the same lock.
 * @returns whether all of it is still kept
 */
async function keepDraft(
  { transaction }: Pick<Deps['db'], 'transaction'>,
  basis: Basis & { readonly day: string; readonly version: number; readonly isLatest: boolean },
  compiled: Compiled,
): Promise<boolean> {
  return transaction(async (tx) => {
    await holdContents(tx, 'shared');
    if (!(await areKept(tx, new Set(compiled.put.map(({ hash }) => hash))))) return false;
    if (!basis.isLatest) return true;
    // One of a newer state of the draft is left: it is further than this.
    await tx.run(
      `insert into draft (site_id, import_id, version, shards, files, bytes, origin, day) values ($1, $2, $3, $4, $5, $6, $7, $8)
       on conflict (site_id) do update set import_id = $2, version = $3, shards = $4, files = $5, bytes = $6, origin = $7, day = $8
        where draft.import_id <> $2 or draft.version <= $3`,
      [
        basis.site,
        basis.importId,
        basis.version,
        compiled.shards,
        compiled.files,
        compiled.bytes,
        basis.origin ?? null,
        basis.day,
      ],
    );
    return true;
  });
}

/** The manifest of an import nobody has decided anything about but the path it is under; pages are still as they came. */
async function readImportedFiles(tx: Queries, importId: string, basePath: string): Promise<Base> {
  const files = await tx.many<ManifestEntry & Record<string, unknown>>(
    'select path, hash, size_bytes as "sizeBytes", headers from source_file where import_id = $1',
    [importId],
  );
  const put = basePath === '' ? files : await placeFilesUnder(tx, files, basePath);
  const { shards, texts, filesMore, bytesMore } = applyDelta(emptyManifest, () => '', { put, remove: [] }, hashSha256);
  await keepShards(tx, texts);
  return {
    draft: { ...emptyDraft, basePath },
    isImported: true,
    shards,
    files: filesMore,
    bytes: bytesMore,
    origin: undefined,
  };
}

async function bring(
  deps: Deps,
  basis: Basis & { readonly day: string },
  base: Base,
  draft: Draft,
  options: CompileOptions,
): Promise<Compiled> {
  const { db } = deps;
  const isImported = base.isImported ?? false;
  const read = await readBoth(db, basis, base, draft);
  const { after } = read;
  // Before anything was compiled no list had written a file.
  const before = isImported ? { ...read.before, listings: new Map<string, ListingInDraft>() } : read.before;
  const pages = await changeCompiled(
    db,
    { ...base, put: [] },
    await compileAffected(deps, db, before, after, isImported, options),
  );
  if (!setsHeads(draft) && !setsHeads(base.draft)) return pages;
  const files = await compareSiteFiles(
    db,
    { ...basis, draft, heads: after.heads },
    await readAllEntries(db, pages.shards),
    base.draft,
  );
  return changeCompiled(db, pages, files);
}

interface Compiled {
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
  /** What was put into the manifest on the way. */
  readonly put: readonly ManifestEntry[];
}

async function changeCompiled(queries: Queries, base: Compiled, delta: ManifestDelta): Promise<Compiled> {
  const touched = findTouchedShards(delta).map((index) => base.shards[index]);
  const { shards, texts, filesMore, bytesMore } = applyDelta(
    base.shards,
    await readShardTexts(queries, touched),
    delta,
    hashSha256,
  );
  await keepShards(queries, texts);
  return {
    shards,
    files: base.files + filesMore,
    bytes: base.bytes + bytesMore,
    put: [...base.put, ...delta.put],
  };
}

async function compileAffected(
  deps: Deps,
  tx: Queries,
  was: ReadDraft,
  now: ReadDraft,
  isImported: boolean,
  options: CompileOptions,
): Promise<ManifestDelta> {
  const { importId, draft: after, listings } = now;
  const { draft: before } = was;
  // Under a path any page may say something from the root, and in another style every page is elsewhere.
  const isEverywhere = isImported && (after.basePath !== '' || after.style !== 'imported');
  const pages = isEverywhere
    ? await readAllPages(tx, importId, withRemoved(after))
    : await readPagesThatMayDiffer(tx, was, now);

  const put: ManifestEntry[] = [];
  const all = [...pages.values()];
  const shown = all.filter(({ id }) => after.nodes.has(id) || !before.nodes.has(id));
  for await (const batch of compileIn(deps, tx, now, shown, options)) {
    await keepContents(
      tx,
      batch.filter(({ file, page }) => file.hash !== page.hash).map(({ file }) => file),
      null,
    );
    for (const { path, hash, encoding, bytes } of batch.map(({ file }) => file)) {
      const entry = { path, hash, sizeBytes: bytes.length, headers: findFileHeaders(path, encoding) };
      put.push(entry);
      if (after.basePath !== '' && path === placeUnderBase(after.basePath, NOT_FOUND_PAGE))
        put.push({ ...entry, path: NOT_FOUND_PAGE });
    }
  }
  put.push(...(await swapStyles(tx, importId, before, after)));
  const assets = await compareFiles(tx, importId, before, after);
  put.push(...assets.put);
  for (const listing of listings.values()) put.push(...(await readFeedEntries(tx, listing)));
  const kept = new Set(put.map(({ path }) => path));
  const isGone = ({ id }: SourcePage) => isOut(after, id);
  // Under a path the page for what is not found stands at the root as well.
  const alsoAtRoot =
    after.basePath === ''
      ? []
      : all
          .filter(isGone)
          .map((page) => findPublishedPath(before, page))
          .filter((path) => path === placeUnderBase(before.basePath, NOT_FOUND_PAGE))
          .map(() => NOT_FOUND_PAGE);
  const published = all.filter(
    ({ id }) => !before.notReady.has(id) && !isOut(before, id) && (before.nodes.has(id) || !after.nodes.has(id)),
  );
  const goneWithListings = [...was.listings].flatMap(([id, listing]) => {
    const stays = new Set(listAllPaths(listings.get(id)));
    return listAllPaths(listing).filter((path) => !stays.has(path));
  });
  const remove = [
    ...published.map((page) => findPublishedPath(before, page)),
    ...alsoAtRoot,
    ...assets.remove,
    ...goneWithListings,
  ].filter((path) => !kept.has(path));
  return { put, remove };
}

const listAllPaths = (listing: ListingInDraft | undefined) => (listing ? listListingPaths(listing) : []);
