/** A crawl at its bounds. Sources: RFC 9309, section 2.2 (robots.txt); RFC 3986, section 6.2 (normal addresses); WHATWG URL (ports). Bounds and names of programs are common practice, no source. */
import { describe, expect, it } from 'vitest';
import { parseRobots } from '../robots/index.ts';
import { findAddressWithin, Frontier, isPageType, leadsTo, Names, relink, readScope, settleEncoding } from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const text = (of: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(of);

describe('the frontier', () => {
  const frontier = (bound = 10_000) => new Frontier({ robots: parseRobots(''), agent: 'Fastigium', bound });
  const why = (address: string) => {
    const queue = frontier();
    queue.add(address);
    return queue.left.get(address);
  };

  it.each([
    [`/${'a/'.repeat(3)}`, undefined],
    [`/${'a/'.repeat(4)}`, 'trap'],
    ['/a/b/a/c/a/d/a', 'trap'],
    [`/${Array.from({ length: 24 }, (_, n) => n).join('/')}`, undefined],
    [`/${Array.from({ length: 25 }, (_, n) => n).join('/')}`, 'trap'],
    [`/${'a'.repeat(1023)}`, undefined],
    [`/${'a'.repeat(1024)}`, 'trap'],
    [`/?${'a'.repeat(1022)}`, undefined],
    ['//a//a//', undefined],
  ])('%s', (address, reason) => expect(why(address)).toBe(reason));

  it('takes five hundred queries of one path, and as many of another', () => {
    const queue = frontier();
    for (let n = 0; n < 501; n += 1) {
      queue.add(`/a?${n}`);
      queue.add(`/b?${n}`);
    }
    queue.add('/a');
    expect(queue.known).toBe(1001);
    expect([...queue.left.keys()]).toEqual(['/a?500', '/b?500']);
  });

  it('keeps what it will not ask for as far as it is told, and goes on for as long as there is something', () => {
    const queue = frontier(3000);
    for (let n = 0; n < 4500; n += 1) queue.add(`/${n}`);
    expect(queue.left.size).toBe(1000);
    const asked: string[] = [];
    for (let next = queue.next(); next !== undefined; next = queue.next()) asked.push(next);
    expect(asked).toEqual(Array.from({ length: 3000 }, (_, n) => `/${n}`));
    expect(queue.next()).toBeUndefined();
  });
});

describe('addresses of the site', () => {
  const scope = () => readScope(new URL('https://www.site.example:8443/'));
  it.each([
    ['https://site.example:8443/a', '/a'],
    ['http://www.site.example:8443/a', '/a'],
    ['https://site.example/a', undefined],
    ['https://site.example:8443/a;JSESSIONID=1/b', '/a;JSESSIONID=1/b'],
    ['https://site.example:8443/a;jsessionid=1?b', '/a?b'],
    ['https://site.example:8443/?ASPSESSIONIDABC=1&b=2', '/?b=2'],
    ['https://site.example:8443/?b=2&jsessionid=1', '/?b=2'],
    ['https://site.example:8443/?myphpsessid=1', '/?myphpsessid=1'],
  ])('%s is %s', (url, address) => expect(findAddressWithin(scope(), new URL(url))).toBe(address));
});

describe('names', () => {
  it.each([
    'php',
    'php5',
    'phtml',
    'asp',
    'aspx',
    'ashx',
    'jsp',
    'jspx',
    'cgi',
    'pl',
    'cfm',
    'do',
    'shtml',
    'py',
    'rb',
  ])('.%s is a program’s', (ending) => {
    expect(new Names().nameFor(`/a.${ending}`, 'text/html')).toBe('a.html');
    expect(new Names().nameFor(`/a.${ending.toUpperCase()}`, 'image/png')).toBe('a.png');
  });

  it.each([
    ['/a.html', 'text/html', 'a.html'],
    ['/a.b', 'text/html', 'a.b.html'],
    ['/a.xyzzy', 'application/octet-stream', 'a.xyzzy'],
    ['/a.xyzzy', 'image/png', 'a.xyzzy.png'],
    ['/a.css', 'text/plain', 'a.css'],
    ['/a', 'text/plain', 'a'],
    ['/a', 'application/x-download', 'a'],
    ['/', 'image/png', 'file.png'],
    ['/?a=1', 'image/png', '1.png'],
    ['/a//b', 'text/html', 'a/b.html'],
    ['/a%0Ab', 'text/html', 'a-b.html'],
    ['/a?x=', 'text/html', 'a-x.html'],
    ['/a?=x', 'text/html', 'a-x.html'],
    ['/a?%E9', 'text/html', 'a-query.html'],
    ['/a?&&b=2', 'text/html', 'a-2.html'],
    [`/a?${'x'.repeat(300)}`, 'text/html', `a-${'x'.repeat(60)}.html`],
    ['/.php', 'text/html', 'page.html'],
  ])('%s as %s is %s', (address, type, name) => expect(new Names().nameFor(address, type)).toBe(name));

  it('are given once, and files and folders apart', () => {
    const names = new Names();
    expect(
      ['/a', '/A', '/a.html', '/a.html/b', '/a.html/c', '/x/y', '/x'].map((address) =>
        names.nameFor(address, 'text/html'),
      ),
    ).toEqual(['a.html', 'A-2.html', 'a-3.html', 'a.html-/b.html', 'a.html-/c.html', 'x/y.html', 'x.html']);
    const plain = new Names();
    expect([plain.nameFor('/x/y', 'text/plain'), plain.nameFor('/x', 'text/plain')]).toEqual(['x/y', 'x-2']);
  });

  it.each([
    ['text/html', true],
    ['application/xhtml+xml', true],
    ['text/plain', false],
  ])('%s is a page: %s', (type, isPage) => expect(isPageType(type)).toBe(isPage));
});

describe('an answer', () => {
  it('leads to what it loads and to where people go, once, without fragments', () => {
    const page =
      '<a href="a#x"><a href="a#y"><img src=a><form action=/s><button formaction=/t></button><input formaction=/u><input type=image src=i.png></form><a href="http://[">';
    expect(leadsTo({ kind: 'page', url: 'http://s.example/d/' }, bytes(page))).toEqual([
      'http://s.example/d/a',
      'http://s.example/d/i.png',
    ]);
    expect(leadsTo({ kind: 'page', url: 'http://s.example/d/' }, bytes('<base href="http://["><a href=a>'))).toEqual([
      'http://s.example/d/a',
    ]);
    expect(leadsTo({ kind: 'style', url: 'http://s.example/d/' }, bytes('a{b:url(x)}'))).toEqual([
      'http://s.example/d/x',
    ]);
  });

  it('keeps its bytes where its header says the same, or its mark says more', () => {
    const settled = (content: Uint8Array, charset: string | undefined, kind: 'page' | 'style' = 'page') =>
      settleEncoding({ bytes: content, kind, url: 'http://s.example/', charset });
    const latin = Uint8Array.of(0x61, 0xe9);
    expect(settled(latin, undefined)).toEqual({ bytes: latin, recoded: false });
    expect(settled(latin, 'windows-1252').bytes).toBe(latin);
    const marked = Uint8Array.of(0xef, 0xbb, 0xbf, 0x61);
    expect(settled(marked, 'koi8-r').bytes).toBe(marked);
    expect(text(settled(latin, 'koi8-r', 'style').bytes)).toBe('\ufeffaИ');
    expect(settled(latin, 'koi8-r', 'style').recoded).toBe(true);
  });

  it('of a style sheet keeps what it cannot follow', () => {
    const how = {
      kind: 'style',
      url: 'http://s.example/a.css',
      file: 'a.css',
      scope: readScope(new URL('http://s.example/')),
      fileOf: (address: string) => ({ '/b.png': 'b.png', '/c.php?d=1': 'c-1.png' })[address],
    } as const;
    const css = 'a{b:url(b.png);c:url( c.php?d=1 );d:url(never.png);e:url(http://t.example/b.png);f:url(#g)}';
    expect(text(relink(bytes(css), how))).toBe(css.replace(' c.php?d=1 ', 'c-1.png'));
  });

  it('has a base of its own where it named the old host', () => {
    const how = {
      kind: 'page',
      url: 'http://s.example/a',
      file: 'a.html',
      scope: readScope(new URL('http://s.example/')),
      fileOf: () => undefined,
    } as const;
    const based = (html: string) => text(relink(bytes(html), how));
    expect(based('<base target=_top><base class=x href="http://www.s.example/d/?a&amp;b">')).toBe(
      '<base target=_top><base class=x href="/d/?a&amp;b">',
    );
    expect(based('<base href="/d/">')).toBe('<base href="/d/">');
    expect(based('<base href="http://t.example/d/">')).toBe('<base href="http://t.example/d/">');
  });
});
