import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  findAddressOfFile,
  listCandidateFiles,
  decodePath,
  encodeFragment,
  encodePath,
  findFileOfAddress,
  formatAddress,
  findFreeAddress,
  normalisePathEncoding,
  normaliseQueryEncoding,
  parseAddress,
  relativiseReference,
  readAddressOf,
  resolveHref,
  makeSlug,
  splitAddress,
} from './index.ts';

interface UrlCase {
  readonly input: string;
  readonly base: string | null;
  readonly failure?: boolean;
  readonly origin?: string;
  readonly pathname?: string;
  readonly search?: string;
  readonly hash?: string;
}

// web-platform-tests, url/resources/urltestdata.json (BSD-3); see packages/core/testdata/README.md.
const cases = (
  JSON.parse(readFileSync(new URL('../../testdata/urltestdata.json', import.meta.url), 'utf8')) as (UrlCase | string)[]
).filter((entry): entry is UrlCase => typeof entry !== 'string');

/** Cases in which a page of some http site holds a reference that names neither scheme nor host. */
const relative = cases.filter(({ input, base, failure }) => {
  if (base === null || failure || !/^http:/.test(base)) return false;
  // A reference that goes wherever its base goes names no host of its own; a base nobody uses tells.
  const probe = new URL(base);
  probe.protocol = 'http:';
  probe.host = 'somewhere.else.invalid';
  try {
    return new URL(input, probe).host === probe.host;
  } catch {
    return false;
  }
});

describe('addresses against the WHATWG URL cases', () => {
  it('has cases to check', () => expect(relative.length).toBeGreaterThan(40));

  it.each(relative.map((entry) => [entry.input, entry.base ?? '', entry] as const))(
    '%j on %s',
    (input, base, expected) => {
      const page = new URL(base);
      const destination = resolveHref(input, page.pathname + page.search);
      expect(destination).toEqual({
        kind: 'inside',
        address: {
          path: normalisePathEncoding(expected.pathname ?? ''),
          query: expected.search ? normaliseQueryEncoding(expected.search.slice(1)) : undefined,
        },
        fragment: expected.hash ? expected.hash.slice(1) : undefined,
      });
    },
  );

  it('calls broken what the standard fails', () => {
    const failing = cases.filter(({ failure, base }) => failure && base !== null && /^http:/.test(base));
    expect(failing.length).toBeGreaterThan(20);
    for (const { input } of failing) expect(resolveHref(input, '/')).toEqual({ kind: 'broken' });
  });
});

describe('the normal form', () => {
  // RFC 3986 section 6.2.2: case of percent forms, unreserved characters, dot segments.
  it.each([
    ['/%7Euser/%c3%a9', '/~user/%C3%A9'],
    ['/caf\u00e9', '/caf%C3%A9'],
    ['/a/./b/../c', '/a/c'],
    ['/old page.html', '/old%20page.html'],
    ['http://EXAMPLE.com:80/X?id=3#part', '/X?id=3'],
    ['www.site.example/visit.php?id=7', '/visit.php?id=7'],
    ['visit.php?id=7', '/visit.php?id=7'],
    ['/x?', '/x'],
    ['/a%2Fb', '/a%2Fb'],
    ['  /space-around  ', '/space-around'],
    ['\\back\\slash', '/back/slash'],
    ['/100%', '/100%25'],
  ])('%s is %s', (typed, normal) => {
    const parsed = parseAddress(typed);
    expect(parsed.ok && formatAddress(parsed.address)).toBe(normal);
  });

  it.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['mailto:x@y.example', 'scheme'],
    ['javascript:alert(1)', 'scheme'],
    ['http://', 'unreadable'],
    ['http://a b/', 'unreadable'],
  ])('refuses %j: %s', (typed, problem) => expect(parseAddress(typed)).toEqual({ ok: false, problem }));

  it('is its own normal form', () => {
    fc.assert(
      fc.property(fc.webPath(), fc.option(fc.webQueryParameters(), { nil: undefined }), (path, query) => {
        const once = parseAddress(
          path.startsWith('/') && !path.startsWith('//') ? path + (query === undefined ? '' : `?${query}`) : '/',
        );
        if (!once.ok) return;
        const text = formatAddress(once.address);
        const twice = parseAddress(text.startsWith('//') ? '/' : text);
        if (!text.startsWith('//')) expect(twice.ok && formatAddress(twice.address)).toBe(text);
      }),
    );
  });
});

