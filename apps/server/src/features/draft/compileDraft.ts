/**
 * From decisions to a manifest. Only what the decisions since the last compile touch is compiled
 * again, so the cost follows the change; from nothing, or for another import, it starts at the
 * imported files. Both ways come to the same manifest (compileDraft.test.ts holds them together).
 */
import type { SiteAccess } from '@fastigium/core/access';
import { DomainError } from '@fastigium/contracts/errors';
import type { Progress } from '@fastigium/contracts/api/jobs';
import { addressOfFile } from '@fastigium/core/address';
import {
  applyDelta,
  compileStyle,
  emptyManifest,
  fileHeaders,
  planPage,
  publishedPath,
  touchedShards,
  underBase,
  type CompiledRules,
  type ManifestDelta,
  type ManifestEntry,
  type PagePlan,
  type ShardHashes,
  type SharedPlan,
} from '@fastigium/core/release';
import { emptyDraft, isOut, withRemoved, writtenFrom, type Draft } from '@fastigium/core/site';
import { swapsOf } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compilePages, sha256, type CompiledFile } from '../../threads/tasks.ts';
import { contentBytes, contentsByHash, keepContents } from '../contents.ts';
import { allEntries, keepShards, shardTexts } from '../manifests.ts';
import { today } from '../today.ts';
import { accessOf } from './access.ts';
import { affectedPages } from './affectedPages.ts';
import { draftRules } from './draftRules.ts';
import { differingHeads, headsOf, headSources, originOf, setsHeads, type Heads } from './heads/heads.ts';
import { hasSitemap, siteFilesDelta } from './heads/siteFiles.ts';
import { draftAt, history, siteState } from './history.ts';
import {
  differingListings,
  feedEntry,
  listingsInDraft,
  pathsOfListing,
  plansOfListing,
  type ListingInDraft,
} from './listings.ts';
import { menusInDraft } from './menus.ts';
import { allPages, pagesById, type SourcePage } from './pageFiles.ts';
import { branchAddresses, sharedPlan, withHead } from './sharedPlan.ts';

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
    const row = await tx.maybeOne<{
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
    const kept = row && { ...row, origin: row.origin ?? undefined };
    const speaksOfOrigin = (draft: Draft | undefined) =>
      draft !== undefined && (setsHeads(draft) || draft.listings.size > 0);
    const day = today(deps);
    const before = kept && draftAt(decisions, kept.version);
    const origin = speaksOfOrigin(after) || speaksOfOrigin(before) ? await originOf(tx, site) : kept?.origin;
    // Under another path or in another address style everything is elsewhere, so it is compiled anew.
    const base =
      kept && before && before.basePath === after.basePath && before.style === after.style
        ? { ...kept, draft: before }
        : await importedFiles(tx, importId, after.basePath);
    // Feeds and heads name the domain, and sitemaps the day, which no decision sets; everything else is as it was compiled.
    const isCompiled = kept?.version === version && kept.origin === origin && (!hasSitemap(after) || kept.day === day);
    const compiled = isCompiled ? kept : await bring(deps, tx, { site, importId, origin, day }, base, after, options);
    if (
      version === latest &&
      (kept?.version !== version ||
        kept.origin !== origin ||
        kept.day !== day ||
        compiled.shards.some((hash, index) => hash !== kept.shards[index]))
    ) {
      await tx.run(
        `insert into draft (site_id, import_id, version, shards, files, bytes, origin, day) values ($1, $2, $3, $4, $5, $6, $7, $8)
         on conflict (site_id) do update set import_id = $2, version = $3, shards = $4, files = $5, bytes = $6, origin = $7, day = $8`,
        [site, importId, version, compiled.shards, compiled.files, compiled.bytes, origin ?? null, day],
      );
    }
    const { rules, withoutTarget } = await draftRules(tx, importId, after, day);
    const access = await accessOf(tx, importId, after, compiled.shards);
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
  });
}

