import { ENGLISH, speakerFor } from '@fastigium/words';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  ALL_CHECKS,
  findCaseTwins,
  checkPage,
  createRemedy,
  createCheckTitle,
  isSamplePicture,
  judgeSecret,
  isShuttingAll,
  surveySite,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const SURROUNDINGS = {
  ownNames: ['www.moor.site.org', 'moor.site.org'],
  sheetAt: () => undefined,
  pictureAt: (path: string) => (path === '/p.png' ? { widthPx: 800, heightPx: 600 } : undefined),
};
const HEAD =
  '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>A page</title><meta name="description" content="What it is about."></head>';
const codes = (body: string, head = HEAD) =>
  [
    ...new Set(
      checkPage(
        { path: 'a/index.html', address: '/a/', bytes: bytes(`${head}<body>${body}</body></html>`) },
        SURROUNDINGS,
      ).findings.map(({ code }) => code),
    ),
  ].sort();

describe('a page without faults', () => {
  it('has no snag', () => {
    expect(
      codes(
        '<main><h1>One</h1><h2>Two</h2><p>Words <a href="/b/">b</a>, <a href="https://other.example/" target="_blank" rel="noopener">c</a>.</p><img src="/p.png" alt="" width="800" height="600"></main>',
      ),
    ).toEqual([]);
  });
});