describe('what is typed or pasted', () => {
  it.each<[string, string | undefined, string]>([
    ['  /a  ', undefined, '/a'],
    ['a b', undefined, '/a%20b'],
    ['www.a.example/x?y=1', 'www.a.example', '/x?y=1'],
    ['WWW.a.example', 'www.a.example', '/'],
    ['old/www.a.example', undefined, '/old/www.a.example'],
    ['www.a', undefined, '/www.a'],
    ['a.example:8080/x', 'a.example:8080', '/x'],
    ['a.example:8080', 'a.example:8080', '/'],
    ['HTTPS://a.example/x#y', 'a.example', '/x'],
    ['http:x', undefined, '/x'],
    ['https://b.example', 'b.example', '/'],
    ['/x?', undefined, '/x'],
  ])('%j', (text, host, address) => {
    const read = parseAddress(text);
    expect(read.ok && [read.host, formatAddress(read.address)]).toEqual([host, address]);
  });

  it.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['mailto:a@b.example', 'scheme'],
    ['javascript:alert(1)', 'scheme'],
    ['a.b:c/d', 'scheme'],
    ['ab:80/', 'scheme'],
    ['a.b:80x/', 'scheme'],
    ['/x/a.b:80/', undefined],
    ['http://', 'unreadable'],
    ['http://[', 'unreadable'],
  ])('%j: %s', (text, problem) => {
    const read = parseAddress(text);
    expect(read.ok ? undefined : read.problem).toBe(problem);
  });

  it.each([
    ['/a', '/a', undefined],
    ['/a?', '/a', undefined],
    ['/a?b', '/a', 'b'],
    ['/a?b?c', '/a', 'b?c'],
    ['?b', '', 'b'],
  ])('%s is split', (text, path, query) => expect(splitAddress(text)).toEqual({ path, query }));
});

describe('where a reference leads', () => {
  it.each([
    ['mailto:a@b.example', undefined, { kind: 'other', scheme: 'mailto' }],
    ['http://other.example/x', undefined, { kind: 'outside', url: 'http://other.example/x' }],
    ['https://other.example/x', undefined, { kind: 'outside', url: 'https://other.example/x' }],
    ['//other.example', undefined, { kind: 'outside', url: 'http://other.example/' }],
    ['http://[', undefined, { kind: 'broken' }],
    ['', undefined, { kind: 'inside', address: { path: '/a/b', query: 'c=1' }, fragment: undefined }],
    ['#', undefined, { kind: 'inside', address: { path: '/a/b', query: 'c=1' }, fragment: undefined }],
    ['#top', undefined, { kind: 'inside', address: { path: '/a/b', query: 'c=1' }, fragment: 'top' }],
    ['x', undefined, { kind: 'inside', address: { path: '/a/x', query: undefined }, fragment: undefined }],
    ['x#y', undefined, { kind: 'inside', address: { path: '/a/x', query: undefined }, fragment: 'y' }],
    ['x', '/base/', { kind: 'inside', address: { path: '/base/x', query: undefined }, fragment: undefined }],
    ['x', 'http://[', { kind: 'inside', address: { path: '/a/x', query: undefined }, fragment: undefined }],
    ['x', 'https://other.example/y/', { kind: 'outside', url: 'https://other.example/y/x' }],
  ])('%j, under a base of %s', (href, base, expected) => {
    expect(resolveHref(href, '/a/b?c=1', base)).toEqual(expected);
  });
});

describe('files and addresses', () => {
  it.each([
    ['index.html', '/'],
    ['visit/index.html', '/visit/'],
    ['visit/index.htm', '/visit/'],
    ['about us.html', '/about%20us.html'],
    ['caf\u00e9/index.html', '/caf%C3%A9/'],
    ['100%.html', '/100%25.html'],
    ['a?b#c.html', '/a%3Fb%23c.html'],
    ['notindex.html', '/notindex.html'],
  ])('%s answers at %s', (file, address) => {
    expect(findAddressOfFile(file)).toBe(address);
    expect(listCandidateFiles(address)).toContain(file);
  });

  it.each([
    ['/', 'index.html', ['index.html', 'index.htm']],
    ['/a/', 'a/index.html', ['a/index.html', 'a/index.htm']],
    ['/a', 'a.html', ['a']],
    ['/a.html', 'a.html', ['a.html']],
    ['/a%2Fb', undefined, []],
  ])('%s is published as %s, and answered by one of %j', (address, file, candidates) => {
    expect(findFileOfAddress(address)).toBe(file);
    expect(listCandidateFiles(address)).toEqual(candidates);
  });
  it.each([
    ['index.html.txt', '/index.html.txt'],
    ['myindex.html', '/myindex.html'],
    ['a/INDEX.HTM', '/a/'],
  ])('%s answers at %s', (path, address) => expect(findAddressOfFile(path)).toBe(address));

  it('never reaches a file through an encoded slash or NUL', () => {
    expect(decodePath('a%2Fb')).toBeUndefined();
    expect(decodePath('a%00b')).toBeUndefined();
    expect(decodePath('%ff')).toBeUndefined();
  });

  it('finds every file by the address made for it', () => {
    const name = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
      .filter((text) => !/[/\0]/.test(text) && text !== '.' && text !== '..' && text.isWellFormed());
    fc.assert(
      fc.property(fc.array(name, { minLength: 1, maxLength: 4 }), (names) => {
        const file = names.join('/');
        expect(decodePath(encodePath(file))).toBe(file);
        expect(listCandidateFiles(findAddressOfFile(file))).toContain(file);
      }),
    );
    expect(findFileOfAddress('/visit/')).toBe('visit/index.html');
  });
});

