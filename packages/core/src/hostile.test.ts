/**
 * Every reader of what people bring in, against what no tool writes: 20,000 inputs, made of real forms by cutting,
 * doubling, nesting and spoiling them. What cannot be read ends in an answer that says so, never in a throw, and never
 * takes long. The depths are those at which an engine's own stack gives up.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseAddress } from './address/index.ts';
import { surveySite } from './checks/index.ts';
import { settleEncoding } from './crawl/index.ts';
import { isTooDeep, readColour, readSheet } from './css/index.ts';
import { readZone } from './dns/index.ts';
import { findMarkupFault } from './head/index.ts';
import { findCssUrls, decodeSource, parseSrcset, readPage } from './html/index.ts';
import { findMenus } from './menus/index.ts';
import { parsePage } from './html/index.ts';
import { readPictureSize, svgFault } from './picture/index.ts';
import { readApacheRules, readNginxRules, readRuleTable } from './redirects/exchange/read/index.ts';
import { readFeedTemplate, guessColumns, readIndexPage, readLogLine, readPasted } from './redirects/gather/index.ts';
import { readPattern } from './redirects/pattern/index.ts';
import { compileStyle } from './release/index.ts';
import { isAllowed, parseRobots } from './robots/index.ts';
import { checkSecurityTxt } from './securityTxt/index.ts';
import { readSitemap } from './sitemap/index.ts';
import { checkData } from './structured/index.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const NOW = '2026-11-29T00:00:00Z';

const siteFile = (path: string, bytes: Uint8Array) => ({ path, bytes, hash: path });

interface Reader {
  readonly name: string;
  /** Real forms, which are spoiled. */
  readonly forms: readonly string[];
  /** What stands in itself, opened and closed. */
  readonly nests: readonly (readonly [string, string])[];
  readonly runs: number;
  read(text: string): unknown;
}

const PAGE =
  '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>A</title><link rel="stylesheet" href="a.css"><style>p{color:#777}</style></head><body><nav><ul><li><a href="/">Home</a><li><a href="/b/">B</a></ul></nav><main><h1>A</h1><p style="color:red">Text &amp; <img src="a.png" srcset="a.png 1x, b.png 2x" alt=""></p><table><tr><td>1</table></main><script type="application/ld+json">{"@context":"https://schema.org","@type":"Person","name":"A"}</script></body></html>';
const SHEET =
  '@import "b.css";@media (min-width:40em) and (max-width:60em){a:not(.b):hover>i::before{color:rgb(1 2 3/50%);background:url("a b.png")}}:root{--a:calc(1px + (2px*3))}@supports(display:grid){.x[data-a="}"]{font:1em/2 x}}';
const FEED =
  '<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom"><link rel="next" href="/2"/><entry><title>A</title><link href="/a"/><summary>x</summary></entry></feed>';
const RSS =
  '<rss version="2.0"><channel><item><title>A</title><link>/a</link><description>x &lt;b&gt;</description></item></channel></rss>';
const OPEN_SEARCH =
  '<OpenSearchDescription xmlns="http://a9.com/-/spec/opensearch/1.1/"><Url type="application/atom+xml" template="/s?q={searchTerms}&amp;p={startPage?}"/></OpenSearchDescription>';
const SITEMAP =
  '<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>https://a.example/</loc></url></urlset>';
const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg"><style>a{fill:url(#b)}</style><g><path d="M0 0" style="fill:red"/></g></svg>';
const DATA = '{"@context":"https://schema.org","@graph":[{"@type":"Event","location":{"@type":"Place","name":"A"}}]}';
const APACHE =
  'RewriteEngine On\nRedirect 301 /a /b\nRedirectMatch 302 ^/c/(.*)$ /d/$1\nRewriteCond %{QUERY_STRING} ^id=(\\d+)$\nRewriteRule ^e$ /f/%1? [R=301,L,NC]\n<IfModule x>\n</IfModule>\n';
const NGINX =
  'location = /a { return 301 /b; }\nrewrite ^/c/(.*)$ /d/$1 permanent;\nmap $uri $to { /x /y; ~^/z "/w"; }\nif ($args ~ "id=1") { return 302 /q; }\n';