describe('each fault is one snag, and its near relation none', () => {
  it.each([
    ['sample-text', '<p>Lorem ipsum dolor sit amet</p>', '<p>The lorry of Ipsden</p>'],
    ['sample-text', '<p>Your text here</p>', '<p>Write your text, here and now</p>'],
    [
      'sample-text',
      '<p>Sed do eiusmod tempor incididunt</p>',
      '<p>Writers fill a page with “lorem ipsum” until its own words are there.</p>',
    ],
    [
      'sample-text',
      '<p>Placeholder text</p>',
      '<h2>Placeholder text</h2><p>The placeholder text of a field goes away when somebody types.</p><table><tr><td>sample text</td></tr></table>',
    ],
    [
      'link-staging',
      '<a href="https://dev.moor.site.org/">x</a>',
      '<a href="https://dev.other.org/doc/">x</a><a href="https://develop.another.org/">x</a><a href="https://test.third.org/">x</a>',
    ],
    ['link-staging', '<a href="//moor-staging.moor.site.org/x">x</a>', '<a href="https://moor.site.org/">x</a>'],
    ['link-empty', '<a href="#">x</a>', '<a href="#" role="button">x</a>'],
    ['link-empty', '<a href="">x</a>', '<a name="x">x</a>'],
    ['link-empty', '<a href="javascript:void(0)">x</a>', '<a href="javascript:show()">x</a>'],
    ['link-private', '<a href="file:///C:/x.html">x</a>', '<a href="/file.html">x</a>'],
    ['link-private', '<img src="http://localhost:3000/a.png" alt="">', '<a href="https://localhost.example/">x</a>'],
    ['link-private', '<a href="http://192.168.1.4/">x</a>', '<a href="https://192.0.2.4/">x</a>'],
    [
      'link-staging',
      '<a href="https://staging.site.example/">x</a>',
      '<a href="https://stagings.example/staging/">x</a>',
    ],
    ['link-staging', '<a href="http://site.local/x">x</a>', '<a href="https://site.localnews.example/">x</a>'],
    ['heading-order', '<h1>a</h1><h3>b</h3>', '<h1>a</h1><h2>b</h2><h3>c</h3><h2>d</h2>'],
    ['alt-missing', '<img src="https://x.example/a.png">', '<img src="https://x.example/a.png" alt="">'],
    ['picture-dimensions', '<img src="/p.png" alt="">', '<img src="/p.png" alt="" width="8" height="6">'],
    ['mixed-content', '<script src="http://x.example/a.js"></script>', '<a href="http://x.example/">x</a>'],
    [
      'mixed-content',
      '<img src="http://x.example/a.png" alt="">',
      '<blockquote cite="http://x.example/">x</blockquote>',
    ],
    ['contrast-low', '<p style="color:#999">x</p>', '<p style="color:#767676">x</p>'],
    ['contrast-low', '<p style="color:#949494">x</p>', '<h1 style="color:#949494">x</h1>'],
    ['office-document', '<a href="/a.docx">x</a>', '<a href="/a.pdf">x</a>'],
    ['new-window-opener', '<a href="https://x.example/" target="_blank">x</a>', '<a href="/x/" target="_blank">x</a>'],
  ])('%s', (code, faulty, fine) => {
    expect(codes(faulty)).toContain(code);
    expect(codes(fine)).not.toContain(code);
  });

  it.each([
    ['title-missing', HEAD.replace('<title>A page</title>', ''), HEAD],
    ['title-missing', HEAD.replace('A page', ' '), HEAD],
    ['title-long', HEAD.replace('A page', 'w'.repeat(42)), HEAD.replace('A page', 'w'.repeat(41))],
    ['description-missing', HEAD.replace(/<meta name="description"[^>]*>/, ''), HEAD],
    [
      'description-long',
      HEAD.replace('What it is about.', 'w'.repeat(156)),
      HEAD.replace('What it is about.', 'w'.repeat(155)),
    ],
    ['language-unknown', HEAD.replace('"en"', '"english"'), HEAD],
    ['head-doubled', HEAD.replace('</head>', '<meta name=Description content=x></head>'), HEAD],
    [
      'canonical-relative',
      HEAD.replace('</head>', '<link rel=canonical href=/x></head>'),
      HEAD.replace('</head>', '<link rel=canonical href=https://x.example/x></head>'),
    ],
    [
      'data-faulty',
      HEAD.replace(
        '</head>',
        '<script type=application/ld+json>{"@context":"https://schema.org","@type":"Hotl"}</script></head>',
      ),
      HEAD.replace(
        '</head>',
        '<script type=application/ld+json>{"@context":"https://schema.org","@type":"Hotel"}</script></head>',
      ),
    ],
    ['language-missing', HEAD.replace(' lang="en"', ''), HEAD],
    ['viewport-missing', HEAD.replace(/<meta name="viewport"[^>]*>/, ''), HEAD],
    [
      'charset-missing',
      HEAD.replace('<meta charset="utf-8">', ''),
      HEAD.replace('<meta charset="utf-8">', '<meta http-equiv="Content-Type" content="text/html; charset=utf-8">'),
    ],
    [
      'page-shut',
      HEAD.replace('<title>', '<meta name="robots" content="noindex, follow"><title>'),
      HEAD.replace('<title>', '<meta name="robots" content="follow"><title>'),
    ],
  ])('%s', (code, faulty, fine) => {
    expect(codes('<main><h1>x</h1></main>', faulty)).toContain(code);
    expect(codes('<main><h1>x</h1></main>', fine)).not.toContain(code);
  });
});

describe('files by their names', () => {
  it.each([
    '.env',
    'api/.env.production',
    'id_rsa',
    'keys/server.pem',
    'backup.sql',
    'dump.sql.gz',
    '.git/config',
    'wp-config.php',
    'index.html~',
    'a.php.bak',
    '.htpasswd',
    'node_modules/x/y.js',
    'error.log',
    'notes/#draft.txt#',
  ])('%s must not go live', (path) => {
    expect(judgeSecret(path)).toBeDefined();
  });
  it.each([
    'index.html',
    'environment.html',
    'gitignore.html',
    'log/index.html',
    'keys.html',
    'sqlite.html',
    '.well-known/security.txt',
    'style/old.css',
    'backup-and-restore.html',
  ])('%s may', (path) => {
    expect(judgeSecret(path)).toBeUndefined();
  });

  it('that differ only in case, and sample pictures', () => {
    expect([...findCaseTwins(['A.html', 'a.html', 'b.html'])]).toEqual([
      ['A.html', ['a.html']],
      ['a.html', ['A.html']],
    ]);
    expect([
      isSamplePicture('img/placeholder.png'),
      isSamplePicture('img/hero-dummy.jpg'),
      isSamplePicture('img/displaceholder.png'),
      isSamplePicture('img/sampler.png'),
    ]).toEqual([true, true, false, false]);
  });
});

