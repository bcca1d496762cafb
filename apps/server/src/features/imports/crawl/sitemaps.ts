/** Pages a site lists in its sitemaps: those that no link leads to are found by them alone. */
import { findAddressWithin, type CrawlScope } from '@fastigium/core/crawl';
import type { Robots } from '@fastigium/core/robots';
import { readSitemap } from '@fastigium/core/sitemap';
import { gunzipSync } from 'node:zlib';
import type { Ask } from './ask.ts';

/** An index leads to further ones; nobody has to follow them for ever. */
const MOST_FILES = 50;
/** The protocol's own bound for one file, unpacked. */
const MOST_BYTES = 50 * 1024 * 1024;

/** @returns normal addresses inside the site; of sitemaps that cannot be read, none */
export async function readSitemapAddresses(
  robots: Robots,
  scope: CrawlScope,
  origin: string,
  ask: Ask,
): Promise<string[]> {
  return readListedSitemaps([...robots.sitemaps, '/sitemap.xml'], scope, origin, ask);
}

/** @param sitemaps their addresses, absolute or from the site's root */
export async function readListedSitemaps(
  sitemaps: readonly string[],
  scope: CrawlScope,
  origin: string,
  ask: Ask,
): Promise<string[]> {
  const waiting = sitemaps.flatMap((written) => (URL.canParse(written, origin) ? [new URL(written, origin).href] : []));
  const seen = new Set<string>();
  const found = new Set<string>();
  for (let next = waiting.shift(); next !== undefined && seen.size < MOST_FILES; next = waiting.shift()) {
    const url = new URL(next);
    // Elsewhere it would be another site's.
    if (seen.has(next) || findAddressWithin(scope, url) === undefined) continue;
    seen.add(next);
    const answer = await ask(url);
    if (!answer.ok || answer.status !== 200) continue;
    const { pages, sitemaps } = readSitemap(unpack(answer.body).toString('utf8'));
    for (const page of pages) {
      const address = URL.canParse(page) ? findAddressWithin(scope, new URL(page)) : undefined;
      if (address !== undefined) found.add(address);
    }
    waiting.push(...sitemaps.filter((each) => URL.canParse(each)));
  }
  return [...found];
}

/** `sitemap.xml.gz`, as the protocol allows (RFC 1952 begins so). */
function unpack(body: Buffer): Buffer {
  if (body[0] !== 0x1f || body[1] !== 0x8b) return body;
  try {
    return gunzipSync(body, { maxOutputLength: MOST_BYTES });
  } catch {
    return Buffer.alloc(0);
  }
}