describe('relative references', () => {
  const segment = fc.constantFrom('a', 'b', 'c', 'x:y', 'caf%C3%A9', 'index.html', '~');
  const address = fc
    .tuple(
      fc.array(segment, { maxLength: 4 }),
      fc.boolean(),
      fc.option(fc.constantFrom('id=3', 'q=/../x'), { nil: undefined }),
    )
    .map(
      ([segments, folder, query]) =>
        `/${segments.join('/')}${folder && segments.length > 0 ? '/' : ''}${query === undefined ? '' : `?${query}`}`,
    );

  // Held against the URL class of the platform, an implementation of the WHATWG URL standard.
  it('lead where browsers take them, plain ones too, from any folder', () => {
    const segment = fc.constantFrom('a', 'b-2', 'c_d.html', 'x~y', '..', '.', '%41', 'é', 'e.f', '...', '-');
    const reference = fc
      .tuple(fc.array(segment, { maxLength: 5 }), fc.constantFrom('', '/', '#', '#top', '#a~b', '?q'))
      .map(([segments, end]) => segments.join('/') + end);
    const page = fc
      .tuple(
        fc.array(fc.constantFrom('a', 'b.c', '%C3%A9', '~d'), { maxLength: 3 }),
        fc.constantFrom('', '/', '?r=/s/'),
      )
      .map(([segments, end]) => `/${segments.join('/')}${end}`);
    fc.assert(
      fc.property(reference, page, (href, from) => {
        const url = new URL(href, `http://site.invalid${from}`);
        const here = resolveHref(href, from);
        if (url.host !== 'site.invalid') return expect(here.kind).toBe('outside');
        expect(here.kind === 'inside' && [here.address, here.fragment]).toEqual([
          readAddressOf(url),
          url.hash === '' ? undefined : url.hash.slice(1),
        ]);
      }),
      { numRuns: 3000 },
    );
  });

  // The shortest there is, by RFC 3986, sections 4.2 and 5.2.
  it.each([
    ['/a/b', '/a/c', 'c'],
    ['/a/b', '/a/', './'],
    ['/a/b', '/a/?x=1', './?x=1'],
    ['/a/b/c', '/a/d', '../d'],
    ['/a/b/c/d', '/a/x/y', '../../x/y'],
    ['/a/', '/a/b/c/', 'b/c/'],
    ['/', '/', './'],
    ['/a?q', '/b?r', 'b?r'],
    ['/x/a', '/a/x', '../a/x'],
    ['/a', '/x:y', './x:y'],
    ['/a', '/x/y:z', 'x/y:z'],
    ['/a', '/:', './:'],
    ['/a/b/', '/a//b', '/a//b'],
    ['/a/b', '//c', '//c'],
    ['/a/', '/a//', '/a//'],
    ['/a', '/a//b', 'a//b'],
  ])('from %s to %s is %s', (from, to, expected) => expect(relativiseReference(from, to)).toBe(expected));

  it('lead where they were meant to, from any page to any other', () => {
    fc.assert(
      fc.property(address, address, (from, to) => {
        const destination = resolveHref(relativiseReference(from, to), from);
        expect(destination.kind === 'inside' && formatAddress(destination.address)).toBe(to);
      }),
      { numRuns: 1000 },
    );
  });
});

describe('addresses from titles', () => {
  it.each([
    ['Croeso i’r Rhos!', 'croeso-ir-rhos'],
    ['Übergröße & Ærø', 'ubergrosse-aero'],
    ['  --  ', ''],
    ['日本語 ページ', '日本語-ページ'],
    ['한국어', '한국어'],
  ])('%s: %s', (title, expected) => {
    expect(makeSlug(title)).toBe(expected);
  });

  it.each([
    ['--a--', 'a'],
    ['¡¡Hola!!', 'hola'],
    [`${'a'.repeat(59)} !! b`, 'a'.repeat(59)],
    ['a\u0301\u0323b', 'ab'],
    ['Straße', 'strasse'],
    ['', ''],
  ])('%j becomes %j', (title, expected) => expect(makeSlug(title)).toBe(expected));

  it('are free, whatever is taken', () => {
    const taken = new Set(['/home/', '/home-2/']);
    expect(findFreeAddress('home', (address) => taken.has(address))).toBe('/home-3/');
    expect(findFreeAddress('', () => false)).toBe('/page/');
  });
});

// URL standard, "fragment percent-encode set"; the values by Node.js' own URL.
it.each([
  ['top', '#top'],
  ['the café', '#the%20caf%C3%A9'],
  ['%C3%A9', '#%C3%A9'],
  ['a"<>`b', '#a%22%3C%3E%60b'],
  ['a#b?c', '#a#b?c'],
  ['a\r\n\tb', '#ab'],
])('the fragment %j stands behind an address as %s', (fragment, written) => {
  expect(encodeFragment(fragment)).toBe(written);
  expect(encodeFragment(written.slice(1))).toBe(written);
});
