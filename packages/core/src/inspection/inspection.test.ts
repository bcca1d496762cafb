import { ENGLISH, speakerFor } from '@fastigium/words';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { indexRules, type Rule } from '../redirects/index.ts';
import { findFileHeaders, type ManifestEntry } from '../release/index.ts';
import {
  type Answer,
  finding,
  type Finding,
  readFreshnessSeconds,
  judgeAgain,
  judgeAnswer,
  judgeCertificate,
  judgeNowhere,
  judgeSecurity,
  MOST_FILES,
  planInspection,
  type Question,
  countResults,
  drawSample,
  judgeResults,
} from './index.ts';

const entry = (path: string, hash = 'a'.repeat(64)): ManifestEntry => ({
  path,
  hash,
  sizeBytes: 10,
  headers: findFileHeaders(path, 'utf-8'),
});
const site = (...paths: string[]) => new Map(paths.map((path) => [path, entry(path)]));
const plan = (files: ReadonlyMap<string, ManifestEntry>, rules: Rule[] = [], basePath = '') =>
  planInspection(files, indexRules(rules), rules, basePath, 'release-1');
const question = (path = 'visit/index.html', aspect: Question['aspect'] = 'pages'): Question => ({
  aspect,
  address: '/visit/',
  entry: entry(path),
});
const answer = (more: Partial<Answer> = {}): Answer => ({
  status: 200,
  sizeBytes: 10,
  hash: 'a'.repeat(64),
  headers: { 'content-type': 'text/html; charset=utf-8', etag: '"x"', 'cache-control': 'no-cache' },
  ...more,
});
const speak = speakerFor(ENGLISH);
const told = (findings: readonly Finding[]) =>
  findings.map(({ aspect, message, weight }) => `${weight}, ${aspect}: ${speak(message)}`);

describe('what is asked for', () => {
  it('home first, then every page, what machines read, and the rest; not the page for what is not found', () => {
    const { questions, nowhere } = plan(
      site('a.png', 'visit/index.html', 'index.html', 'robots.txt', 'sitemap-1.xml', '404.html', 'about.html'),
    );
    expect(questions.map(({ aspect, address }) => `${aspect} ${address}`)).toEqual([
      'home /',
      'pages /about.html',
      'pages /visit/',
      'machines /robots.txt',
      'machines /sitemap-1.xml',
      'files /a.png',
    ]);
    expect(nowhere).toBe('/nothing-is-here-release-/');
  });

  it('under a path home is the path, and a page without an ending is asked for at the address its rule says', () => {
    const rules: Rule[] = [
      { from: '/moor/about', status: 200, to: '/moor/about.html' },
      { from: '/moor/about.html', status: 301, to: '/moor/about' },
    ];
    const { questions, nowhere } = plan(site('moor/index.html', 'moor/about.html'), rules, '/moor');
    expect(questions.map(({ aspect, address }) => `${aspect} ${address}`)).toEqual([
      'home /moor/',
      'pages /moor/about',
    ]);
    expect(nowhere).toBe('/moor/nothing-is-here-release-/');
  });

  it('a file that another one stands before is not promised, and with a rule for everything no address finds nothing', () => {
    const { questions, nowhere } = plan(site('index.html', 'index.htm'), [
      { from: '/nothing-:rest/', status: 410, isPattern: true },
    ]);
    expect(questions.map(({ address }) => address)).toEqual(['/']);
    expect(nowhere).toBeUndefined();
  });

  it('of many files a sample, another one for each release, and all pages', () => {
    const many = site(
      'index.html',
      ...Array.from({ length: 1000 }, (_, n) => `pictures/${n}.png`),
      ...Array.from({ length: 300 }, (_, n) => `${n}/index.html`),
    );
    const { questions, unasked } = plan(many);
    expect(questions).toHaveLength(301 + MOST_FILES);
    expect(unasked).toBe(1000 - MOST_FILES);
    const other = planInspection(many, indexRules([]), [], '', 'release-2').questions.filter(
      ({ aspect }) => aspect === 'files',
    );
    const both = other.filter(({ address }) => questions.some((each) => each.address === address)).length;
    // Two independent samples of a fifth share a fifth of them on average, with a standard deviation under 6 (hypergeometric).
    expect(both).toBeGreaterThan(10);
    expect(both).toBeLessThan(75);
  });

  it('a sample has no address twice, and all of them where they are few', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.webPath(), { maxLength: 60 }),
        fc.integer({ min: 0, max: 60 }),
        fc.string(),
        (addresses, most, seed) => {
          const all = addresses.map((address) => ({ address }));
          const chosen = drawSample(all, most, seed);
          expect(new Set(chosen).size).toBe(Math.min(most, all.length));
          expect(chosen.every((each) => all.includes(each))).toBe(true);
          expect(drawSample(all, most, seed)).toEqual(chosen);
        },
      ),
    );
  });
});