const ZONE =
  '$ORIGIN a.example.\n$TTL 1h\n@ IN SOA ns.a.example. h.a.example. (1 2h 3h 4w 5m)\n@ IN A 192.0.2.1\nwww 300 IN CNAME @\n@ TXT "a" "b;c" ; note\n@ MX 10 mail\n';
const ROBOTS = 'User-agent: *\nDisallow: /a*b$\nAllow: /\nSitemap: https://a.example/s.xml\n';
const LOG =
  '192.0.2.1 - - [29/Nov/2026:10:00:00 +0000] "GET /a?b=%20 HTTP/1.1" 404 12 "https://x.example/" "Mozilla/5.0 (X)"';

const READERS: readonly Reader[] = [
  {
    name: 'pages, with every check',
    forms: [PAGE],
    nests: [
      ['<div>', ''],
      ['<b>', '</b>'],
      ['<ul><li>', ''],
      ['<table><tr><td>', ''],
      ['<svg>', ''],
      ['<a href="/x">', ''],
      ['<template>', ''],
      ['<select>', ''],
      ['<p style="a:(', '">'],
      ['<!--', '-->'],
    ],
    runs: 200,
    read: (text) => surveySite([siteFile('index.html', encode(text)), siteFile('a.css', encode(SHEET))]),
  },
  {
    name: 'styles, with the page that has them',
    forms: [SHEET],
    nests: [
      ['@media all{', '}'],
      ['@layer a{', '}'],
      ['a{', '}'],
      [':not(', ')'],
      ['a{b:calc(', ')}'],
      ['a[', ']'],
      ['/*', '*/'],
      ['"', '"'],
    ],
    runs: 500,
    read: (text) => surveySite([siteFile('index.html', encode(PAGE)), siteFile('a.css', encode(text))]),
  },
  {
    name: 'style sheets',
    forms: [SHEET],
    nests: [
      ['@media all{', '}'],
      [':is(', ')'],
      ['a{b:(', ')}'],
    ],
    runs: 1000,
    read: (text) => [
      readSheet(text),
      isTooDeep(text),
      findCssUrls(text),
      compileStyle(encode(text), '/a.css', '/b', new Map()),
    ],
  },
  {
    name: 'colours',
    forms: ['rgb(1 2 3 / 50%)', '#12345678', 'color-mix(in srgb, red, blue)'],
    nests: [['rgb(', ')']],
    runs: 1450,
    read: readColour,
  },
  {
    name: 'pages',
    forms: [PAGE],
    nests: [
      ['<div>', ''],
      ['<ul><li>', ''],
      ['<frameset>', ''],
      ['<noscript>', ''],
    ],
    runs: 150,
    read: (text) => [readPage(encode(text)), findMenus(parsePage(encode(text)), '/')],
  },
  {
    name: 'markup for the head',
    forms: ['<script>a()</script>', '<link rel=a>'],
    nests: [
      ['<div>', ''],
      ['<script>', '</script>'],
    ],
    runs: 800,
    read: (text) => [findMarkupFault(text, 'head'), findMarkupFault(text, 'end')],
  },
  {
    name: 'sets of pictures',
    forms: ['a.png 1x, b.png 2x, c,d.png 100w'],
    nests: [['(', ')']],
    runs: 900,
    read: parseSrcset,
  },
  {
    name: 'feeds',
    forms: [FEED, RSS, OPEN_SEARCH],
    nests: [
      ['<a>', '</a>'],
      ['<entry>', '</entry>'],
      ['<link>', '</link>'],
      ['<![CDATA[', ']]>'],
    ],
    runs: 2500,
    read: (text) => [readIndexPage(text), readFeedTemplate(text)],
  },
  {
    name: 'sitemaps',
    forms: [SITEMAP, 'https://a.example/\nhttps://a.example/b'],
    nests: [
      ['<url>', '</url>'],
      ['<a>', '</a>'],
      ['<!DOCTYPE a [<!ENTITY b "', '">]>'],
    ],
    runs: 2500,
    read: readSitemap,
  },
  {
    name: 'drawings',
    forms: [SVG],
    nests: [
      ['<g>', '</g>'],
      ['<style>', '</style>'],
      ['<?a ', '?>'],
    ],
    runs: 2000,
    read: svgFault,
  },
  {
    name: 'structured data',
    forms: [DATA],
    nests: [
      ['[', ']'],
      ['{"@graph":[', ']}'],
      ['{"@type":"Person","knows":', '}'],
    ],
    runs: 2000,
    read: checkData,
  },
  {
    name: 'rules of Apache',
    forms: [APACHE],
    nests: [
      ['<If "a">\n', '</If>\n'],
      ['RedirectMatch ^(', ')$ /a\n'],
    ],
    runs: 1000,
    read: readApacheRules,
  },
  {
    name: 'rules of nginx',
    forms: [NGINX],
    nests: [
      ['location / { ', '}'],
      ['rewrite ^(', ')$ /a;'],
      ['map $a $b { ', '}'],
    ],
    runs: 1000,
    read: readNginxRules,
  },
  {
    name: 'tables',
    forms: ['a,b,301\n/c,/d,302'],
    nests: [['"', '"']],
    runs: 500,
    read: (text) => [
      readRuleTable(text.split('\n').map((row) => row.split(','))),
      guessColumns(text.split('\n').map((row) => row.split(','))),
    ],
  },
  {
    name: 'zone files',
    forms: [ZONE],
    nests: [
      ['(', ')'],
      ['"', '"'],
      ['$ORIGIN a.', '\n'],
    ],
    runs: 1000,
    read: (text) => readZone(text, 'a.example'),
  },
  {
    name: 'robots.txt',
    forms: [ROBOTS],
    nests: [
      ['User-agent: *\n', ''],
      ['Disallow: /*', ''],
    ],
    runs: 700,
    read: (text) => isAllowed(parseRobots(text), 'Fastigium', '/a/b'),
  },
  {
    name: 'security.txt',
    forms: ['Contact: mailto:a@a.example\nExpires: 2027-01-01T00:00:00Z\n'],
    nests: [['Contact: ', '\n']],
    runs: 500,
    read: (text) => checkSecurityTxt(text, NOW),
  },
  {
    name: 'logs',
    forms: [LOG],
    nests: [
      ['"', '"'],
      ['[', ']'],
    ],
    runs: 1500,
    read: readLogLine,
  },
  {
    name: 'lists that were pasted',
    forms: ['/a 12\nhttps://a.example/b\n"c";3'],
    nests: [['/', '']],
    runs: 1000,
    read: readPasted,
  },
  {
    name: 'patterns',
    forms: ['/a/:b(\\d+)/*', '/x{y}?/:z+'],
    nests: [
      ['{', '}'],
      ['(', ')'],
      ['/:a(', ')'],
    ],
    runs: 1200,
    read: (text) => readPattern(text),
  },
  {
    name: 'addresses',
    forms: ['/a/b?c=d#e', 'https://a.example:8080/x%2fy'],
    nests: [
      ['../', ''],
      ['%25', ''],
    ],
    runs: 1500,
    read: parseAddress,
  },
  {
    name: 'encodings',
    forms: [PAGE],
    nests: [['<meta charset="', '">']],
    runs: 400,
    read: (text) => [
      decodeSource(encode(text)),
      settleEncoding({ bytes: encode(text), kind: 'page', url: 'https://a.example/', charset: text.slice(0, 20) }),
    ],
  },
];

