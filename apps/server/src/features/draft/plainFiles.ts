/** Files that are no pages, as a draft publishes them: as they came, or as style sheets say it from where they stand. */
import { findAddressOfFile } from '@fastigium/core/address';
import {
  compileStyle,
  findFileHeaders,
  placeUnderBase,
  type ManifestDelta,
  type ManifestEntry,
} from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import { listSwaps } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { readContent, keepContents } from '../shared/contents.ts';

/** The page a host shows for what it does not find; it looks for it at the root, wherever the site stands. */
export const NOT_FOUND_PAGE = '404.html';

type FileEntry = ManifestEntry & Record<string, unknown>;

/** Files in the folder the site is published under, style sheets saying from there what they said from the root. */
export async function placeFilesUnder(
  tx: Queries,
  files: readonly FileEntry[],
  basePath: string,
): Promise<ManifestEntry[]> {
  const out: ManifestEntry[] = [];
  for (const { path, hash, sizeBytes, headers } of files) {
    const entry = { path: placeUnderBase(basePath, path), hash, sizeBytes, headers };
    if (path === NOT_FOUND_PAGE) out.push({ ...entry, path });
    if (headers['content-type']?.startsWith('text/css') !== true) {
      out.push(entry);
      continue;
    }
    out.push(await keepStyleEntry(tx, { path, hash, sizeBytes, headers }, basePath, new Map()));
  }
  return out;
}

/** A style sheet as it is published; one that nothing changes keeps its content. */
async function keepStyleEntry(
  tx: Queries,
  file: ManifestEntry,
  basePath: string,
  swaps: ReadonlyMap<string, string>,
): Promise<ManifestEntry> {
  const bytes = await readContent(tx, file.hash);
  const style = compileStyle(bytes, findAddressOfFile(file.path), basePath, swaps);
  const entry = { ...file, path: placeUnderBase(basePath, file.path) };
  if (style === (bytes as Uint8Array)) return entry;
  const hash = hashSha256(style);
  await keepContents(tx, [{ hash, bytes: style }], null);
  return { ...entry, hash, sizeBytes: style.length };
}

const listSwapsEverywhere = (draft: Draft) =>
  listSwaps([...draft.touches.values()].filter(({ scope }) => scope.kind === 'everywhere'));

/** Style sheets in which pictures were exchanged between two drafts, or are as they were again. */
export async function readStylesToSwap(
  tx: Queries,
  importId: string,
  before: Draft,
  after: Draft,
): Promise<readonly ManifestEntry[]> {
  const [old, now] = [listSwapsEverywhere(before), listSwapsEverywhere(after)];
  const differing = [...new Set([...old.keys(), ...now.keys()])].filter((from) => old.get(from) !== now.get(from));
  return differing.length === 0 ? [] : readStylesShowing(tx, importId, after, differing);
}

/** Style sheets of the import that show one of these pictures, by their addresses inside the site. */
export async function readStylesShowing(
  tx: Queries,
  importId: string,
  draft: Draft,
  pictures: readonly string[],
): Promise<readonly ManifestEntry[]> {
  const styles = await tx.many<FileEntry>(
    `select f.path, f.hash, f.size_bytes as "sizeBytes", f.headers from source_file f join file_reading r using (import_id, path)
      where f.import_id = $1 and f.page_id is null and r.targets && (select array_agg(t.path) from source_file t where t.import_id = $1 and t.address = any($2))
      order by f.path`,
    [importId, pictures],
  );
  return styles.filter(({ path }) => !draft.removedFiles.has(path) && !draft.assets.has(path));
}

export async function swapStyles(tx: Queries, importId: string, before: Draft, after: Draft): Promise<ManifestEntry[]> {
  const out: ManifestEntry[] = [];
  for (const style of await readStylesToSwap(tx, importId, before, after))
    out.push(await keepStyleEntry(tx, style, after.basePath, listSwapsEverywhere(after)));
  return out;
}

/** Files that are no pages: added here, removed, or in their place again. */
export async function compareFiles(tx: Queries, importId: string, before: Draft, after: Draft): Promise<ManifestDelta> {
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
        path: placeUnderBase(after.basePath, path),
        hash: asset.hash,
        sizeBytes: asset.sizeBytes,
        headers: findFileHeaders(path),
      });
    else if (!after.removedFiles.has(path)) imported.push(path);
  }
  // What was imported comes back where what stood in its place goes.
  put.push(...(await readImportedEntries(tx, importId, after, imported)));
  const there = new Set(put.map(({ path }) => path));
  return {
    put,
    remove: differing.map((path) => placeUnderBase(before.basePath, path)).filter((path) => !there.has(path)),
  };
}

/** Files of the import as they are published, where no page stands. */
async function readImportedEntries(
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
  const swaps = listSwapsEverywhere(draft);
  const out: ManifestEntry[] = [];
  for (const file of files)
    out.push(
      file.headers['content-type']?.startsWith('text/css') === true
        ? await keepStyleEntry(tx, file, draft.basePath, swaps)
        : { ...file, path: placeUnderBase(draft.basePath, file.path) },
    );
  return out;
}
