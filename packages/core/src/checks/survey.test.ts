/**
 * A small site with one fault of each kind and its near relation beside it, and what mends a page. Where a limit stands
 * it is tried at both of its sides; limits are common practice where no source stands beside the check.
 */
import { describe, expect, it } from 'vitest';
import { ENGLISH, speakerFor } from '@fastigium/words';
import type { EffectiveLine } from '../head/index.ts';
import {
  readCheckedPage,
  checkPage,
  describeConflict,
  judgeHeaviness,
  PAGE_CHECKS,
  shareSmallness,
  SheetCache,
  surveySite,
  type CheckSurroundings,
} from './index.ts';

const speak = speakerFor(ENGLISH);
const text = (of: string) => new TextEncoder().encode(of);
/** The signature and the header chunk (PNG, 3rd edition, sections 5.2 and 11.2.1), and bytes behind them. */
function png(widthPx: number, heightPx: number, more = 0): Uint8Array {
  const bytes = new Uint8Array(33 + more);
  bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
  new DataView(bytes.buffer).setUint32(16, widthPx);
  new DataView(bytes.buffer).setUint32(20, heightPx);
  bytes.set([8, 2, 0, 0, 0], 24);
  return bytes;
}
const page = (head: string, body: string) =>
  text(
    `<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8"><meta name="viewport" content="width=device-width">${head}</head>\n<body>\n${body}\n</body></html>`,
  );
const surveyed = (site: Readonly<Record<string, Uint8Array>>) =>
  surveySite(
    Object.entries(site).map(([path, bytes]) => ({
      path,
      bytes,
      hash: `${bytes.length} ${bytes.slice(0, 200).join()}`,
    })),
    [
      { from: '/old', status: 301, to: '/b.html' },
      { from: '/out', status: 301, to: 'https://other.example/' },
    ],
  ).map(
    ({ code, file, line, column, detail, resolved }) =>
      `${code} ${file}${line === undefined ? '' : `:${line}:${column}`} ${speak(detail)}${resolved === undefined ? '' : ` (${resolved})`}`,
  );

describe('a site with a fault of each kind', () => {
  const SITE = {
    'index.html': page(
      '<title>Home</title><meta name="description" content="One"><meta property="og:image" content="https://moor.example/share.png">',
      '<a href="/a/">a</a><a href="/b.html#there">b</a>\n<a href="/b.html#not">b</a> <a href="/gone/?x=1">gone</a><a href="/old">old</a><a href="/out">out</a><a href="#top">top</a><a href="b.html#:~:text=x">t</a><img src="/p.png" alt="" width="100" height="75"><img src="/wide.png" alt="" width="40" height="30">',
    ),
    'a/index.html': page(
      '<title>Same</title><meta name="description" content="One"><link rel="stylesheet" href="/s.css">',
      '<h1 id="x">A</h1><img src="../p.png" alt="">',
    ),
    'b.html': page(
      '<title>Same</title><meta name="description" content="Two"><meta property="og:image" content="/share.png">',
      '<a name="there">b</a><a href="lone.html">x</a>',
    ),
    'lone.html': page('<title></title><meta name="description" content="">', '<p>x</p>'),
    'orphan.html': page('<title>Orphan</title><meta name="description" content="Four">', '<p>x</p>'),
    'nameless.html': page('<meta name="description" content="Five">', '<p>x</p>'),
    '404.html': page('<title>Not here</title><meta name="description" content="Three">', '<p>x</p>'),
    's.css': text('body { background: url(/gone.png) }\n.x { background: url("p.png") }'),
    'S.css': text('x'),
    'p.png': png(100, 75),
    'q.png': png(100, 75),
    'wide.png': png(101, 76, 60_001),
    'share.png': png(1200, 629),
    'heavy.jpg': new Uint8Array(500_001),
    'placeholder.png': png(3, 3),
    '.env': text('x'),
    'robots.txt': text('User-agent: *\nDisallow: /'),
    'empty1.png': new Uint8Array(),
    'empty2.png': new Uint8Array(),
  };

  it('is told each once, with its place and what it means', () => {
    expect(surveyed(SITE)).toEqual([
      'picture-dimensions a/index.html:5:18 ../p.png',
      'title-missing lone.html:3:80 the title is empty',
      'description-missing lone.html:3:95 the description is empty',
      'title-missing nameless.html there is no title',
      'link-dead index.html:6:32 /gone/?x=1 (/gone/?x=1)',
      'anchor-dead index.html:6:4 /b.html#not (/b.html)',
      'link-dead s.css:1:20 /gone.png (/gone.png)',
      'title-doubled a/index.html Same',
      'title-doubled b.html Same',
      'description-doubled a/index.html One',
      'description-doubled index.html One',
      'page-orphan orphan.html Orphan',
      'page-orphan nameless.html /nameless.html',
      'share-picture-small index.html /share.png, 1200 by 629 pixels',
      'name-case s.css S.css',
      'name-case S.css s.css',
      'file-secret .env settings with passwords',
      'picture-doubled p.png q.png',
      'picture-heavy wide.png 101 pixels wide, shown at 40, 60 kB',
      'picture-heavy heavy.jpg 500 kB',
      'sample-picture placeholder.png placeholder.png',
      'site-shut robots.txt robots.txt keeps everyone out',
    ]);
  });

  it('that shuts itself page by page is told once, unless it is one page alone', () => {
    const shut = page(
      '<title>a</title><meta name="description" content="b"><meta name="Robots" content="none">',
      '<p>x</p>',
    );
    const told = (names: readonly string[]) =>
      surveyed(Object.fromEntries(names.map((name) => [name, shut]))).filter((each) => each.startsWith('site-shut'));
    expect(told(['index.html', 'b.html', '404.html'])).toEqual(['site-shut index.html every page says noindex']);
    expect(told(['index.html', '404.html'])).toEqual([]);
    expect(
      surveyed({ 'index.html': shut, 'b.html': page('<title>c</title>', '<p>x</p>') }).filter((each) =>
        each.startsWith('site-shut'),
      ),
    ).toEqual([]);
  });
});

