/** How old addresses came to be known, in words. */
import type { OldSource } from '@fastigium/contracts/api/redirects';
import { say } from '../words.ts';

export const SOURCE_WORDS: Readonly<Record<OldSource, string>> = {
  sitemap: say('sources.oldSitemap'),
  index: say('sources.searchListing'),
  log: say('sources.accessLog'),
  table: say('sources.aTable'),
  pasted: say('sources.pastedText'),
  crawl: say('sources.theOldSite'),
  list: say('sources.theFirstList'),
  live: say('sources.visitorsOfTheLiveSite'),
};