describe('one answer', () => {
  it('as published is nothing to tell', () => expect(judgeAnswer(question(), answer())).toEqual([]));

  it.each<[string, Partial<Answer>, string]>([
    ['an error', { status: 500 }, 'wrong, pages: answers 500'],
    [
      'a redirect',
      { status: 302, headers: { location: '/sign-in' } },
      'wrong, pages: is sent on to /sign-in (302) instead of answering',
    ],
    [
      'other bytes',
      { hash: 'b'.repeat(64), sizeBytes: 12 },
      'wrong, pages: shows something else than was published: 12 bytes instead of 10',
    ],
    ['as many other bytes', { hash: 'b'.repeat(64) }, 'wrong, pages: shows something else than was published'],
    ['no type', { headers: { etag: '"x"' } }, 'wrong, types: comes without a content type'],
    [
      'a page as plain text',
      { headers: { etag: '"x"', 'content-type': 'text/plain' } },
      'wrong, types: comes as text/plain, not as text/html',
    ],
    // HTML standard, section 13.2.3.2: the header goes before the page's own meta element.
    [
      'another charset',
      { headers: { etag: '"x"', 'content-type': 'text/html; Charset="ISO-8859-1"' } },
      'wrong, types: says its letters are iso-8859-1, and they are utf-8',
    ],
    [
      'kept for a week',
      { headers: { etag: '"x"', 'content-type': 'text/html', 'cache-control': 'public, max-age=604800' } },
      'note, caching: may be kept for 7 days, so a new release is seen late',
    ],
    [
      'no validator',
      { headers: { 'content-type': 'text/html' } },
      'note, caching: has neither an entity tag nor a date, so it is sent whole each time',
    ],
  ])('%s', (_, more, expected) => expect(told(judgeAnswer(question(), answer(more)))).toEqual([expected]));

  // RFC 9239 section 6 makes application/javascript an alias of text/javascript; a picture's other name does no harm.
  it.each([
    ['app.js', 'application/javascript', []],
    ['favicon.ico', 'image/x-icon', []],
    ['a.webp', 'application/octet-stream', ['note, types: comes as application/octet-stream, not as image/webp']],
    ['a.css', 'text/html', ['wrong, types: comes as text/html, not as text/css']],
  ])('%s as %s', (path, type, expected) => {
    expect(
      told(judgeAnswer(question(path, 'files'), answer({ headers: { 'content-type': type, etag: '"x"' } }))),
    ).toEqual(expected);
  });
});

describe('freshness', () => {
  // RFC 9111 section 5.2.2: directives are case-insensitive, and both forms of an argument are to be read.
  it.each<[string | undefined, number | undefined]>([
    [undefined, undefined],
    ['no-cache', 0],
    ['No-Store, max-age=60', 0],
    ['public, Max-Age=60', 60],
    ['max-age="5"', 5],
    ['private', undefined],
    ['s-maxage=10', undefined],
    ['no-cache="set-cookie", max-age=9', 0],
  ])('%s', (header, seconds) => expect(readFreshnessSeconds(header)).toBe(seconds));
});

