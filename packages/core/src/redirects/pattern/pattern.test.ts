/**
 * Patterns, held against the reference implementation of the URL Pattern standard (urlpattern-polyfill, MIT)
 * and against the time that backtracking without bounds would take.
 */
import fc from 'fast-check';
import { URLPattern } from 'urlpattern-polyfill';
import { describe, expect, it } from 'vitest';
import { readAddressOf } from '../../address/index.ts';
import { fillTarget, matchPattern, readPattern, readTarget, type Pattern } from './index.ts';

const pattern = (text: string, options = {}): Pattern => {
  const reading = readPattern(text, options);
  if (!reading.ok) throw new Error(`${text}: ${reading.problem.code}`);
  return reading.pattern;
};
const address = (text: string) => readAddressOf(new URL(`http://a.example${text}`));
const groups = (text: string, of: string, options = {}) => matchPattern(pattern(text, options), address(of));

/** By the reference; undefined also where it refuses the pattern. */
function byReference(
  text: string,
  of: string,
  options: { ignoreCase?: boolean } = {},
): Record<string, string> | undefined {
  const url = new URL(`http://a.example${of}`);
  const found = new URLPattern({ pathname: text } as never, options as never).exec(`http://a.example${url.pathname}`);
  return found
    ? Object.fromEntries(Object.entries(found.pathname.groups).map(([name, value]) => [name, value ?? '']))
    : undefined;
}

describe('paths', () => {
  // Kinds of patterns of the standard's own section "Examples", and of what people write for old sites.
  const PATTERNS = [
    '/news/:year/:slug.html',
    '/books/:id(\\d+)',
    '/:type/:id.:ext',
    '/files/*',
    '/files/*.pdf',
    '/a/:b?',
    '/a/:b?/c',
    '/a/:b+',
    '/a/:b*',
    '/a/:b*/c',
    '/{old-}?news/:id',
    '/x{/:y/z}?',
    '/x{/:y}+',
    '/x{/:y}*',
    '/(en|cy)/:page',
    '/:lang([a-z]{2})/*',
    '/page-:n(\\d{1,3}).htm',
    '/*/*',
    '/:a-:b',
    '/:a:b',
    '/caf%C3%A9/:x',
    '/(.*)',
    '/a(b|c)+',
    '/\\:literal',
    '/a.b',
    '/v:n(1|2)?',
    '/:x(a*)*',
    '/{a:b}?c',
    '/photo(s)?/:n',
    '/',
    '/*',
    '/a/b/',
    '/:foo(\\w+)?',
  ];
  const ADDRESSES = [
    '/',
    '/news/2016/mercury.html',
    '/news/2016/05/mercury.html',
    '/books/123',
    '/books/x',
    '/thing/12.pdf',
    '/files/',
    '/files/a/b.pdf',
    '/a',
    '/a/',
    '/a/x',
    '/a/x/c',
    '/a/c',
    '/a/x/y',
    '/a/x/y/c',
    '/old-news/9',
    '/news/9',
    '/x',
    '/x/1/z',
    '/x/1/2',
    '/en/visit',
    '/cy/ymweld',
    '/de/besuch',
    '/page-12.htm',
    '/page-1234.htm',
    '/one/two/three',
    '/p-q',
    '/p-q-r',
    '/caf%C3%A9/x',
    '/abbc',
    '/abc',
    '/:literal',
    '/axb',
    '/a.b',
    '/v1',
    '/v',
    '/aaa',
    '/c',
    '/ac',
    '/axc',
    '/photos/3',
    '/photo/3',
    '/a/b/',
  ];

  it.each(PATTERNS)('%s matches what the reference matches, with the same parts', (text) => {
    for (const of of ADDRESSES) expect([of, groups(text, of)]).toEqual([of, byReference(text, of)]);
  });

  it('ignore letter case where that is asked for', () => {
    for (const of of ['/News/2016/A.HTML', '/news/2016/a.html']) {
      expect(groups('/news/:year/:slug.html', of, { ignoreCase: true })).toEqual(
        byReference('/news/:year/:slug.html', of, { ignoreCase: true }),
      );
      expect(
        groups(
          '/:y([a-c]+)/x',
          of
            .replace('/News/2016', '/ABC')
            .replace('/news/2016', '/abc')
            .replace(/a\.html$/i, 'X'),
          { ignoreCase: true },
        ),
      ).toEqual({ y: expect.stringMatching(/^abc$/i) as unknown });
    }
    expect(groups('/news/:x', '/News/1')).toBeUndefined();
  });

  it('agree with the reference on anything that is put together of their parts', () => {
    const piece = fc.constantFrom(
      '/',
      'a',
      'b',
      '-',
      '.',
      ':x',
      ':y?',
      ':z(\\d+)',
      ':w([^/]*)',
      '*',
      '{/a}?',
      '{b}*',
      '(a|b)',
      '(a+)',
      '{/:v}?',
    );
    const text = fc
      .array(piece, { maxLength: 6 })
      .map((pieces) => `/${pieces.join('')}`)
      // Two slashes name an old domain here.
      .filter((each) => !each.startsWith('//'));
    const of = fc
      .array(fc.constantFrom('/', 'a', 'b', '-', '.', '1', '2'), { maxLength: 10 })
      .map((pieces) => `/${pieces.join('')}`)
      .filter((each) => !each.startsWith('//'));
    let compared = 0;
    fc.assert(
      fc.property(text, fc.array(of, { minLength: 1, maxLength: 4 }), (written, asked) => {
        let theirs: URLPattern | undefined;
        try {
          theirs = new URLPattern({ pathname: written });
        } catch {
          theirs = undefined;
        }
        const ours = readPattern(written);
        expect(ours.ok).toBe(theirs !== undefined);
        if (!ours.ok || !theirs) return;
        compared += 1;
        for (const each of asked) {
          const { path, query } = address(each);
          // The reference reads a path that begins with two slashes as a host.
          if (path.startsWith('//')) continue;
          const found = theirs.exec(`http://a.example${path}`);
          const expected =
            found &&
            Object.fromEntries(Object.entries(found.pathname.groups).map(([name, value]) => [name, value ?? '']));
          expect([written, path, matchPattern(ours.pattern, { path, query })]).toEqual([
            written,
            path,
            expected ?? undefined,
          ]);
        }
      }),
      { numRuns: 1500 },
    );
    expect(compared).toBeGreaterThan(200);
  });
});

