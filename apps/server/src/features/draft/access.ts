/** Who may visit a draft, and what the page that is shown instead loads. */
import { OPEN_TO_ALL, type SiteAccess } from '@fastigium/core/access';
import { addressOfFile, candidateFiles, isPageFile, resolveHref } from '@fastigium/core/address';
import { baseHref, cssUrls, decodeSource, parseForReading, readPage } from '@fastigium/core/html';
import { compileAccess, publishedPath, type ShardHashes } from '@fastigium/core/release';
import { withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { contentBytes } from '../shared/contents.ts';
import { entriesOf } from '../shared/manifests.ts';
import { pagesById } from './pageFiles.ts';

export async function accessOf(tx: Queries, importId: string, draft: Draft, shards: ShardHashes): Promise<SiteAccess> {
  if (draft.entries.size === 0 && draft.lastDay === undefined) return OPEN_TO_ALL;
  const places = [...draft.entries.keys()].flatMap((place) => place ?? []);
  const pages = await pagesById(tx, importId, withRemoved(draft), [
    ...places,
    ...(draft.shownInstead === undefined ? [] : [draft.shownInstead]),
  ]);
  const shown = draft.shownInstead === undefined ? undefined : pages.get(draft.shownInstead);
  const files = shown ? await filesLoaded(tx, shards, publishedPath(draft, shown)) : [];
  return compileAccess(draft, pages, () => files);
}

/** More than any page shows; a page that loads itself round in a circle ends here too. */
const MOST_FILES = 500;

/** Every file of the site that a page loads, through its style sheets on; pages it links to or frames are none. */
async function filesLoaded(tx: Queries, shards: ShardHashes, page: string): Promise<string[]> {
  const found = new Set<string>();
  let waiting = [page];
  while (waiting.length > 0 && found.size < MOST_FILES) {
    const entries = await entriesOf(tx, shards, waiting);
    const wanted = new Set<string>();
    for (const { path, hash } of entries.values())
      for (const file of referredTo(path, await contentBytes(tx, hash))) wanted.add(file);
    const there = await entriesOf(
      tx,
      shards,
      [...wanted].filter((file) => !found.has(file) && !isPageFile(file)),
    );
    for (const path of there.keys()) found.add(path);
    waiting = [...there.keys()].filter((path) => path.endsWith('.css'));
  }
  return [...found];
}

function referredTo(path: string, bytes: Uint8Array): string[] {
  const isStyle = path.endsWith('.css');
  const base = isStyle ? undefined : baseHref(parseForReading(bytes));
  const hrefs = isStyle
    ? cssUrls(decodeSource(bytes).text).map(({ url }) => url.trim())
    : readPage(bytes)
        .links.filter(({ element }) => !['a', 'area', 'form'].includes(element))
        .map(({ href }) => href);
  return hrefs.flatMap((href) => {
    const meant = resolveHref(href, addressOfFile(path), base);
    return meant.kind === 'inside' ? candidateFiles(meant.address.path) : [];
  });
}
