/** A site under a path: what changes, what keeps its bytes, and that every reference leads where it led. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findAddressOfFile } from '../address/index.ts';
import { parsePage, linkPlaces } from '../html/index.ts';
import { emptyDraft, foldDecisions, findMovedAddresses, type Decision } from '../site/index.ts';
import { compileRules, compileStyle, stripBase, mapMovesUnder, findPublishedPath, placeUnderBase } from './index.ts';
import { compileAlone } from './testing.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const text = (of: Uint8Array) => new TextDecoder().decode(of);
const under = (basePath: string) => ({ ...emptyDraft, basePath });
const page = { id: 'p', sourcePath: 'visit/index.html' };
const compile = (html: string, basePath: string) => text(compileAlone(under(basePath), page, bytes(html)).bytes);

describe('a page under a path', () => {
  it('says from there what it said from the root; everything else keeps its bytes', () => {
    const html =
      '<a href="/visit/">a</a><a href=../>b</a><a href="//cdn.test/x.js">c</a><img src="/p/a.png" srcset="/p/a.png 1x, b.png 2x"><a href="https://a.test/">d</a><a href="#top">e</a><style>a{background:url(/p/c.png)}</style>';
    expect(compile(html, '/museum')).toBe(
      '<a href="/museum/visit/">a</a><a href=../>b</a><a href="//cdn.test/x.js">c</a><img src="/museum/p/a.png" srcset="/museum/p/a.png 1x, b.png 2x"><a href="https://a.test/">d</a><a href="#top">e</a><style>a{background:url(/museum/p/c.png)}</style>',
    );
    const relative = bytes('<a href="../other/">x</a><img src="a.png">');
    expect(compileAlone(under('/museum'), page, relative).bytes).toBe(relative);
  });

  it('stands in its folder', () => {
    expect(findPublishedPath(under('/a/b'), page)).toBe('a/b/visit/index.html');
    expect([placeUnderBase('', 'x'), stripBase('/a', 'a/x'), stripBase('/a', 'ab/x'), stripBase('', 'x')]).toEqual([
      'x',
      'x',
      undefined,
      'x',
    ]);
  });

  it('every inner reference leads where it led, from wherever (property)', () => {
    const href = fc.stringMatching(/^(\/|\.\.\/|\.\/)?[a-z]{1,3}(\/[a-z]{1,3})?(\.html)?(\?q=1)?(#x)?$/);
    const meant = (reference: string, from: string) => new URL(reference, `http://s.test${from}`);
    fc.assert(
      fc.property(fc.array(href, { minLength: 1, maxLength: 5 }), fc.constantFrom('/m', '/m/n'), (hrefs, basePath) => {
        const source = hrefs.map((each) => `<a href="${each}">x</a>`).join('');
        const after = [...linkPlaces(parsePage(bytes(compile(source, basePath))))].flatMap(({ hrefs: found }) => found);
        const from = findAddressOfFile(page.sourcePath);
        hrefs.forEach((before, index) => {
          // RFC 3986 resolution by the platform's own URL, as an oracle.
          const [was, now] = [meant(before, from), meant(after[index] ?? '', basePath + from)];
          expect(now.pathname + now.search + now.hash).toBe(basePath + was.pathname + was.search + was.hash);
        });
      }),
    );
  });
});

describe('a style sheet under a path', () => {
  it('is changed only where it says something from the root', () => {
    const css =
      '@import "/a.css"; a { background: url(/b.png) } b { background: url("//cdn.test/c.png") } c { background: url(d.png) } /* url(/e.png) */';
    expect(text(compileStyle(bytes(css), '/style/a.css', '/m', new Map()))).toBe(
      '@import "/m/a.css"; a { background: url(/m/b.png) } b { background: url("//cdn.test/c.png") } c { background: url(d.png) } /* url(/e.png) */',
    );
    const untouched = bytes('a { background: url(b.png) }');
    expect(compileStyle(untouched, '/style/a.css', '/m', new Map())).toBe(untouched);
  });
});

