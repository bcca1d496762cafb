/** What simple ways find, to hold the matcher against: the same last segment, the nearest spelling, the words of address and title. */
import { closest } from 'fastest-levenshtein';
import MiniSearch from 'minisearch';
import type { RedirectMap } from './maps.ts';

/** How many of the addresses that have a counterpart each way finds at the first place. */
export interface Baselines {
  readonly sameLastSegment: number;
  readonly editDistance: number;
  readonly words: number;
}

export function baselines({ old, new: pages, truth }: RedirectMap): Baselines {
  const byLast = new Map<string, string>();
  for (const { url } of pages) if (!byLast.has(lastOf(url))) byLast.set(lastOf(url), url);
  const urls = pages.map(({ url }) => url);
  const index = new MiniSearch({ fields: ['words', 'title'], idField: 'url' });
  index.addAll(pages.map(({ url, title }) => ({ url, title, words: wordsOf(url) })));
  let [sameLastSegment, editDistance, words] = [0, 0, 0];
  for (const { url, title } of old) {
    const right = truth[url];
    if (right == null) continue;
    sameLastSegment += byLast.get(lastOf(url)) === right ? 1 : 0;
    editDistance += closest(url, urls) === right ? 1 : 0;
    words += index.search(`${wordsOf(url)} ${title ?? ''}`)[0]?.id === right ? 1 : 0;
  }
  return { sameLastSegment, editDistance, words };
}

function lastOf(url: string): string {
  return (
    url
      .replace(/[?#].*$/s, '')
      .replace(/\/$/, '')
      .split('/')
      .at(-1)
      ?.replace(/\.[a-z]+$/i, '')
      .toLowerCase() ?? ''
  );
}

function wordsOf(url: string): string {
  return url.replace(/\.[a-z]+(?=$|\?)/i, '').replace(/[^\p{L}\p{N}]+/gu, ' ');
}
