/** Sitemaps read: the examples of the sitemaps.org protocol (from memory, addresses as there), and what is none. */
import { describe, expect, it } from 'vitest';
import { readSitemap } from './index.ts';

describe('a sitemap', () => {
  it('lists the addresses of a url set, entities read', () => {
    expect(
      readSitemap(`<?xml version="1.0" encoding="UTF-8"?>
<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
  <url><loc>http://www.example.com/</loc><lastmod>2005-01-01</lastmod><changefreq>monthly</changefreq><priority>0.8</priority></url>
  <url><loc>http://www.example.com/catalog?item=12&amp;desc=vacation_hawaii</loc></url>
  <url><lastmod>2004-12-23</lastmod></url>
</urlset>`),
    ).toEqual({
      pages: ['http://www.example.com/', 'http://www.example.com/catalog?item=12&desc=vacation_hawaii'],
      sitemaps: [],
    });
  });

  it('may be one of one page, or of none', () => {
    expect(readSitemap('<urlset><url><loc> http://a.example/x </loc></url></urlset>').pages).toEqual([
      'http://a.example/x',
    ]);
    expect(readSitemap('<urlset></urlset>')).toEqual({ pages: [], sitemaps: [] });
    expect(
      readSitemap(
        '<s:urlset xmlns:s="http://www.sitemaps.org/schemas/sitemap/0.9"><s:url><s:loc>http://a.example/</s:loc></s:url></s:urlset>',
      ).pages,
    ).toEqual(['http://a.example/']);
  });

  it('may be an index, or plain text', () => {
    expect(
      readSitemap(
        '<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>http://www.example.com/sitemap1.xml.gz</loc></sitemap></sitemapindex>',
      ),
    ).toEqual({ pages: [], sitemaps: ['http://www.example.com/sitemap1.xml.gz'] });
    expect(readSitemap('\uFEFFhttp://a.example/1\r\nhttp://a.example/2\n\nno address\n').pages).toEqual([
      'http://a.example/1',
      'http://a.example/2',
    ]);
  });

  it.each([
    ['', 'nothing'],
    ['<html><body>Not found', 'a page'],
    ['<urlset><url><loc>http://a.example/', 'a broken file'],
    ['{"pages":[]}', 'JSON'],
    [
      '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><urlset><url><loc>http://a.example/&b;</loc></url></urlset>',
      'a file with entities of its own',
    ],
  ])('%# is none: %s (%s)', (text) => expect(readSitemap(text)).toEqual({ pages: [], sitemaps: [] }));

  it('is read as far as the protocol lets it go', () => {
    expect(
      readSitemap(`<urlset>${'<url><loc>http://a.example/</loc></url>'.repeat(50_100)}</urlset>`).pages,
    ).toHaveLength(50_000);
  });
});
