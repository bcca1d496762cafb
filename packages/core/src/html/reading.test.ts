/**
 * What is read in a page. Sources: HTML standard, "Attributes" index (which attributes hold addresses), sections 4.2.3
 * (`base`), 4.2.5 (`meta`, refresh), 4.6.7 (link types), 4.8.4.2 (`srcset`), 4.5.14 (`time`); RFC 3339, section 5.7 (days
 * of a month); CSS Syntax 3, section 4.3.6 (addresses).
 */
import { describe, expect, it } from 'vitest';
import {
  findCssUrls,
  walkElements,
  isHeading,
  linkEdits,
  linkPlaces,
  parsePage,
  parseSrcset,
  readPage,
  splice,
} from './index.ts';
import { readBaseHref, splitPath } from './links.ts';
import { findLineAndColumn, placeInPage, placeInStyle, placeOfSpan } from './place.ts';
import { readReferences } from './references.ts';

const utf8 = (text: string) => new TextEncoder().encode(text);
const read = (html: string) => readPage(utf8(html));

describe('what a page says of itself', () => {
  it.each([
    ['the language', '<html lang=" cy ">', { language: 'cy' }],
    ['no language of nothing', '<html lang=" ">', { language: undefined }],
    ['no language of a picture', '<svg lang=cy></svg>', { language: undefined }],
    ['the first title', '<title>One\n two</title><title>Three</title>', { title: 'One two' }],
    ['no title of a picture', '<body><svg><title>No</title></svg><title>Yes</title>', { title: 'Yes' }],
    [
      'the first description',
      '<meta name=Description content=" One\n two "><meta name=description content=no>',
      { description: 'One two' },
    ],
    ['an empty description', '<meta name=description>', { description: '' }],
    [
      'no description of another name',
      '<meta name=keywords content=x><meta property=description content=x>',
      { description: undefined },
    ],
    ['the first base', '<base target=_top><base href=" /a/ "><base href=/b/>', { base: '/a/' }],
    [
      'a day in its head',
      '<meta property=article:published_time content="2016-05-09T10:00:00Z">',
      { date: '2016-05-09' },
    ],
    [
      'a day by another name',
      '<meta name=DC.Date content=2016-05-09><meta name=date content=2017-01-01>',
      { date: '2016-05-09' },
    ],
    ['a day of its creation', '<meta name="dcterms.created" content=2016-05-09>', { date: '2016-05-09' }],
    ['no day of any other name', '<meta name=dated content=2016-05-09>', { date: undefined }],
    ['a day of a time', '<time datetime="2016-05-09">last week</time>', { date: '2016-05-09' }],
    ['a day a time shows', '<time> 2016-05-09 </time>', { date: '2016-05-09' }],
    ['the first of both', '<time>May</time><time>2016-05-09</time><time>2017-01-01</time>', { date: '2016-05-09' }],
  ])('is %s', (_, html, expected) => expect(read(html)).toMatchObject(expected));

  it.each([
    ['2016-05-09 10:00', '2016-05-09'],
    ['on 2016-05-09', undefined],
    ['2016-05-091', undefined],
    ['2016-5-9', undefined],
    ['2016-00-10', undefined],
    ['2016-13-10', undefined],
    ['2016-01-00', undefined],
    ['2016-01-01', '2016-01-01'],
    ['2016-01-31', '2016-01-31'],
    ['2016-04-30', '2016-04-30'],
    ['2016-04-31', undefined],
    ['2016-06-31', undefined],
    ['2016-07-31', '2016-07-31'],
    ['2016-08-31', '2016-08-31'],
    ['2016-09-31', undefined],
    ['2016-10-31', '2016-10-31'],
    ['2016-11-31', undefined],
    ['2016-12-31', '2016-12-31'],
    ['2016-12-32', undefined],
    ['2016-03-31', '2016-03-31'],
    ['2016-05-31', '2016-05-31'],
    // Leap years (RFC 3339, appendix C).
    ['2016-02-29', '2016-02-29'],
    ['2015-02-29', undefined],
    ['2000-02-29', '2000-02-29'],
    ['1900-02-29', undefined],
    ['1900-02-28', '1900-02-28'],
  ])('%s is the day %s', (written, day) => expect(read(`<time datetime="${written}">`).date).toBe(day));

  it('are its headings with their levels, and no others', () => {
    expect(read('<h1>One</h1><h2>Two <b>b</b></h2><h6>Six</h6><h7>no</h7><hr>').headings).toEqual([
      { level: 1, text: 'One' },
      { level: 2, text: 'Two b' },
      { level: 6, text: 'Six' },
    ]);
    expect(['h1', 'h6', 'h0', 'h7', 'h10', 'g1', 'hr', 'h', 'header', 'i1'].filter(isHeading)).toEqual(['h1', 'h6']);
  });

  it('are two hundred headings at most', () => {
    expect(read('<h2>x</h2>'.repeat(201)).headings).toHaveLength(200);
  });

  it('is how it is encoded', () => {
    expect(read('é')).toMatchObject({ encoding: 'utf-8', encodingSource: 'guessed', validEncoding: true });
    expect(readPage(Uint8Array.of(0x3c, 0xe9))).toMatchObject({ encoding: 'windows-1252', validEncoding: true });
  });

  it('are its links with what they are for', () => {
    expect(read('<a href=" b ">x</a><img src=a.png><q cite=c>').links).toEqual([
      { href: 'b', element: 'a', attribute: 'href', purpose: 'follow' },
      { href: 'a.png', element: 'img', attribute: 'src', purpose: 'load' },
      { href: 'c', element: 'q', attribute: 'cite', purpose: 'tell' },
    ]);
  });
});

