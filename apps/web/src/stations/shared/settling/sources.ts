/** How old addresses came to be known, in words. */
import type { OldSource } from '@fastigium/contracts/api/redirects';

export const SOURCE_WORDS: Readonly<Record<OldSource, string>> = {
  sitemap: 'old sitemap',
  index: 'search listing',
  log: 'access log',
  table: 'a table',
  pasted: 'pasted text',
  crawl: 'the old site',
  list: 'the first list',
  live: 'visitors of the live site',
};