describe('a robots.txt that keeps everyone out', () => {
  // RFC 9309, sections 2.2.1 to 2.2.3; the third is the example of section 5.1 in short.
  it.each([
    ['User-agent: *\nDisallow: /', true],
    ['user-agent: foo\nuser-agent: *\ndisallow: /*', true],
    ['User-Agent: *\nDisallow: *.gif$\nDisallow: /example/\nAllow: /publications/', false],
    ['User-agent: foo\nDisallow: /', false],
    ['User-agent: *\nDisallow:', false],
    ['User-agent: *\nDisallow: /\nAllow: /open/', false],
    ['# User-agent: *\n# Disallow: /', false],
  ])('%j: %s', (text, shut) => expect(isShuttingAll(text)).toBe(shut));
});

describe('a whole site', () => {
  const file = (path: string, content: string | Uint8Array) => ({
    path,
    bytes: typeof content === 'string' ? bytes(content) : content,
    hash: createHash('sha256').update(content).digest('hex'),
  });
  const short = (files: ReturnType<typeof file>[]) =>
    surveySite(files)
      .filter(({ code }) => !/missing|heading/.test(code))
      .map(
        ({ code, file: path, detail, resolved }) =>
          `${code} ${path} ${speakerFor(ENGLISH)(detail)}${resolved ? ` = ${resolved}` : ''}`,
      );

  it('has dead links and anchors, doubles and pages nothing leads to', () => {
    expect(
      short([
        file(
          'index.html',
          '<title>Home</title><a href="a.html#there">a</a><a href="a.html#gone">a</a><a href="b/">b</a><a href="nowhere/">n</a><img src="missing.png" alt="">',
        ),
        file('a.html', '<title>Same</title><p id="there">x</p><a href="#top">top</a><a href="/">home</a>'),
        file('b/index.html', '<title>Same</title><a href="../index.html">home</a><a href="/b">self</a>'),
        file('lost.html', '<title>Lost</title>'),
      ]).sort(),
    ).toEqual([
      'anchor-dead index.html a.html#gone = /a.html',
      'link-dead index.html missing.png = /missing.png',
      'link-dead index.html nowhere/ = /nowhere/',
      'page-orphan lost.html Lost',
      'title-doubled a.html Same',
      'title-doubled b/index.html Same',
    ]);
  });

  it('of a real site says where each thing is: every position lies on its words', () => {
    const folder = '/usr/share/developers-reference';
    const files = readdirSync(folder)
      .filter((name) => /\.html$/.test(name) && name !== 'developers-reference.html')
      .map((name) => file(name, readFileSync(join(folder, name))));
    const snags = surveySite(files);
    expect(snags.length).toBeGreaterThan(20);
    for (const { code, file: path, detail, line } of snags.filter(
      (snag) => snag.code === 'link-dead' || snag.code === 'title-long',
    )) {
      expect(line, `${code} ${path}`).toBeDefined();
      const source =
        Buffer.from(files.find((each) => each.path === path)?.bytes ?? [])
          .toString()
          .split('\n')[(line ?? 1) - 1] ?? '';
      if (code === 'link-dead') expect(source.replaceAll('&amp;', '&')).toContain(detail);
      else expect(source).toContain('<title>');
    }
  }, 60_000);
});

describe('every check', () => {
  it('says what is wrong, how to mend it, and on what authority, under a code of its own', () => {
    expect(ALL_CHECKS.length).toBeGreaterThan(28);
    expect(new Set(ALL_CHECKS.map(({ code }) => code)).size).toBe(ALL_CHECKS.length);
    const speak = speakerFor(ENGLISH);
    for (const { code, source } of ALL_CHECKS) {
      expect(code).toMatch(/^[a-z]+(-[a-z]+)+$/);
      expect(speak(createCheckTitle(code)).length).toBeGreaterThan(8);
      expect(speak(createRemedy(code))).toMatch(/\.$/);
      expect(source).toMatch(/standard|WCAG|RFC|common practice|Mixed Content|CSS/);
    }
  });
});