describe('moving a site', () => {
  const record = (...decisions: Decision[]) =>
    foldDecisions(decisions.map((decision, index) => ({ seq: index + 1, decision })));
  const pages = new Map([
    ['p', page],
    ['h', { id: 'h', sourcePath: 'index.html' }],
  ]);
  const all = (...decisions: Decision[]) => compileRules(record(...decisions), pages, '2026-01-01').rules;
  /** Without the other spellings of the same page, which have a check of their own. */
  const rules = (...decisions: Decision[]) =>
    Object.fromEntries(
      all(...decisions)
        .filter(({ from }) => !/visit$|index\.html$/.test(from))
        .map(({ from, status, to }) => [from, `${status} ${to}`]),
    );

  it('redirects every page from where it was, and the bare root for now', () => {
    expect(rules({ kind: 'base-path', path: '/m' })).toEqual({ '/visit/': '301 /m/visit/', '/': '301 /m/' });
    expect(rules({ kind: 'base-path', path: '/m' }, { kind: 'base-path', path: '/n' })).toEqual({
      '/visit/': '301 /n/visit/',
      '/m/visit/': '301 /n/visit/',
      '/': '301 /n/',
      '/m/': '301 /n/',
    });
  });

  it('from every spelling of the address', () => {
    expect(
      all({ kind: 'base-path', path: '/m' })
        .filter(({ to }) => to === '/m/visit/')
        .map(({ from }) => from)
        .sort(),
    ).toEqual(['/visit', '/visit/', '/visit/index.html']);
    expect(
      all({ kind: 'base-path', path: '/m' })
        .filter(({ to }) => to === '/m/')
        .map(({ from }) => from)
        .sort(),
    ).toEqual(['/', '/index.html']);
  });

  it('and back: what was under the path leads to the root; taken back, nothing is left of it', () => {
    expect(rules({ kind: 'base-path', path: '/m' }, { kind: 'base-path', path: '' })).toEqual({
      '/m/visit/': '301 /visit/',
      '/m/': '301 /',
    });
    expect(rules({ kind: 'base-path', path: '/m' }, { kind: 'undo', of: 1 })).toEqual({});
  });

  it('keeps what people decided', () => {
    const decided: Decision = { kind: 'redirect', redirect: { from: '/visit/', status: 410 } };
    expect(rules(decided, { kind: 'base-path', path: '/m' })['/visit/']).toBe('410 undefined');
    const to: Decision = {
      kind: 'redirect',
      redirect: { from: '/old.php', status: 301, target: { kind: 'page', page: 'p' } },
    };
    expect(rules(to, { kind: 'base-path', path: '/m' })['/old.php']).toBe('301 /m/visit/');
  });

  it('keeps the addresses of the site it was crawled from, wherever it stands, after what people decided', () => {
    const crawled: Decision = {
      kind: 'crawled',
      import: 'i',
      from: { p: ['/page.php?id=3', '/'], gone: ['/page.php?id=9'] },
      files: { '/get.php?f=1': 'guide.pdf' },
    };
    expect(rules(crawled)).toEqual({ '/page.php?id=3': '301 /visit/', '/get.php?f=1': '301 /guide.pdf' });
    const moved = rules(crawled, { kind: 'base-path', path: '/m' });
    expect([moved['/page.php?id=3'], moved['/get.php?f=1'], moved['/visit/']]).toEqual([
      '301 /m/visit/',
      '301 /m/guide.pdf',
      '301 /m/visit/',
    ]);
    const decided: Decision = { kind: 'redirect', redirect: { from: '/page.php?id=3', status: 410 } };
    expect(rules(decided, crawled)['/page.php?id=3']).toBe('410 undefined');
    // A later crawl knows the files anew; addresses of pages add up.
    expect(rules(crawled, { ...crawled, from: { p: ['/visit.asp'] }, files: {} })).toEqual({
      '/page.php?id=3': '301 /visit/',
      '/visit.asp': '301 /visit/',
    });
  });

  it('and a home page chosen there: links, the former address, all under the path', () => {
    const draft = record(
      { kind: 'home', page: 'p', importedHome: { page: 'h', address: '/former/' } },
      { kind: 'base-path', path: '/m' },
    );
    const moves = findMovedAddresses(draft, pages.values());
    expect(mapMovesUnder('/m', moves)('/visit/')).toBe('/m/');
    expect(mapMovesUnder('/m', moves)('/')).toBe('/m/');
    expect([findPublishedPath(draft, page), findPublishedPath(draft, { id: 'h', sourcePath: 'index.html' })]).toEqual([
      'm/index.html',
      'm/former/index.html',
    ]);
  });
});
