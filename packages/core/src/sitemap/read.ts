/**
 * What a sitemap lists.
 * Source: the sitemaps.org protocol 0.9: XML of a url set or of an index, or plain text with an address a line.
 */
import { XMLParser } from 'fast-xml-parser';
import { parseXml } from '../xml/parsed.ts';
import { withoutMark } from '../text/index.ts';

export interface SitemapList {
  /** Absolute addresses of pages, as written. */
  readonly pages: readonly string[];
  /** Absolute addresses of further sitemaps. */
  readonly sitemaps: readonly string[];
}

const NOTHING: SitemapList = { pages: [], sitemaps: [] };
/** "No more than 50,000 URLs" in one file; a longer one is read as far as that. */
const MOST = 50_000;

const parser = new XMLParser({
  ignoreAttributes: true,
  removeNSPrefix: true,
  processEntities: { enabled: true, maxTotalExpansions: 1_000_000 },
  parseTagValue: false,
  isArray: (name) => name === 'url' || name === 'sitemap',
});

/** Reads anything; what is no sitemap lists nothing. */
export function readSitemap(text: string): SitemapList {
  const source = withoutMark(text).trimStart();
  if (!source.startsWith('<'))
    return {
      pages: source
        .split(/\r\n|\r|\n/)
        .map((line) => line.trim())
        .filter((line) => /^https?:\/\//i.test(line))
        .slice(0, MOST),
      sitemaps: [],
    };
  const root = parseXml(parser, source) as
    { urlset?: { url?: Entry[] } | ''; sitemapindex?: { sitemap?: Entry[] } | '' } | undefined;
  if (!root) return NOTHING;
  return {
    pages: listLocations(root.urlset ? root.urlset.url : undefined),
    sitemaps: listLocations(root.sitemapindex ? root.sitemapindex.sitemap : undefined),
  };
}

type Entry = { readonly loc?: unknown } | '';

function listLocations(entries: readonly Entry[] | undefined): string[] {
  return (entries ?? [])
    .slice(0, MOST)
    .flatMap((entry) =>
      entry !== '' && typeof entry.loc === 'string' && entry.loc.trim() !== '' ? [entry.loc.trim()] : [],
    );
}