describe('references', () => {
  const found = (html: string) =>
    [...walkElements(parsePage(utf8(html)).root)].flatMap((element) =>
      readReferences(element).map(
        ({ attribute, purpose, hrefs }) => `${purpose} ${element.tagName} ${attribute} ${hrefs.join(' ')}`,
      ),
    );

  it.each<[string, string | undefined]>([
    ['<a href=x>', 'follow'],
    ['<area href=x>', 'follow'],
    ['<link href=x rel=stylesheet>', 'load'],
    ['<link href=x rel="shortcut ICON">', 'load'],
    ['<link href=x rel=apple-touch-icon>', 'load'],
    ['<link href=x rel=mask-icon>', 'load'],
    ['<link href=x rel=manifest>', 'load'],
    ['<link href=x rel=preload>', 'load'],
    ['<link href=x rel=modulepreload>', 'load'],
    ['<link href=x rel=prefetch>', 'load'],
    ['<link href=x rel=canonical>', 'tell'],
    ['<link href=x>', 'tell'],
    ['<link href=x rel=preconnect>', undefined],
    ['<link href=x rel="stylesheet dns-prefetch">', undefined],
    ['<svg><a href=x></a></svg>', 'follow'],
    ['<svg><use href=x /></svg>', 'load'],
    ['<svg><image href=x /></svg>', 'load'],
    ['<svg><rect href=x /></svg>', undefined],
    ['<p href=x>', undefined],
    ...['audio', 'embed', 'iframe', 'img', 'input', 'script', 'source', 'track', 'video'].map(
      (tag): [string, string] => [`<${tag} src=x>`, 'load'],
    ),
    ['<frameset><frame src=x></frameset>', 'load'],
    ['<p src=x>', undefined],
    ['<svg><script src=x></script></svg>', undefined],
    ['<object data=x>', 'load'],
    ['<embed data=x>', undefined],
    ['<video poster=x>', 'load'],
    ['<audio poster=x>', undefined],
    ['<body background=x>', 'load'],
    ['<form action=x>', 'follow'],
    ['<button formaction=x>', 'follow'],
    ['<input formaction=x>', 'follow'],
    ['<img longdesc=x>', 'follow'],
    ...['blockquote', 'del', 'ins', 'q'].map((tag): [string, string] => [`<${tag} cite=x>`, 'tell']),
    ['<p cite=x>', undefined],
    ['<img srcset="x 2x">', 'load'],
    ['<link imagesrcset=x>', 'load'],
    ['<p style="background:url(x)">', 'load'],
    ['<p style="color:red(x)">', undefined],
    ['<style>a{background:url(x)}</style>', 'load'],
    ['<style>@IMPORT "x";</style>', 'load'],
    ['<style>a{color:red}</style>', undefined],
    ['<meta http-equiv=Refresh content="0;url=x">', 'follow'],
    ['<meta http-equiv=refresh content=5>', undefined],
    ['<meta name=refresh content="0;url=x">', undefined],
    ['<p content=x http-equiv=refresh>', undefined],
  ])('of %s: %s', (html, purpose) => {
    const [only, ...more] = found(html);
    expect([only?.split(' ')[0], only?.split(' ').at(-1), more]).toEqual([purpose, purpose && 'x', []]);
  });

  it.each([
    ['5; URL=x', 'x'],
    [' 0 ,x ', 'x'],
    ['0 x', 'x'],
    ['1.5;url = "x y" z', 'x y'],
    ["0;url='x'", 'x'],
    ['0;URLx', 'URLx'],
    ['url=x', undefined],
    ['0;', undefined],
    ['0 ;', undefined],
    ['0x', undefined],
    ['0;;x', ';x'],
  ])('of a refresh %s: %s (HTML standard, section 4.2.5.3)', (content, href) => {
    const document = parsePage(utf8(`<meta http-equiv=refresh content="${content.replaceAll('"', '&quot;')}">`));
    const [place] = [...linkPlaces(document)];
    expect(place?.hrefs[0]).toBe(href);
  });

  it.each([
    ['a.png', ['a.png 0']],
    [' , a.png 1x', ['a.png 3']],
    ['a.png, b.png', ['a.png 0', 'b.png 7']],
    ['a.png 1x,b.png 2x', ['a.png 0', 'b.png 9']],
    ['a.png 1x (a,b) c, b.png', ['a.png 0', 'b.png 18']],
    ['a.png (1x', ['a.png 0']],
    ['a,b.png 1x', ['a,b.png 0']],
    ['a.png,, b.png', ['a.png 0', 'b.png 8']],
    [',,', []],
    ['', []],
  ])('of the srcset %s', (value, expected) => {
    expect(parseSrcset(value).map(({ url, start }) => `${url} ${start}`)).toEqual(expected);
  });

  it.each([
    ['url(a.png)', ['a.png 0 10']],
    ['url( "a b.png" )', ['a b.png 5 14']],
    ["url('a.png')", ['a.png 4 11']],
    ['@import "a.css";', ['a.css 8 15']],
    ["@import/* x */ 'a.css'", ['a.css 15 22']],
    ['@import url(a.css)', ['a.css 8 18']],
    ['content: "a.css"', []],
    ['@media "a.css"', []],
    ['format("a.css")', []],
    ['url(a.png) "b"', ['a.png 0 10']],
    ['url()', []],
    ['/* url(a.png) */', []],
    ['URL("a.png")', ['a.png 4 11']],
    ['@import "a.css" "b.css"', ['a.css 8 15']],
  ])('of the style %s', (css, expected) => {
    expect(findCssUrls(css).map(({ url, start, end }) => `${url} ${start} ${end}`)).toEqual(expected);
  });
});