/** Depths at which readers of different make give up. */
const DEPTHS = [2, 30, 120, 600, 3000, 12_000];
/** Of readers that take long: below what browsers read, and far beyond any stack. */
const FEW_DEPTHS = [120, 12_000];

function spoiled({ forms, nests }: Reader): fc.Arbitrary<string> {
  const form = fc.constantFrom(...forms);
  const cut = fc
    .tuple(form, fc.nat(), fc.nat())
    .map(([text, a, b]) => text.slice(a % text.length, (a % text.length) + 1 + (b % text.length)));
  const changed = fc
    .tuple(
      form,
      fc.array(fc.tuple(fc.nat(), fc.string({ unit: 'binary', maxLength: 6 })), { minLength: 1, maxLength: 6 }),
    )
    .map(([text, changes]) =>
      changes.reduce(
        (now, [at, more]) => now.slice(0, at % (now.length + 1)) + more + now.slice((at % (now.length + 1)) + (at % 3)),
        text,
      ),
    );
  const doubled = fc
    .tuple(form, fc.nat(), fc.integer({ min: 2, max: 40 }))
    .map(([text, at, times]) => text.slice(0, at % text.length) + text.slice(at % text.length).repeat(times));
  const nested = fc
    .tuple(fc.constantFrom(...nests), fc.constantFrom(...DEPTHS), form, fc.boolean(), fc.boolean())
    .map(
      ([[open, close], depth, text, isClosed, isInside]) =>
        `${isInside ? text.slice(0, text.length / 2) : ''}${open.repeat(depth)}${text}${isClosed ? close.repeat(depth) : ''}`,
    );
  const anything = fc.oneof(
    fc.string({ unit: 'binary', maxLength: 200 }),
    fc.string({ unit: 'grapheme', maxLength: 200 }),
  );
  return fc.oneof(
    { weight: 3, arbitrary: changed },
    { weight: 2, arbitrary: cut },
    { weight: 2, arbitrary: doubled },
    { weight: 2, arbitrary: nested },
    { weight: 1, arbitrary: anything },
  );
}