/** The manifest of an import nobody has decided anything about but the path it is under; pages are still as they came. */
async function importedFiles(tx: Queries, importId: string, basePath: string): Promise<Base> {
  const files = await tx.many<ManifestEntry & Record<string, unknown>>(
    'select path, hash, size_bytes as "sizeBytes", headers from source_file where import_id = $1',
    [importId],
  );
  const put = basePath === '' ? files : await filesUnder(tx, files, basePath);
  const { shards, texts, filesMore, bytesMore } = applyDelta(emptyManifest, () => '', { put, remove: [] }, sha256);
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
    out.push(await styleEntry(tx, { path, hash, sizeBytes, headers }, basePath, new Map()));
  }
  return out;
}

/** A style sheet as it is published; one that nothing changes keeps its content. */
async function styleEntry(
  tx: Queries,
  file: ManifestEntry,
  basePath: string,
  swaps: ReadonlyMap<string, string>,
): Promise<ManifestEntry> {
  const bytes = await contentBytes(tx, file.hash);
  const style = compileStyle(bytes, addressOfFile(file.path), basePath, swaps);
  const entry = { ...file, path: underBase(basePath, file.path) };
  if (style === (bytes as Uint8Array)) return entry;
  const hash = sha256(style);
  await keepContents(tx, [{ hash, bytes: style }], null);
  return { ...entry, hash, sizeBytes: style.length };
}

/** The site and the import a draft stands on. */
interface Of {
  readonly site: string;
  readonly importId: string;
  readonly origin: string | undefined;
  readonly day: string;
}

async function bring(deps: Deps, tx: Queries, of: Of, base: Base, after: Draft, options: CompileOptions) {
  const heads = await headsOfBoth(tx, of, base, after);
  const pages = await changed(tx, base, await affectedDelta(deps, tx, of, base, after, { ...options, heads }));
  if (!setsHeads(after) && !setsHeads(base.draft)) return pages;
  const files = await siteFilesDelta(
    tx,
    { ...of, draft: after, heads: heads.after },
    await allEntries(tx, pages.shards),
    base.draft,
  );
  return changed(tx, pages, files);
}

interface Compiled {
  readonly shards: ShardHashes;
  readonly files: number;
  readonly bytes: number;
}

async function changed(tx: Queries, base: Compiled, delta: ManifestDelta): Promise<Compiled> {
  const touched = touchedShards(delta).map((index) => base.shards[index]);
  const { shards, texts, filesMore, bytesMore } = applyDelta(base.shards, await shardTexts(tx, touched), delta, sha256);
  await keepShards(tx, texts);
  return { shards, files: base.files + filesMore, bytes: base.bytes + bytesMore };
}

interface BothHeads {
  readonly before: Heads | undefined;
  readonly after: Heads | undefined;
}

/** Undefined for a draft in which nothing was set for heads: then no record is read. */
async function headsOfBoth(tx: Queries, { site, importId, origin }: Of, base: Base, after: Draft): Promise<BothHeads> {
  const [isBefore, isAfter] = [setsHeads(base.draft), setsHeads(after)];
  if (!isBefore && !isAfter) return { before: undefined, after: undefined };
  const sources = await headSources(tx, site, importId);
  return {
    before: isBefore ? await headsOf(tx, importId, base.draft, sources, base.origin) : undefined,
    after: isAfter ? await headsOf(tx, importId, after, sources, origin) : undefined,
  };
}

