/** Who may visit a draft, and what the page that is shown instead loads. */
import { OPEN_TO_ALL, type SiteAccess } from '@fastigium/core/access';
import { findAddressOfFile, listCandidateFiles, isPageFile, resolveHref } from '@fastigium/core/address';
import { readBaseHref, findCssUrls, decodeSource, parseForReading, readPage } from '@fastigium/core/html';
import { compileAccess, findPublishedPath, type ShardHashes } from '@fastigium/core/release';
import { withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';
import { readEntries } from '../shared/manifests.ts';
import { readPagesById } from './pageFiles.ts';

export async function readAccess(
  tx: Queries,
  importId: string,
  draft: Draft,
  shards: ShardHashes,
): Promise<SiteAccess> {
  if (draft.entries.size === 0 && draft.lastDay === undefined) return OPEN_TO_ALL;
  const places = [...draft.entries.keys()].flatMap((place) => place ?? []);
  const pages = await readPagesById(tx, importId, withRemoved(draft), [
    ...places,
    ...(draft.shownInstead === undefined ? [] : [draft.shownInstead]),
  ]);
  const shown = draft.shownInstead === undefined ? undefined : pages.get(draft.shownInstead);
  const files = shown ? await readFilesLoaded(tx, shards, findPublishedPath(draft, shown)) : [];
  return compileAccess(draft, pages, () => files);
}

/** More than any page shows; a page that loads itself round in a circle ends here too. */
const MOST_FILES = 500;

/** Every file of the site that a page loads, through its style sheets on; pages it links to or frames are none. */
async function readFilesLoaded(tx: Queries, shards: ShardHashes, page: string): Promise<string[]> {
  const found = new Set<string>();
  let waiting = [page];
  while (waiting.length > 0 && found.size < MOST_FILES) {
    const entries = await readEntries(tx, shards, waiting);
    const wanted = new Set<string>();
    for (const { path, hash } of entries.values())
      for (const file of findReferred(path, await readContent(tx, hash))) wanted.add(file);
    const there = await readEntries(
      tx,
      shards,
      [...wanted].filter((file) => !found.has(file) && !isPageFile(file)),
    );
    for (const path of there.keys()) found.add(path);
    waiting = [...there.keys()].filter((path) => path.endsWith('.css'));
  }
  return [...found];
}

function findReferred(path: string, bytes: Uint8Array): string[] {
  const isStyle = path.endsWith('.css');
  const base = isStyle ? undefined : readBaseHref(parseForReading(bytes));
  const hrefs = isStyle
    ? findCssUrls(decodeSource(bytes).text).map(({ url }) => url.trim())
    : readPage(bytes)
        .links.filter(({ element }) => !['a', 'area', 'form'].includes(element))
        .map(({ href }) => href);
  return hrefs.flatMap((href) => {
    const meant = resolveHref(href, findAddressOfFile(path), base);
    return meant.kind === 'inside' ? listCandidateFiles(meant.address.path) : [];
  });
}