describe('queries', () => {
  it.each([
    ['/visit.php?id=:id', '/visit.php?id=7', { id: '7' }],
    ['/visit.php\\?id=:id', '/visit.php?id=7', { id: '7' }],
    ['/visit.php?id=:id', '/visit.php', undefined],
    ['/visit.php?id=:id', '/visit.php?id=7&x=1', { id: '7&x=1' }],
    ['/visit.php?id=:id([^&]+)&*', '/visit.php?id=7&x=1', { id: '7', 0: 'x=1' }],
    ['/page.php', '/page.php?id=3', {}],
    ['/*\\?*', '/a/b?c', { 0: 'a/b', 1: 'c' }],
    ['/:x?', '/', undefined],
  ])('%s and %s', (text, of, expected) => {
    expect(groups(text, of)).toEqual(expected);
  });
});

describe('what cannot be read', () => {
  it.each([
    ['news/:x', 'no-slash'],
    ['/a\\', 'backslash-at-end'],
    ['/:', 'colon-without-name'],
    ['/(', 'parenthesis-open'],
    ['/()', 'empty'],
    ['/{a', 'brace-open'],
    ['/a}', 'letter-not-here'],
    ['/:a/:a', 'name-twice'],
    ['/:a?x=:a', 'name-twice'],
    ['/(é)', 'not-ascii'],
    ['/(?:a)', 'question-mark-first'],
    ['/((a))', 'named-group'],
    ['/(a(?=b))', 'looks-around'],
    ['/(\\1)', 'refers-back'],
    ['/([a)', 'bracket-open'],
    ['/(a**)', 'repeats-twice'],
    ['/(^a)', 'ends-asserted'],
    ['/([b-a])', 'range-backwards'],
    ['/(a{9,2})', 'repeats-backwards'],
    [`/${'x'.repeat(3000)}`, 'too-long'],
    ['/((?:(?:a{999}){999}){999})', 'too-large'],
  ])('%s', (text, why) => {
    const reading = readPattern(text);
    expect(reading.ok ? 'it was read' : reading.problem.code).toBe(`pattern.${why}`);
  });

  it('never throws, and never takes long', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme-ascii', maxLength: 60 }), fc.webPath(), (text, path) => {
        const reading = readPattern(`/${text}`);
        if (reading.ok) matchPattern(reading.pattern, address(path.startsWith('/') ? path : `/${path}`));
      }),
      { numRuns: 500 },
    );
  });

  it('is bounded where backtracking alone would not end', () => {
    // Each of these takes an engine that backtracks without bounds longer than anybody waits.
    for (const text of [
      '/((?:a+)+)b',
      '/((?:a|a)*)b',
      '/((?:a*)*)b',
      '/*a*a*a*a*a*a*a*a*b',
      '/:a(a+):b(a+):c(a+):d(a+):e(a+)b',
    ]) {
      expect(groups(text, `/${'a'.repeat(2000)}`)).toBeUndefined();
    }
  });
});