async function affectedDelta(
  deps: Deps,
  tx: Queries,
  { site, importId }: Of,
  { draft: before, isImported = false }: Base,
  after: Draft,
  options: CompileOptions & { readonly heads: BothHeads },
): Promise<ManifestDelta> {
  const menus = { before: await menusInDraft(tx, importId, before), after: await menusInDraft(tx, importId, after) };
  // Under a path any page may say something from the root, and in another style every page is elsewhere.
  const isEverywhere = isImported && (after.basePath !== '' || after.style !== 'imported');
  const pages = isEverywhere
    ? await allPages(tx, importId, withRemoved(after))
    : await affectedPages(tx, importId, before, after, menus);
  const shared = await sharedPlan(tx, importId, after, menus.after);
  const addressOf = await branchAddresses(tx, importId, after);
  const listings = {
    before: isImported ? new Map<string, ListingInDraft>() : await listingsInDraft(tx, site, importId, before),
    after: await listingsInDraft(tx, site, importId, after),
  };
  for (const [id, page] of await pagesById(
    tx,
    importId,
    after,
    differingHeads(options.heads.before, options.heads.after),
  ))
    pages.set(id, page);
  const listingPages = differingListings(listings.before, listings.after);
  for (const [id, page] of await pagesById(tx, importId, after, listingPages)) pages.set(id, page);

  const put: ManifestEntry[] = [];
  const all = [...pages.values()];
  const shown = all
    .filter(({ id }) => !after.notReady.has(id) && !isOut(after, id) && (after.nodes.has(id) || !before.nodes.has(id)))
    .flatMap((page) => {
      const listing = listings.after.get(page.id);
      const plans = listing
        ? plansOfListing(after, listing, addressOf)
        : [planPage(after, page, writtenFrom(page), addressOf)];
      return plans.map((plan) => ({ page, plan: withHead(plan, options.heads.after) }));
    });
  for (let from = 0; from < shown.length; from += PAGES_A_BATCH * deps.threads.size) {
    options.signal?.throwIfAborted();
    options.report?.({ step: 'Compiling pages', done: from, total: shown.length, unit: 'pages' });
    const batch = shown.slice(from, from + PAGES_A_BATCH * deps.threads.size);
    const files = await compileBatch(deps, tx, batch, shared, options.signal);
    const fresh = files.filter(({ hash }, i) => hash !== batch[i]?.page.hash);
    await keepContents(tx, fresh, null);
    for (const { path, hash, encoding, bytes } of files) {
      const entry = { path, hash, sizeBytes: bytes.length, headers: fileHeaders(path, encoding) };
      put.push(entry);
      if (after.basePath !== '' && path === underBase(after.basePath, NOT_FOUND_PAGE))
        put.push({ ...entry, path: NOT_FOUND_PAGE });
    }
  }
  put.push(...(await swappedStyles(tx, importId, before, after)));
  const assets = await fileDelta(tx, importId, before, after);
  put.push(...assets.put);
  for (const listing of listings.after.values()) put.push(...(await feedEntry(tx, listing)));
  const kept = new Set(put.map(({ path }) => path));
  const isGone = ({ id }: SourcePage) => isOut(after, id);
  // Under a path the page for what is not found stands at the root as well.
  const alsoAtRoot =
    after.basePath === ''
      ? []
      : all
          .filter(isGone)
          .map((page) => publishedPath(before, page))
          .filter((path) => path === underBase(before.basePath, NOT_FOUND_PAGE))
          .map(() => NOT_FOUND_PAGE);
  const published = all.filter(
    ({ id }) => !before.notReady.has(id) && !isOut(before, id) && (before.nodes.has(id) || !after.nodes.has(id)),
  );
  const goneWithListings = [...listings.before].flatMap(([id, listing]) => {
    const stays = new Set(pathsOfAll(listings.after.get(id)));
    return pathsOfAll(listing).filter((path) => !stays.has(path));
  });
  const remove = [
    ...published.map((page) => publishedPath(before, page)),
    ...alsoAtRoot,
    ...assets.remove,
    ...goneWithListings,
  ].filter((path) => !kept.has(path));
  return { put, remove };
}

const pathsOfAll = (listing: ListingInDraft | undefined) => (listing ? pathsOfListing(listing) : []);