/** A machine that does much else takes its time; what doubles with each letter takes for ever. */
const MOST_MS = 20_000;

describe('what no tool writes', () => {
  it('is 20,000 inputs and more', () => {
    expect(READERS.reduce((sum, { runs }) => sum + runs, 0)).toBeGreaterThanOrEqual(20_000);
  });

  it.each(READERS)(
    'ends in an answer: $name',
    (reader) => {
      fc.assert(
        fc.property(spoiled(reader), (text) => {
          reader.read(text);
        }),
        { numRuns: reader.runs, endOnFailure: false, interruptAfterTimeLimit: 300_000, markInterruptAsFailure: true },
      );
    },
    320_000,
  );

  it.each(
    READERS.flatMap(({ name, nests, runs, read }) =>
      nests.flatMap(([open, close]) =>
        (runs > 500 ? DEPTHS : FEW_DEPTHS).map((depth) => [name, open, close, depth, read] as const),
      ),
    ),
  )('is read however deep: %s, %s … %s, %i times', (_name, open, close, depth, read) => {
    const begun = performance.now();
    read(open.repeat(depth) + close.repeat(depth));
    read(open.repeat(depth));
    expect(performance.now() - begun).toBeLessThan(MOST_MS);
  });

  it('is read as bytes: pictures', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(
          [0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10],
          [0xff, 0xd8, 0xff],
          [0x47, 0x49, 0x46, 0x38, 0x39, 0x61],
          [0x52, 0x49, 0x46, 0x46, 0, 0, 0, 0, 0x57, 0x45, 0x42, 0x50],
          [],
        ),
        fc.uint8Array({ maxLength: 400 }),
        (head, rest) => {
          readPictureSize(Uint8Array.from([...head, ...rest]));
          readPage(Uint8Array.from([...head, ...rest]));
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe('a sheet nested deeper than is read', () => {
  const deep = `@media all{${'@media all{'.repeat(1800)}a{color:#777}`;

  it('is told as such, and holds nothing up', () => {
    expect(encode(deep).length).toBeLessThan(21_000);
    const snags = surveySite([siteFile('index.html', encode(PAGE)), siteFile('a.css', encode(deep))]);
    expect(snags.map(({ code }) => code)).toContain('page-unchecked');
    expect(snags.filter(({ code }) => code === 'page-unchecked').map(({ severity }) => severity)).toEqual(['should']);
  });

  it('is told by what stands in one another, not by how many signs there are', () => {
    expect(isTooDeep('a{b:c}'.repeat(5000))).toBe(false);
    expect(isTooDeep(`a{content:"${'('.repeat(500)}"}/*${'{'.repeat(500)}*/`)).toBe(false);
    expect(isTooDeep('('.repeat(101))).toBe(true);
    expect(isTooDeep(`${'('.repeat(100)}${')'.repeat(100)}`)).toBe(false);
  });
});