describe('what belongs to the whole site', () => {
  it('an address nothing is at answers 404, with the site’s own page', () => {
    expect(told(judgeNowhere('/no/', answer({ status: 404 }), 'a'.repeat(64)))).toEqual([]);
    expect(told(judgeNowhere('/no/', answer({ status: 404 }), 'c'.repeat(64)))).toEqual([
      'note, not found: is answered without the site’s own page for what is not found',
    ]);
    expect(told(judgeNowhere('/no/', answer(), undefined))).toEqual([
      'wrong, not found: finds nothing and answers 200 instead of 404',
    ]);
  });

  it('asked again with its tag it is not sent again', () => {
    expect(judgeAgain('/', 304)).toEqual([]);
    expect(told(judgeAgain('/', 200))).toEqual([
      'note, caching: is sent whole again to whoever has it already (200 instead of 304)',
    ]);
  });

  it('https alone is said over https only, for as long as was set; a server’s version is nobody’s business', () => {
    expect(judgeSecurity('/', {}, false, 3600)).toEqual([]);
    expect(told(judgeSecurity('/', {}, true, 3600))).toEqual([
      'wrong, security: does not say that it is reached by https alone (Strict-Transport-Security)',
    ]);
    expect(
      told(judgeSecurity('/', { 'strict-transport-security': 'max-age=60; includeSubDomains' }, true, 3600)),
    ).toEqual(['wrong, security: says so for 60 seconds instead of 3600 (Strict-Transport-Security)']);
    expect(
      told(
        judgeSecurity(
          '/',
          { 'strict-transport-security': 'max-age=3600', server: 'kiln/2.1', 'x-powered-by': 'clay' },
          true,
          3600,
        ),
      ),
    ).toEqual([
      'note, security: tells what it runs on (X-Powered-By: clay)',
      'note, security: tells its server’s version (kiln/2.1)',
    ]);
  });

  const DAY = 86_400_000;
  it.each<[string, Parameters<typeof judgeCertificate>[1], string[]]>([
    ['good', { names: ['*.moor.example'], notBeforeMs: 0, notAfterMs: 60 * DAY, trusted: true }, []],
    [
      'none',
      { problem: 'the connection is refused' },
      ['wrong, certificate: is not reached by https: the connection is refused'],
    ],
    [
      'for another name',
      { names: ['moor.example'], notBeforeMs: 0, notAfterMs: 60 * DAY, trusted: true },
      ['wrong, certificate: is not covered by its certificate, which is for moor.example'],
    ],
    [
      'over',
      { names: ['www.moor.example'], notBeforeMs: 0, notAfterMs: 9 * DAY, trusted: true },
      ['wrong, certificate: has a certificate whose time is over or has not begun'],
    ],
    [
      'of nobody',
      { names: ['www.moor.example'], notBeforeMs: 0, notAfterMs: 60 * DAY, trusted: false },
      ['wrong, certificate: has a certificate that browsers do not trust'],
    ],
    [
      'soon over',
      { names: ['www.moor.example'], notBeforeMs: 0, notAfterMs: 15.5 * DAY, trusted: true },
      ['note, certificate: has a certificate for 5 more days'],
    ],
  ])('a certificate: %s', (_, served, expected) =>
    expect(told(judgeCertificate('www.moor.example', served, 10 * DAY))).toEqual(expected),
  );
});

describe('the sum', () => {
  it('counts an address once, tells no aspect that was not asked, and is as bad as the worst', () => {
    const wrong = {
      aspect: 'pages',
      address: '/a/',
      message: finding('status', { status: 500 }),
      weight: 'wrong',
    } as const;
    const note = { aspect: 'caching', address: '/a/', message: finding('no-validator'), weight: 'note' } as const;
    const asked = new Map([
      ['pages', 3],
      ['caching', 2],
      ['certificate', 0],
    ] as const);
    expect(countResults(asked, [wrong, { ...wrong, message: finding('no-type') }, note])).toEqual([
      { aspect: 'pages', asked: 3, wrong: 1, notes: 0 },
      { aspect: 'caching', asked: 2, wrong: 0, notes: 1 },
    ]);
    expect(judgeResults(countResults(asked, [wrong, note]))).toBe('wrong');
    expect(judgeResults(countResults(asked, [note]))).toBe('noted');
    expect(judgeResults(countResults(asked, []))).toBe('right');
  });
});