/** Style sheets in which pictures were exchanged, or are as they were again. */
async function swappedStyles(tx: Queries, importId: string, before: Draft, after: Draft): Promise<ManifestEntry[]> {
  const everywhere = (draft: Draft) =>
    swapsOf([...draft.touches.values()].filter(({ scope }) => scope.kind === 'everywhere'));
  const [old, now] = [everywhere(before), everywhere(after)];
  const differing = [...new Set([...old.keys(), ...now.keys()])].filter((from) => old.get(from) !== now.get(from));
  if (differing.length === 0) return [];
  const styles = await tx.many<{ path: string; hash: string; sizeBytes: number; headers: Record<string, string> }>(
    `select f.path, f.hash, f.size_bytes as "sizeBytes", f.headers from source_file f join file_reading r using (import_id, path)
      where f.import_id = $1 and f.page_id is null and r.targets && (select array_agg(t.path) from source_file t where t.import_id = $1 and t.address = any($2))`,
    [importId, differing],
  );
  const out: ManifestEntry[] = [];
  for (const style of styles)
    if (!after.removedFiles.has(style.path) && !after.assets.has(style.path))
      out.push(await styleEntry(tx, style, after.basePath, now));
  return out;
}

/** Files that are no pages: added here, removed, or in their place again. */
async function fileDelta(
  tx: Queries,
  importId: string,
  before: Draft,
  after: Draft,
): Promise<{ put: ManifestEntry[]; remove: string[] }> {
  const shown = (draft: Draft, path: string) => (draft.removedFiles.has(path) ? undefined : draft.assets.get(path));
  const paths = new Set([
    ...before.assets.keys(),
    ...after.assets.keys(),
    ...before.removedFiles.keys(),
    ...after.removedFiles.keys(),
  ]);
  const differing = [...paths].filter(
    (path) =>
      shown(before, path)?.hash !== shown(after, path)?.hash ||
      before.removedFiles.has(path) !== after.removedFiles.has(path),
  );
  const put: ManifestEntry[] = [];
  const imported: string[] = [];
  for (const path of differing) {
    const asset = shown(after, path);
    if (asset)
      put.push({
        path: underBase(after.basePath, path),
        hash: asset.hash,
        sizeBytes: asset.sizeBytes,
        headers: fileHeaders(path),
      });
    else if (!after.removedFiles.has(path)) imported.push(path);
  }
  // What was imported comes back where what stood in its place goes.
  put.push(...(await importedEntries(tx, importId, after, imported)));
  const there = new Set(put.map(({ path }) => path));
  return { put, remove: differing.map((path) => underBase(before.basePath, path)).filter((path) => !there.has(path)) };
}

/** Files of the import as they are published, where no page stands. */
async function importedEntries(
  tx: Queries,
  importId: string,
  draft: Draft,
  paths: readonly string[],
): Promise<ManifestEntry[]> {
  if (paths.length === 0) return [];
  const files = await tx.many<FileEntry>(
    'select path, hash, size_bytes as "sizeBytes", headers from source_file where import_id = $1 and page_id is null and path = any($2)',
    [importId, paths],
  );
  const swaps = swapsOf([...draft.touches.values()].filter(({ scope }) => scope.kind === 'everywhere'));
  const out: ManifestEntry[] = [];
  for (const file of files)
    out.push(
      file.headers['content-type']?.startsWith('text/css') === true
        ? await styleEntry(tx, file, draft.basePath, swaps)
        : { ...file, path: underBase(draft.basePath, file.path) },
    );
  return out;
}

async function compileBatch(
  deps: Deps,
  tx: Queries,
  pages: readonly { page: SourcePage; plan: PagePlan }[],
  shared: SharedPlan,
  signal?: AbortSignal,
): Promise<readonly CompiledFile[]> {
  const contents = await contentsByHash(
    tx,
    pages.map(({ page }) => page.hash),
  );
  const work = pages.map(({ page, plan }) => {
    const bytes = contents.get(page.hash);
    if (bytes === undefined) throw new Error(`content ${page.hash} is not kept`);
    return { plan, bytes };
  });
  if (work.length <= INLINE_PAGES) return compilePages(work, shared);
  const share = Math.ceil(work.length / deps.threads.size);
  const shares = Array.from({ length: deps.threads.size }, (_, i) => work.slice(i * share, (i + 1) * share)).filter(
    (part) => part.length > 0,
  );
  return (await Promise.all(shares.map((part) => deps.threads.compile(part, shared, signal)))).flat();
}