describe('what mends a page', () => {
  const FAULTY = `<!DOCTYPE html>
<html><head><title></title><meta name="description" content=""><link rel="canonical" href="/x"><meta name="robots" content="noindex"><meta name="robots" content="all"></head><body><h1>The dome</h1><p>Built in 1911 by hand, the dome turns on forty wheels and opens to the whole of the sky.</p><p>Lorem ipsum dolor sit amet, consectetur adipiscing elit, sed do eiusmod tempor incididunt ut labore.</p><img src="/p.png"><img srcset="/q.png 2x"><img><area target="_blank" href="//other.example/"><a target="_BLANK" href="https://other.example/" rel="nofollow">away</a><a href="#">x</a><a href=""></a><a href="notes.docx?x">doc</a><a href="http://localhost:80/">l</a><script src="http://cdn.example/x.js"></script><h3>Deep</h3></body></html>`;
  const of = (source: string, surroundings: Partial<CheckSurroundings> = {}) =>
    readCheckedPage(
      { path: 'a.html', address: '/a.html', bytes: text(source) },
      {
        sheetAt: () => undefined,
        pictureAt: (path) => (path === '/p.png' ? { widthPx: 8, heightPx: 6 } : undefined),
        ...surroundings,
      },
    );
  const found = (source: string, code: string) =>
    PAGE_CHECKS.filter((each) => each.code === code).flatMap((each) => [...each.find(of(source))]);

  it('stands at its place in the source', () => {
    const places = PAGE_CHECKS.flatMap(({ code, find }) =>
      [...find(of(FAULTY))].map(({ detail, start, end }) => [
        code,
        speak(detail),
        start === undefined ? '' : FAULTY.slice(start, end),
      ]),
    );
    expect(places).toEqual([
      [
        'sample-text',
        'Lorem ipsum dolor sit amet, consectetur adipiscing elit, sed do eiusmod tempo …',
        'Lorem ipsum dolor sit amet, consectetur adipiscing elit, sed do eiusmod tempor incididunt ut labore.',
      ],
      ['link-private', 'http://localhost:80/', 'href="http://localhost:80/"'],
      ['link-empty', 'x', 'href="#"'],
      ['link-empty', 'a link without words', 'href=""'],
      ['title-missing', 'the title is empty', '<title>'],
      ['description-missing', 'the description is empty', '<meta name="description" content="">'],
      ['language-missing', 'no language', '<html>'],
      ['head-doubled', 'robots', '<meta name="robots" content="all">'],
      ['canonical-relative', '/x', '<link rel="canonical" href="/x">'],
      ['viewport-missing', 'no viewport', ''],
      ['charset-missing', 'read as utf-8', ''],
      ['heading-order', 'level 3 after level 1: Deep', '<h3>'],
      ['alt-missing', '/p.png', '<img src="/p.png">'],
      ['alt-missing', '/q.png 2x', '<img srcset="/q.png 2x">'],
      ['alt-missing', 'a picture without an address', '<img>'],
      ['picture-dimensions', '/p.png', '<img src="/p.png">'],
      ['mixed-content', 'http://cdn.example/x.js', 'src="http://cdn.example/x.js"'],
      ['office-document', 'notes.docx?x', 'href="notes.docx?x"'],
      ['new-window-opener', '//other.example/', '<area target="_blank" href="//other.example/">'],
      [
        'new-window-opener',
        'away https://other.example/',
        '<a target="_BLANK" href="https://other.example/" rel="nofollow">',
      ],
      ['page-shut', 'noindex', '<meta name="robots" content="noindex">'],
    ]);
  });

  it.each<[string, string, unknown]>([
    ['title-missing', 'mend.take-heading', { kind: 'line', name: 'title', text: 'The dome' }],
    [
      'description-missing',
      'mend.take-paragraph',
      {
        kind: 'line',
        name: 'meta:description',
        text: 'Built in 1911 by hand, the dome turns on forty wheels and opens to the whole of the sky.',
      },
    ],
    ['language-missing', 'mend.declare', { kind: 'head', line: 'language', value: 'an answer' }],
    ['canonical-relative', 'mend.take-away', { kind: 'line', name: 'link:canonical', text: false }],
    [
      'viewport-missing',
      'mend.declare',
      { kind: 'head', line: 'viewport', value: 'width=device-width, initial-scale=1' },
    ],
    ['charset-missing', 'mend.declare', { kind: 'head', line: 'charset', value: 'utf-8' }],
    [
      'alt-missing',
      'mend.set-words',
      { kind: 'attributes', place: { tag: 'img', mark: '/p.png', way: 'body > img:1' }, set: { alt: 'an answer' } },
    ],
    [
      'picture-dimensions',
      'mend.write-size',
      {
        kind: 'attributes',
        place: { tag: 'img', mark: '/p.png', way: 'body > img:1' },
        set: { width: '8', height: '6' },
      },
    ],
    [
      'new-window-opener',
      'mend.add-noopener',
      { kind: 'link', place: { tag: 'area', mark: '//other.example/', way: 'body > area:1' }, newWindow: true },
    ],
  ])('%s by %s', (code, label, work) => {
    const mend = found(FAULTY, code)[0]?.mend;
    expect(mend?.label.code).toBe(label);
    expect(mend?.work('an answer')).toMatchObject(work as object);
  });

  it('is asked for where nothing in the page says it', () => {
    const asks = PAGE_CHECKS.flatMap(({ code, find }) =>
      [...find(of(FAULTY))].flatMap(({ mend }) => (mend?.asks ? [`${code} ${mend.asks.code}`] : [])),
    );
    expect([...new Set(asks)]).toEqual(['language-missing question.language', 'alt-missing question.picture']);
    expect(found('<html lang="zz"><p>x</p></html>', 'language-unknown')[0]?.mend?.asks?.code).toBe('question.language');
    expect(found('<title> </title><img>', 'title-missing')[0]?.mend).toBe(undefined);
    expect(found('<img>', 'description-missing')[0]?.mend).toBe(undefined);
  });
});