describe('a reference in its source', () => {
  const rewritten = (html: string, to: (href: string) => string) => {
    const bytes = utf8(html);
    const document = parsePage(bytes);
    const edits = [...linkPlaces(document)].flatMap((place) => place.rewrite(place.hrefs.map(to)));
    return new TextDecoder().decode(splice(bytes, document.source, edits));
  };
  const moved = (href: string) => href.replace('/old/', '/new/');

  it.each([
    ['of a bare value, which gets quotes where it needs them', '<a href=/old/>x', '<a href=/new/>x', undefined],
    ['a path with a quote, between single quotes', "<a href='/old/'>", "<a href='/n&#39;w/'>", "/n'w/"],
    ['a path with a quote, between double ones', '<a href="/old/">', '<a href="/n\'w&quot;&amp;/">', '/n\'w"&/'],
    ['a path with a space, without quotes', '<a href=/old/>', '<a href="/n w/">', '/n w/'],
    ['another query', '<a href="/old/?a=1">', '<a href="/new/?b&amp;c">', '/new/?b&c'],
    ['no path at all', '<a href="?a">', '<a href="/new/?a">', '/new/?a'],
    ['white space before it', '<a href="  /old/">', '<a href="  /new/">', undefined],
    ['a character reference in the rest', '<a href="/old/?a&amp;b">', '<a href="/new/?a&amp;b">', undefined],
    [
      'one of several with a character reference',
      '<img srcset="/old/?a&amp;b 1x, /x/ 2x">',
      '<img srcset="/new/?a&amp;b 1x, /x/ 2x">',
      undefined,
    ],
    [
      'a path in a style with a bracket',
      '<p style="background:url(/old/)">',
      '<p style="background:url(/n\\(w/)">',
      '/n(w/',
    ],
    ['a style with an escape', '<p style="background:url(/o\\6c d/)">', '<p style="background:url(/new/)">', undefined],
    [
      'a refresh',
      '<meta http-equiv=refresh content="0; url=/old/?a">',
      '<meta http-equiv=refresh content="0; url=/new/?a">',
      undefined,
    ],
    [
      'a style element',
      '<style>@import "/old/";a{b:url(/old/)}</style>',
      '<style>@import "/new/";a{b:url(/new/)}</style>',
      undefined,
    ],
    [
      'a style element with a quote in the path',
      '<style>a{b:url("/old/")}</style>',
      '<style>a{b:url("/n\\"w/")}</style>',
      '/n"w/',
    ],
  ])('is written: %s', (_, html, expected, to) => {
    expect(
      rewritten(html, (href) => (to === undefined ? moved(href) : href.includes('/old/') || href === '?a' ? to : href)),
    ).toBe(expected);
  });

  it('has a line, and the span of what it stands in', () => {
    const html = '<p>\n<a class=x\nhref="/a/">x</a>\n<style>\na{b:url(/c/)}</style>';
    expect(
      [...linkPlaces(parsePage(utf8(html)))].map(({ line, start, end, element, attribute }) => [
        line,
        html.slice(start, end),
        element,
        attribute,
      ]),
    ).toEqual([
      [2, 'href="/a/"', 'a', 'href'],
      [4, 'url(/c/)', 'style', 'style'],
    ]);
  });

  it('has none where line ends were folded in a style', () => {
    expect([...linkPlaces(parsePage(utf8('<style>\r\na{b:url(/c/)}</style>')))]).toEqual([]);
  });

  it.each([
    ['/a/b?c#d', '/a/b', '?c#d'],
    ['/a#b?c', '/a', '#b?c'],
    ['/a', '/a', ''],
    ['?a', '', '?a'],
  ])('%s has the path %s', (href, path, rest) => expect(splitPath(href)).toEqual([path, rest]));

  it('is meant from the first base in the head', () => {
    expect(readBaseHref(parsePage(utf8('<base target=x><base href=/a/><base href=/b/>')))).toBe('/a/');
    expect(readBaseHref(parsePage(utf8('<body><base href=/a/>')))).toBeUndefined();
    expect(readBaseHref(parsePage(utf8('<head><svg><base href=/a/></svg></head>')))).toBeUndefined();
  });
});

