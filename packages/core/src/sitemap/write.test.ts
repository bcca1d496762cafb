/** Sitemaps written: the protocol's limits, and what is written is what is read. The schema itself is asked in the server's peer tests. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MOST_BYTES, MOST_URLS, readSitemap, writeSitemaps, type SitemapPage } from './index.ts';

const page = (url: string, changed?: string): SitemapPage => ({ url, changed, alternates: [] });
const BASE = 'https://moor.example/';

describe('a sitemap', () => {
  it('lists what it was given, whatever the addresses are made of (property)', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.webUrl({ withQueryParameters: true })),
        fc.integer({ min: 1, max: 5 }),
        (urls, most) => {
          const files = writeSitemaps(
            urls.map((url) => page(url)),
            BASE,
            { urls: most, bytes: MOST_BYTES },
          );
          const [first] = files;
          const named = readSitemap(first?.text ?? '');
          const lists =
            named.sitemaps.length === 0
              ? files
              : named.sitemaps.map((url) => {
                  const file = files.find(({ path }) => BASE + path === url);
                  expect(file).toBeDefined();
                  return file;
                });
          expect(lists.flatMap((file) => readSitemap(file?.text ?? '').pages).sort()).toEqual([...urls].sort());
          for (const file of lists) expect(readSitemap(file?.text ?? '').pages.length).toBeLessThanOrEqual(most);
        },
      ),
    );
  });

  // sitemaps.org, "Sitemap index files": no more than 50,000 URLs, no larger than 50 MB.
  it('is one file up to 50,000 addresses, and an index above', () => {
    const pages = Array.from({ length: MOST_URLS }, (_, n) => page(`${BASE}${n}`));
    expect(writeSitemaps(pages, BASE).map(({ path }) => path)).toEqual(['sitemap.xml']);
    expect(writeSitemaps([...pages, page(`${BASE}x`)], BASE).map(({ path }) => path)).toEqual([
      'sitemap.xml',
      'sitemap-1.xml',
      'sitemap-2.xml',
    ]);
  });

  it('is never larger than the limit in bytes', () => {
    const pages = Array.from({ length: 50 }, (_, n) => page(`${BASE}${'ŵ'.repeat(20)}${n}`, '2026-01-02'));
    const files = writeSitemaps(pages, BASE, { urls: MOST_URLS, bytes: 1500 }).slice(1);
    expect(files.length).toBeGreaterThan(2);
    for (const { text } of files) expect(new TextEncoder().encode(text).length).toBeLessThanOrEqual(1500);
  });

  it('says the last change of each part in the index', () => {
    const [index] = writeSitemaps(
      [page(`${BASE}a`, '2026-01-01'), page(`${BASE}b`, '2026-03-01'), page(`${BASE}c`)],
      BASE,
      { urls: 2, bytes: MOST_BYTES },
    );
    expect(index?.text).toContain('<loc>https://moor.example/sitemap-1.xml</loc><lastmod>2026-03-01</lastmod>');
  });
});