describe('styles of a page', () => {
  const faint = (head: string, sheets: Readonly<Record<string, string>> = {}) =>
    checkPage(
      {
        path: 'a/b.html',
        address: '/a/b.html',
        bytes: text(`<html lang="en"><head>${head}</head><body><p>Words</p></body></html>`),
      },
      { sheetAt: (path) => sheets[path], pictureAt: () => undefined },
    ).findings.some(({ code }) => code === 'contrast-low');
  const FAINT = 'p { color: #999; background: #fff }';

  it.each<[string, string, Readonly<Record<string, string>>, boolean]>([
    ['in the page', `<style>${FAINT}</style>`, {}, true],
    ['for print alone', `<style media="print">${FAINT}</style>`, {}, false],
    ['for speech alone', `<style media="speech">${FAINT}</style>`, {}, false],
    ['for print and screen', `<style media="print, screen">${FAINT}</style>`, {}, true],
    ['for a width', `<style media="(min-width: 1px)">${FAINT}</style>`, {}, true],
    ['for what is empty', `<style media=" ">${FAINT}</style>`, {}, true],
    ['beside it', '<link rel="StyleSheet" href="s.css">', { '/a/s.css': FAINT }, true],
    ['beside it for print', '<link rel="stylesheet" media="print" href="s.css">', { '/a/s.css': FAINT }, false],
    ['by another kind of link', '<link rel="stylesheets" href="s.css">', { '/a/s.css': FAINT }, false],
    ['on another host', '<link rel="stylesheet" href="//x.example/a/s.css">', { '/a/s.css': FAINT }, false],
    [
      'imported',
      '<link rel="stylesheet" href="s.css">',
      { '/a/s.css': '@import url("t.css"); @import \'gone.css\';', '/a/t.css': '@import "/u.css";', '/u.css': FAINT },
      true,
    ],
    [
      'imported in a circle',
      '<link rel="stylesheet" href="s.css">',
      { '/a/s.css': `@import "t.css"; ${FAINT}`, '/a/t.css': '@import "s.css";' },
      true,
    ],
    [
      'and what imports comes after what it imports (CSS Cascade 5, section 2)',
      '<link rel="stylesheet" href="s.css">',
      { '/a/s.css': '@import "t.css"; p { color: #000 }', '/a/t.css': FAINT },
      false,
    ],
  ])('%s', (_, head, sheets, expected) => expect(faint(head, sheets)).toBe(expected));

  it('are read once for all pages that have them', () => {
    let asked = 0;
    const sheets = new SheetCache();
    const surroundings: CheckSurroundings = { sheetAt: () => ((asked += 1), FAINT), pictureAt: () => undefined };
    const matchers = ['/a.html', '/b.html'].map((address) =>
      readCheckedPage(
        { path: address.slice(1), address, bytes: text('<link rel="stylesheet" href="/s.css"><p>x</p>') },
        surroundings,
        sheets,
      ).styles(),
    );
    expect(matchers[0]).toBe(matchers[1]);
    expect(asked).toBe(2);
  });

  it('of a page with a thousand faults the first fifty are told', () => {
    const { findings } = checkPage(
      { path: 'a.html', address: '/a.html', bytes: text('<img src="x.png">'.repeat(51)) },
      { sheetAt: () => undefined, pictureAt: () => undefined },
    );
    expect(findings.filter(({ code }) => code === 'alt-missing')).toHaveLength(50);
  });
});

