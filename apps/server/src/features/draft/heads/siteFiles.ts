/** Files for machines that are no pages: robots.txt, security.txt, sitemaps and icons. */
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import {
  findFileHeaders,
  stripBase,
  placeUnderBase,
  type ManifestDelta,
  type ManifestEntry,
} from '@fastigium/core/release';
import { parseRobots } from '@fastigium/core/robots';
import type { Draft } from '@fastigium/core/site';
import { writeSitemaps, type SitemapPage } from '@fastigium/core/sitemap';
import type { Queries } from '../../../db/database.ts';
import { hashSha256 } from '../../../threads/tasks.ts';
import { keepContents } from '../../shared/contents.ts';
import type { Heads } from './heads.ts';

export const ROBOTS = 'robots.txt';
/** The sitemap itself, or the index of several. */
export const SITEMAP = 'sitemap.xml';
/** RFC 9116, section 3. */
export const SECURITY = '.well-known/security.txt';

const findTextSet = (draft: Draft, name: string): string | undefined => {
  const text = draft.head.get(`everywhere ${name}`)?.text;
  return typeof text === 'string' && text.trim() !== '' ? text : undefined;
};

export const hasSitemap = (draft: Draft): boolean => findTextSet(draft, 'sitemap') !== undefined;

export interface SiteFilesOf {
  readonly site: string;
  readonly importId: string;
  readonly draft: Draft;
  readonly heads: Heads | undefined;
  readonly origin: string | undefined;
  /** The day pages that differ from what visitors see are said to have changed. */
  readonly day: string;
}

/**
 * What the files of a draft change in its manifest. They stand where a host looks for them, at the root also
 * of a site that is under a path, but sitemaps, which hold for the folder they are in.
 *
 * @param all the manifest so far
 * @param before the draft that manifest came from; its files go where this one has none
 */
export async function compareSiteFiles(
  tx: Queries,
  basis: SiteFilesOf,
  all: ReadonlyMap<string, ManifestEntry>,
  before: Draft,
): Promise<ManifestDelta> {
  const { draft, importId } = basis;
  const put = new Map<string, ManifestEntry>();
  const add = async (path: string, text: string) => put.set(path, await keepTextEntry(tx, path, text));
  const robots = writeRobotsTxt(draft, basis.origin);
  if (robots !== undefined) await add(ROBOTS, robots);
  const security = findTextSet(draft, 'security.txt');
  if (security !== undefined) await add(SECURITY, `${security.trimEnd()}\n`);
  for (const { path, text } of await prepareSitemaps(tx, basis, all))
    await add(placeUnderBase(draft.basePath, path), text);
  for (const { path, hash, sizeBytes } of draft.icons)
    put.set(placeUnderBase(draft.basePath, path), {
      path: placeUnderBase(draft.basePath, path),
      hash,
      sizeBytes,
      headers: findFileHeaders(path),
    });
  const gone = listPaths(before, all).filter((path) => !put.has(path));
  const imported = await readImportedAt(tx, importId, draft, gone);
  const unchanged = [...put.values()].filter((entry) => {
    const known = all.get(entry.path);
    return known?.hash === entry.hash && JSON.stringify(known.headers) === JSON.stringify(entry.headers);
  });
  for (const { path } of unchanged) put.delete(path);
  return {
    put: [...put.values(), ...imported],
    remove: gone.filter((path) => !imported.some((entry) => entry.path === path)),
  };
}

/** As it goes out: with the sitemap's address, unless it names one. */
export function writeRobotsTxt(draft: Draft, origin: string | undefined): string | undefined {
  const text = findTextSet(draft, ROBOTS);
  if (text === undefined) return undefined;
  const body = `${text.trimEnd()}\n`;
  if (!hasSitemap(draft) || origin === undefined || parseRobots(body).sitemaps.length > 0) return body;
  return `${body}\nSitemap: ${origin}${draft.basePath}/${SITEMAP}\n`;
}

async function prepareSitemaps(
  tx: Queries,
  { site, draft, heads, origin, day }: SiteFilesOf,
  all: ReadonlyMap<string, ManifestEntry>,
) {
  if (!hasSitemap(draft) || heads === undefined || origin === undefined) return [];
  const changed = new Map(
    (
      await tx.many<{ path: string; hash: string; day: string }>(
        'select distinct on (path) path, hash, day::text as day from pages_changed, unnest(paths, hashes) as page(path, hash) where site_id = $1 order by path, id desc',
        [site],
      )
    ).map((row) => [row.path, row]),
  );
  const pageAt = new Map(
    [...heads.pages.keys()].flatMap((id) => {
      const head = heads.addressOf(id);
      return head === undefined ? [] : [[head, id] as const];
    }),
  );
  const pages: SitemapPage[] = [];
  for (const [path, { hash }] of all) {
    if (!isPageFile(path) || path.endsWith('404.html')) continue;
    const address = findAddressOfFile(path);
    const id = pageAt.get(address);
    const head = id === undefined ? undefined : heads.of(id);
    const line = (name: string) => head?.lines.find((each) => each.name === name)?.text;
    if (/\b(noindex|none)\b/i.test(line('meta:robots') ?? '')) continue;
    const canonical = line('link:canonical');
    // A page that says it is another's double is found there.
    if (canonical !== undefined && /^https?:/i.test(canonical) && canonical !== origin + address) continue;
    const known = changed.get(path);
    const alternates =
      id === undefined
        ? []
        : (heads.groups.find((group) => group.some((each) => each.id === id)) ?? []).map((each) => ({
            language: each.language,
            url: origin + draft.basePath + each.address,
          }));
    pages.push({ url: origin + address, changed: known?.hash === hash ? known.day : day, alternates });
  }
  return writeSitemaps(pages, `${origin}${draft.basePath}/`);
}

/** Everything a draft's settings have put into its manifest. */
function listPaths(draft: Draft, all: ReadonlyMap<string, ManifestEntry>): string[] {
  return [
    ...(findTextSet(draft, ROBOTS) === undefined ? [] : [ROBOTS]),
    ...(findTextSet(draft, 'security.txt') === undefined ? [] : [SECURITY]),
    ...(hasSitemap(draft)
      ? [...all.keys()].filter((path) => /^sitemap(-\d+)?\.xml$/.test(stripBase(draft.basePath, path) ?? ''))
      : []),
    ...draft.icons.map(({ path }) => placeUnderBase(draft.basePath, path)),
  ].filter((path) => all.has(path));
}

async function readImportedAt(
  tx: Queries,
  importId: string,
  draft: Draft,
  paths: readonly string[],
): Promise<ManifestEntry[]> {
  if (paths.length === 0) return [];
  const inside = new Map(paths.map((path) => [stripBase(draft.basePath, path) ?? path, path]));
  const files = await tx.many<{ path: string; hash: string; sizeBytes: number; headers: Record<string, string> }>(
    'select path, hash, size_bytes as "sizeBytes", headers from source_file where import_id = $1 and path = any($2)',
    [importId, [...inside.keys()]],
  );
  return files.map((file) => ({ ...file, path: inside.get(file.path) ?? file.path }));
}

async function keepTextEntry(tx: Queries, path: string, text: string): Promise<ManifestEntry> {
  const bytes = Buffer.from(text);
  const hash = hashSha256(bytes);
  await keepContents(tx, [{ hash, bytes }], null);
  return { path, hash, sizeBytes: bytes.length, headers: findFileHeaders(path, 'utf-8') };
}