describe('links that follow a page', () => {
  const followed = (html: string, before: string, after: string, isCopy = false) => {
    const bytes = utf8(html);
    const document = parsePage(bytes);
    const movedTo = (path: string) => (path === '/old/#' ? '/parts/' : path === '/old/' ? '/new/' : undefined);
    return new TextDecoder().decode(
      splice(bytes, document.source, linkEdits(document, { before, after, isCopy, movedTo })),
    );
  };

  it.each([
    ['to an element, where elements went elsewhere', '<a href="/old/#a">', '<a href="/parts/#a">'],
    ['to no element', '<a href="/old/?q">', '<a href="/new/?q">'],
    ['that only browsers keep below the root', '<a href="../../../x/">', '<a href="../../../x/">'],
    ['with a backslash', '<a href="\\old/">', '<a href="../new/">'],
  ])('%s', (_, html, expected) => expect(followed(html, '/a/', '/a/')).toBe(expected));

  it('climb no farther than before', () => {
    expect(followed('<a href="../x/">', '/a/', '/')).toBe('<a href="x/">');
    expect(followed('<a href="../../x/">', '/a/b/', '/c/')).toBe('<a href="../x/">');
  });

  it('lead to the copy where a page is one, and to the page where they name it whole', () => {
    expect(followed('<a href="/a/#x"><a href="/a/"><a href="#y">', '/a/', '/b/', true)).toBe(
      '<a href="/b/#x"><a href="/a/"><a href="#y">',
    );
    expect(followed('<a href="/a/#x">', '/a/', '/b/')).toBe('<a href="/a/#x">');
  });
});