describe('at both sides of a limit', () => {
  it.each<[number, number | undefined, number[], string | undefined]>([
    [500_000, undefined, [], undefined],
    [500_001, undefined, [], '500 kB'],
    [60_000, 1000, [100], undefined],
    [60_001, 1000, [100], '1000 pixels wide, shown at 100, 60 kB'],
    [60_001, 250, [100], undefined],
    [60_001, 251, [100, 50], '251 pixels wide, shown at 100, 60 kB'],
    [60_001, 1000, [], undefined],
    [1_200_000, 10, [100], '1.2 MB'],
  ])('%d bytes, %s pixels wide, shown at %j', (bytes, widthPx, shown, expected) => {
    const heavy = judgeHeaviness(bytes, widthPx === undefined ? undefined : { widthPx, heightPx: 1 }, shown);
    expect(heavy && speak(heavy)).toBe(expected);
  });

  it.each<[number, number, boolean]>([
    [1200, 630, false],
    [1199, 630, true],
    [1200, 629, true],
  ])('a share picture of %d by %d', (widthPx, heightPx, isSmall) => {
    expect(shareSmallness({ widthPx, heightPx })).toEqual(isSmall ? { width: widthPx, height: heightPx } : undefined);
  });
  it('a share picture that is none of the site’s', () => expect(shareSmallness(undefined)).toBe(undefined));
});

describe('what is set and what the page says', () => {
  const line = (conflict: EffectiveLine['conflict'], own: readonly string[] = ['Own']): EffectiveLine => ({
    name: 'meta:author',
    text: 'x',
    from: 'imported',
    own,
    conflict,
  });
  it.each<[EffectiveLine, string | undefined]>([
    [line(undefined), undefined],
    [line({ text: 'Set', from: 'site' }), 'author: “Own” in the page, “Set” for the site'],
    [line({ text: 'Set', from: 'branch' }, ['a', 'b']), 'author: “a”, “b” in the page, “Set” for the branch'],
    [line({ text: false, from: 'page' }), 'author: “Own” in the page, left out for the page'],
    [line({ text: 'Set', from: 'computed' }), 'author: “Own” in the page, “Set” as computed'],
    [
      line({ text: 'x'.repeat(81), from: 'site' }, ['y'.repeat(80)]),
      `author: “${'y'.repeat(80)}” in the page, “${'x'.repeat(79)}…” for the site`,
    ],
  ])('is told as one thing', (of, expected) => {
    const message = describeConflict(of);
    expect(message && speak(message)).toBe(expected);
  });
});