describe('a target', () => {
  const to = (text: string, target: string, of: string) => {
    const where = readTarget(target, pattern(text));
    const held = groups(text, of);
    return where.ok && held ? fillTarget(where.target, held) : where.ok ? undefined : where.problem;
  };

  it.each([
    ['/news/:year/:slug.html', '/journal/:slug/', '/news/2016/mercury.html', '/journal/mercury/'],
    ['/news/*', '/journal/:0', '/news/2016/x', '/journal/2016/x'],
    ['/visit.php?id=:id', '/visit/:id/', '/visit.php?id=7', '/visit/7/'],
    ['/a/:b', 'https://other.example/x?b=:b#top', '/a/1&2', 'https://other.example/x?b=1%262#top'],
    ['/a/:b', '/time/12\\:30/:b', '/a/x', '/time/12:30/x'],
    ['/a/:b?', '/x/:b', '/a', '/x/'],
  ])('of %s to %s', (text, target, of, expected) => {
    expect(to(text, target, of)).toBe(expected);
  });

  it.each([
    ['/go/*', '//:0', 'target-beginning'],
    ['/go/*', 'https://:0/x', 'target-host'],
    ['/go/*', 'https://a.example:x/', 'target-host'],
    ['/go/*', ':0', 'target-beginning'],
    ['/go/*', 'javascript:alert(1)', 'target-beginning'],
    ['/go/*', 'https://user@a.example/', 'target-host'],
    ['/go/*', '/\\evil.example', 'target-letter'],
    ['/go/*', '/x\r\nSet-Cookie: a=b', 'target-letter'],
    ['/go/:a', '/x/:b', 'target-no-part'],
    ['/go', '/x/:b', 'target-no-parts'],
  ])('of %s cannot be %j', (text, target, why) => {
    expect(to(text, target, '/go/x')).toMatchObject({ code: `pattern.${why}` });
  });

  it('never leads to a host that a visitor chose', () => {
    const value = fc.stringMatching(/^[a-z0-9./:@%?#&=\\-]{0,30}$/);
    const target = fc.constantFrom(
      '/:0',
      '/x/:0',
      '/:0:0',
      '/?to=:0',
      'https://fixed.example/:0',
      'https://fixed.example?x=:0',
    );
    fc.assert(
      fc.property(value, target, (asked, where) => {
        const reading = readTarget(where, { names: ['0'] });
        if (!reading.ok) throw new Error(reading.problem.code);
        const url = new URL(fillTarget(reading.target, { 0: asked }), 'http://here.example/');
        expect(url.host).toBe(where.startsWith('https') ? 'fixed.example' : 'here.example');
      }),
      { numRuns: 1000 },
    );
  });
});
