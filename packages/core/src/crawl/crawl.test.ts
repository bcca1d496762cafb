/** The crawl's own judgements: what belongs to the site, what is asked for, names of answers, and links that lead to them. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findAddressOfFile, listCandidateFiles, resolveHref } from '../address/index.ts';
import { readBaseHref, decodeSource, parsePage, readDocument } from '../html/index.ts';
import { parseRobots } from '../robots/index.ts';
import { findAddressWithin, Frontier, leadsTo, Names, relink, readScope, settleEncoding } from './index.ts';

const text = (bytes: Uint8Array) => decodeSource(bytes).text;
const bytes = (source: string) => new TextEncoder().encode(source);

describe('the scope', () => {
  const scope = () => readScope(new URL('http://www.site.example/start'));
  it.each([
    ['https://site.example/a/../b', '/b'],
    ['http://www.site.example/?id=3#part', '/?id=3'],
    ['http://site.example:80/%7Ex', '/~x'],
    ['https://www.site.example:443/', '/'],
    ['http://site.example/x;jsessionid=12AB', '/x'],
    ['http://site.example/x?PHPSESSID=1&id=3', '/x?id=3'],
    ['http://site.example/x?phpsessid=1', '/x'],
    ['http://site.example:8080/', undefined],
    ['http://shop.site.example/', undefined],
    ['http://site.example.net/', undefined],
    ['mailto:a@site.example', undefined],
    ['ftp://site.example/', undefined],
  ])('%s is %s', (url, address) => expect(findAddressWithin(scope(), new URL(url))).toBe(address));
});

describe('the frontier', () => {
  const frontier = (bound = 100) =>
    new Frontier({ robots: parseRobots('User-agent: *\nDisallow: /private/'), agent: 'Fastigium', bound });

  it('asks for each address once, in the order of finding', () => {
    const queue = frontier();
    for (const address of ['/', '/b', '/a', '/b', '/']) queue.add(address);
    expect([queue.next(), queue.next(), queue.next(), queue.next()]).toEqual(['/', '/b', '/a', undefined]);
  });

  it('keeps to robots.txt, to its bound, and out of rows without end, and says of each', () => {
    const queue = frontier(3);
    for (const address of ['/private/x', '/a/b/a/b/a/b/a/b/a/', `/${'x'.repeat(2000)}`, '/1', '/2', '/3', '/4'])
      queue.add(address);
    expect([...queue.left]).toEqual([
      ['/private/x', 'robots'],
      ['/a/b/a/b/a/b/a/b/a/', 'trap'],
      [`/${'x'.repeat(2000)}`, 'trap'],
      ['/4', 'bound'],
    ]);
    expect(queue.known).toBe(3);
  });

  it('leaves a calendar that has a next day for ever', () => {
    const queue = frontier(100_000);
    for (let day = 0; day < 5000; day += 1) queue.add(`/calendar?day=${day}`);
    expect(queue.known).toBe(500);
    expect(queue.left.size).toBe(1000);
  });
});

describe('names of answers', () => {
  it.each([
    ['/', 'text/html', 'index.html'],
    ['/news/2012/', 'text/html', 'news/2012/index.html'],
    ['/about', 'text/html', 'about.html'],
    ['/old.htm', 'text/html', 'old.htm'],
    ['/page.php?id=3', 'text/html', 'page-3.html'],
    ['/gallery/photo.asp?n=12', 'text/html', 'gallery/photo-12.html'],
    ['/blog/?p=5', 'text/html', 'blog/5.html'],
    ['/list.cgi?year=2016&page=2', 'application/xhtml+xml', 'list-year-2016-page-2.html'],
    ['/search?q=caf%C3%A9+bar', 'text/html', 'search-cafe-bar.html'],
    ['/x.php?', 'text/html', 'x.html'],
    ['/style.css?v=3', 'text/css', 'style.css'],
    ['/css.php?theme=dark', 'text/css', 'css-dark.css'],
    ['/img.asp?n=4', 'image/gif', 'img-4.gif'],
    ['/picture', 'image/png', 'picture.png'],
    ['/guide.pdf', 'application/octet-stream', 'guide.pdf'],
    ['/caf%C3%A9/%20x.html', 'text/html', 'café/ x.html'],
    ['/caf%E9.html', 'text/html', 'caf-.html'],
  ])('%s as %s is %s', (address, type, name) => expect(new Names().nameFor(address, type)).toBe(name));

  it('are never one file twice, nor a file where a folder is (property)', () => {
    const address = fc
      .array(fc.constantFrom('a', 'A', 'b', '/', '.html', '.php', '?id=1', '?id=2', 'x'), { maxLength: 6 })
      .map((parts) => `/${parts.join('')}`);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(address, fc.constantFrom('text/html', 'text/css', 'image/png', 'text/plain')), {
          maxLength: 30,
        }),
        (answers) => {
          const names = new Names();
          const given = answers.map(([at, type]) => names.nameFor(at, type).toLowerCase());
          expect(new Set(given).size).toBe(given.length);
          for (const name of given) expect(given.some((other) => other.startsWith(`${name}/`))).toBe(false);
        },
      ),
    );
  });
});

describe('an answer', () => {
  const at = 'http://site.example/dir/page.php?id=3';

  it('leads where a browser would go, as the WHATWG URL of Node.js resolves it, but not where forms are sent', () => {
    const source =
      '<base href="/other/"><a href="x#part">x</a><img srcset="a.png 1x, /b.png 2x"><form action="/send"><input type=image src="go.gif"></form><style>body{background:url(bg.png)}</style><a href="mailto:a@b.example">';
    const expected = ['x', 'a.png', '/b.png', 'go.gif', 'bg.png'].map(
      (href) => new URL(href, 'http://site.example/other/').href,
    );
    expect(leadsTo({ kind: 'page', url: at }, bytes(source)).filter((href) => href.startsWith('http'))).toEqual(
      expected,
    );
  });

  it('means the same without its header: another encoding becomes UTF-8 with its mark', () => {
    const latin = Uint8Array.from([...'<p>caf'].map((letter) => letter.charCodeAt(0)).concat(0xe9));
    const settled = settleEncoding({ bytes: latin, kind: 'page', url: at, charset: 'iso-8859-2' });
    expect(settled.recoded).toBe(false);
    const cyrillic = settleEncoding({ bytes: latin, kind: 'page', url: at, charset: 'koi8-r' });
    expect(cyrillic.recoded).toBe(true);
    expect(text(cyrillic.bytes)).toBe(new TextDecoder('koi8-r').decode(latin));
    // Encoding standard, index windows-1252: 0x93 and 0x94 are curly quotes, 0x80 is the euro sign.
    const quoted = Uint8Array.from([0x93, 0x80, 0x94]);
    const utf8 = Uint8Array.from([...'<meta charset=utf-8>'].map((letter) => letter.charCodeAt(0)).concat(...quoted));
    const western = settleEncoding({ bytes: utf8, kind: 'page', url: at, charset: 'ISO-8859-1' });
    expect(text(western.bytes)).toBe('<meta charset=utf-8>“€”');
    expect(settleEncoding({ bytes: latin, kind: 'page', url: at, charset: 'no-such' })).toEqual({
      bytes: latin,
      recoded: false,
    });
  });
});

describe('links of a crawled page', () => {
  const scope = readScope(new URL('http://site.example/'));
  const linked = (
    source: string,
    files: Record<string, string>,
    url = 'http://site.example/dir/page.php?id=3',
    file = 'dir/page-3.html',
  ) => text(relink(bytes(source), { kind: 'page', url, file, scope, fileOf: (address) => files[address] }));

  it.each([
    ['<a href="page.php?id=4">', { '/dir/page.php?id=4': 'dir/page-4.html' }, '<a href="page-4.html">'],
    ['<a href="?id=4#part">', { '/dir/page.php?id=4': 'dir/page-4.html' }, '<a href="page-4.html#part">'],
    ['<a href="http://www.site.example/about">', { '/about': 'about.html' }, '<a href="/about.html">'],
    ['<a href=/about>', { '/about': 'about.html' }, '<a href=/about.html>'],
    ['<a href="page.php?id=3#top">', { '/dir/page.php?id=3': 'dir/page-3.html' }, '<a href="#top">'],
    ['<link rel=stylesheet href="/s.css?v=2">', { '/s.css?v=2': 's.css' }, '<link rel=stylesheet href="/s.css?v=2">'],
    ['<a href="gone.php?id=9">', {}, '<a href="gone.php?id=9">'],
    [
      '<base href="http://site.example/dir/"><a href="page.php?id=4">',
      { '/dir/page.php?id=4': 'dir/page-4.html' },
      '<base href="/dir/"><a href="/dir/page-4.html">',
    ],
    [
      '<a href="https://elsewhere.example/about">',
      { '/about': 'about.html' },
      '<a href="https://elsewhere.example/about">',
    ],
  ])('%s', (source, files, expected) => expect(linked(source, files)).toBe(expected));

  it('in a style sheet are its tokens', () => {
    const out = relink(bytes('a { background: url(/img.php?n=1) }'), {
      kind: 'style',
      url: 'http://site.example/s.css',
      file: 's.css',
      scope,
      fileOf: (address) => ({ '/img.php?n=1': 'img-1.png' })[address],
    });
    expect(text(out)).toBe('a { background: url(/img-1.png) }');
  });

  // The law: whatever a link meant on the running site, in the kept one it leads to the file of just that; all other bytes stay.
  it('lead to the file of what they meant (property)', () => {
    const path = fc.constantFrom('/', '/a', '/a/', '/a/b.php', '/a/b.html', '/c/d/');
    const address = fc.tuple(path, fc.constantFrom('', '?id=1', '?id=2')).map(([at, query]) => at + query);
    const href = fc.oneof(
      address,
      address.map((each) => `http://site.example${each}`),
      fc.constantFrom('b.php?id=1', '../a', '?id=2', './', '#x', '../c/d/#y', 'b.html'),
    );
    fc.assert(
      fc.property(
        fc.uniqueArray(address, { minLength: 1 }),
        fc.array(href, { maxLength: 6 }),
        fc.nat(),
        (answered, hrefs, pick) => {
          const names = new Names();
          const files = new Map(answered.map((each) => [each, names.nameFor(each, 'text/html')]));
          const own = answered[pick % answered.length] ?? '/';
          const file = files.get(own) ?? '';
          const url = `http://site.example${own}`;
          const source = hrefs.map((each) => `<p>text <a class='k' href="${each}">x</a>`).join('\n');
          const kept = relink(bytes(source), { kind: 'page', url, file, scope, fileOf: (each) => files.get(each) });
          const document = parsePage(kept);
          readDocument(document).links.forEach((link, index) => {
            const meant = findAddressWithin(scope, new URL(hrefs[index] ?? '', url));
            const target = meant === undefined ? undefined : files.get(meant);
            if (target === undefined) return expect(link.href).toBe(hrefs[index]);
            const now = resolveHref(link.href, findAddressOfFile(file), readBaseHref(document));
            expect(
              now.kind === 'inside' && listCandidateFiles(now.address.path).includes(target),
              `${hrefs[index]} → ${link.href}`,
            ).toBe(true);
          });
          const blank = (html: string) => html.replace(/href="[^"]*"/g, 'href');
          expect(blank(text(kept))).toBe(blank(source));
        },
      ),
    );
  });
});
