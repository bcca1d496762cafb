/**
 * A sitemap, and an index where one file is not enough.
 * Source: the sitemaps.org protocol 0.9; links to other languages as in "alternate" links of HTML (common practice).
 */
import { escapeXml } from '../xml/index.ts';

export interface SitemapPage {
  /** Absolute, in normal form. */
  readonly url: string;
  /** The day it last changed for visitors, `2016-05-09`; undefined where that is not known. */
  readonly changed: string | undefined;
  /** The page in all its languages, itself included. */
  readonly alternates: readonly { readonly language: string; readonly url: string }[];
}

export interface SitemapFile {
  /** Path from the root of the site. */
  readonly path: string;
  readonly text: string;
}

/** "No more than 50,000 URLs and must be no larger than 50MB (52,428,800 bytes)". */
export const MOST_URLS = 50_000;
export const MOST_BYTES = 52_428_800;

const OPEN = '<?xml version="1.0" encoding="UTF-8"?>\n';
const URLSET = `${OPEN}<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"`;
const XHTML = ' xmlns:xhtml="http://www.w3.org/1999/xhtml"';
const CLOSE = '</urlset>\n';

/**
 * @param pages in any order
 * @param base absolute address of the folder the files lie in, with a slash at its end
 * @returns `sitemap.xml` alone, or as the index of `sitemap-1.xml` and so on
 */
export function writeSitemaps(
  pages: readonly SitemapPage[],
  base: string,
  limits: { readonly urls: number; readonly bytes: number } = { urls: MOST_URLS, bytes: MOST_BYTES },
): SitemapFile[] {
  const parts: { entries: string[]; bytes: number; changed: string | undefined }[] = [];
  const usesXhtml = pages.some(({ alternates }) => alternates.length > 0);
  const head = `${URLSET}${usesXhtml ? XHTML : ''}>\n`;
  const around = head.length + CLOSE.length;
  for (const page of [...pages].sort((a, b) => (a.url < b.url ? -1 : 1))) {
    const entry = writeEntry(page);
    const bytes = countUtf8(entry);
    let part = parts.at(-1);
    if (!part || part.entries.length >= limits.urls || part.bytes + bytes > limits.bytes)
      parts.push((part = { entries: [], bytes: around, changed: undefined }));
    part.entries.push(entry);
    part.bytes += bytes;
    if (page.changed !== undefined && (part.changed === undefined || page.changed > part.changed))
      part.changed = page.changed;
  }
  const textOf = ({ entries }: { entries: readonly string[] }) => head + entries.join('') + CLOSE;
  if (parts.length <= 1) return [{ path: 'sitemap.xml', text: textOf(parts[0] ?? { entries: [] }) }];
  const files = parts.map((part, index) => ({
    path: `sitemap-${index + 1}.xml`,
    text: textOf(part),
    changed: part.changed,
  }));
  const index = [
    OPEN,
    '<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n',
    ...files.map(
      ({ path, changed }) =>
        `  <sitemap><loc>${escapeXml(base + path)}</loc>${changed === undefined ? '' : `<lastmod>${changed}</lastmod>`}</sitemap>\n`,
    ),
    '</sitemapindex>\n',
  ].join('');
  return [{ path: 'sitemap.xml', text: index }, ...files.map(({ path, text }) => ({ path, text }))];
}

function writeEntry({ url, changed, alternates }: SitemapPage): string {
  const links = alternates
    .map(
      ({ language, url: to }) =>
        `\n    <xhtml:link rel="alternate" hreflang="${escapeXml(language)}" href="${escapeXml(to)}"/>`,
    )
    .join('');
  return `  <url><loc>${escapeXml(url)}</loc>${changed === undefined ? '' : `<lastmod>${changed}</lastmod>`}${links}</url>\n`;
}

const utf8 = new TextEncoder();
function countUtf8(text: string): number {
  return utf8.encode(text).length;
}
