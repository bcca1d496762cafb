export { readSitemap, type SitemapList } from './read.ts';
export { MOST_BYTES, MOST_URLS, writeSitemaps, type SitemapFile, type SitemapPage } from './write.ts';