describe('a place in a source', () => {
  it.each([
    [0, 1, 1],
    [1, 1, 2],
    [2, 1, 3],
    [3, 2, 1],
    [4, 3, 1],
    [5, 4, 1],
    [6, 4, 2],
  ])('%d is in line %d, column %d', (position, line, column) => {
    expect(findLineAndColumn('a\r\n\n\rb', position)).toEqual({ line, column });
  });

  it('has the lines around, as many as are asked for', () => {
    const text = 'one\ntwo\rthree\r\nfour\nfive';
    const lines = (around?: number) =>
      placeOfSpan(text, 8, 13, around).lines.map(({ number, text: line }) => `${number} ${line}`);
    expect(lines()).toEqual(['2 two', '3 three', '4 four']);
    expect(lines(0)).toEqual(['3 three']);
    expect(lines(9)).toEqual(['1 one', '2 two', '3 three', '4 four', '5 five']);
    expect(placeOfSpan(text, 8, 13).lines.map(({ mark }) => mark)).toEqual([
      undefined,
      { start: 0, end: 5 },
      undefined,
    ]);
    expect(placeOfSpan(text, 9, 11)).toMatchObject({ line: 3, lines: [{}, { mark: { start: 1, end: 3 } }, {}] });
  });

  it('is cut out of a long line, with what stands before it', () => {
    const text = `${'a'.repeat(500)}HERE${'b'.repeat(500)}`;
    const [line] = placeOfSpan(text, 500, 504).lines;
    expect(line?.text).toBe(`${'a'.repeat(80)}HERE${'b'.repeat(156)}`);
    expect(line?.mark).toEqual({ start: 80, end: 84 });
    expect(placeOfSpan(text, 500, 900).lines[0]?.mark).toEqual({ start: 80, end: 240 });
    const long = placeOfSpan(`${'x'.repeat(300)}\nb`, 301, 302).lines;
    expect(long.map(({ text: line }) => line.length)).toEqual([240, 1]);
  });

  it('is that of the reference asked for, the first one', () => {
    expect(placeInPage(utf8('<a href=a>\n<a href=b>\n<a href=b>'), 'b', 0)).toMatchObject({ line: 2 });
    expect(placeInStyle(utf8('a{b:url( c )}\n\nd{e:url("c")}'), 'c')).toMatchObject({ line: 1 });
    expect(placeInStyle(utf8('a{}'), 'c')).toBeUndefined();
  });
});
