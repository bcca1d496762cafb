export { readSitemap, type SitemapList } from './read.ts';
