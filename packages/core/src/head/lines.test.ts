/**
 * Lines of a head, read and written. Sources: HTML standard, sections 4.2.5 (`meta`), 4.6.7 (link types), 3.2.6.2
 * (`lang`); Open Graph protocol, "Basic Metadata"; JSON-LD 1.1, section 7 (in HTML); XHTML 1.0, appendix C.7 (`xml:lang`).
 */
import { describe, expect, it } from 'vitest';
import { walkElements, parsePage, splice, withoutOverlaps } from '../html/index.ts';
import {
  editHead,
  readHeading,
  readHeadSource,
  isProperty,
  isSettable,
  leadOf,
  readLine,
  readOwnLines,
  type PlannedLine,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const page = (html: string) => parsePage(bytes(html));

describe('a line of a head', () => {
  const read = (html: string) => {
    const found = [...walkElements(page(html).root)].find(({ attrs }) => attrs.length > 0);
    const line = found && readLine(found);
    return line && `${line.name} = ${line.text}`;
  };
  it.each([
    ['<meta name=" Author " content=A>', 'meta:author = A'],
    ['<meta property=OG:Title content=T>', 'meta:og:title = T'],
    ['<meta name=a property=b content=c>', 'meta:a = c'],
    ['<meta name=a>', undefined],
    ['<meta name="" content=c>', undefined],
    ['<meta charset=utf-8>', undefined],
    ['<meta name=a content="">', 'meta:a = '],
    ['<link rel="Canonical x" href=/a/>', 'link:canonical = /a/'],
    ['<link rel="shortcut icon" href=a.ico>', 'link:icon = a.ico'],
    ['<link rel=apple-touch-icon href=a>', 'link:apple-touch-icon = a'],
    ['<link rel=mask-icon href=a>', 'link:mask-icon = a'],
    ['<link rel=manifest href=a>', 'link:manifest = a'],
    ['<link rel=alternate hreflang=CY href=/cy/>', 'link:alternate:cy = /cy/'],
    ['<link rel="x  alternate" hreflang=cy href=/cy/>', 'link:alternate:cy = /cy/'],
    ['<link rel=alternate type="application/rss+xml" href=a>', undefined],
    ['<link rel=canonical hreflang=cy href=a>', 'link:canonical = a'],
    ['<link rel=stylesheet href=a>', undefined],
    ['<link rel=canonical>', undefined],
    ['<link href=a>', undefined],
    ['<a href=a rel=canonical>', undefined],
    ['<svg><link rel=canonical href=a /></svg>', undefined],
  ])('%s', (html, line) => expect(read(html)).toBe(line));

  it.each([
    ['og:title', true],
    ['article:tag', true],
    ['fb:app', true],
    ['author', false],
    ['blog:title', false],
    ['ogtitle', false],
  ])('%s is a property: %s', (name, isIt) => expect(isProperty(name)).toBe(isIt));

  it.each([
    ['title', true],
    ['language', true],
    ['link:canonical', true],
    ['meta:author', true],
    [`meta:${'a'.repeat(100)}`, true],
    [`meta:${'a'.repeat(101)}`, false],
    ['meta:', false],
    ['meta:a b', false],
    ['meta:a"', false],
    ['xmeta:a', false],
    ['link:icon', false],
    ['json', false],
  ])('%s can be set: %s', (name, isIt) => expect(isSettable(name)).toBe(isIt));
});

describe('what a page says of itself', () => {
  it('is every line, and links to other languages wherever they stand', () => {
    const html =
      '<link rel=icon href=i><meta name=a content=b><body><a hreflang=CY href=/cy/>C</a><a hreflang=de>D</a><a href=x>X</a><a hreflang="" href=y>Y</a><area hreflang=fr href=z>';
    expect(readOwnLines(page(html)).map(({ name, text }) => `${name} ${text}`)).toEqual([
      'link:icon i',
      'meta:a b',
      'switch:cy /cy/',
    ]);
  });

  it('is no more than two hundred lines of four thousand letters', () => {
    expect(readOwnLines(page('<meta name=a content=b>'.repeat(201)))).toHaveLength(200);
    expect(readOwnLines(page(`<meta name=a content="${'x'.repeat(4001)}">`))[0]?.text).toHaveLength(4000);
  });

  it.each([
    [
      'the first paragraph that says something',
      '<main><p>Short</p><p>This one is long enough to say something.</p><p>This one too is long enough to say something.</p></main>',
      'This one is long enough to say something.',
    ],
    ['a paragraph of forty letters', `<p>Short</p><p>${'a'.repeat(40)}</p>`, 'a'.repeat(40)],
    ['the first short one where all are', `<p></p><p>One</p><p>${'a'.repeat(39)}</p>`, 'One'],
    ['no paragraph of links', `<p><a href=x>${'a'.repeat(50)}</a> x</p><p>One</p>`, 'One'],
    [
      'a paragraph with as many words beside links',
      `<p><a href=x>${'a'.repeat(20)}</a>${'b'.repeat(20)}</p><p>One</p>`,
      'a'.repeat(20) + 'b'.repeat(20),
    ],
    ['no hidden one', `<p hidden>${'a'.repeat(50)}</p><p>One</p>`, 'One'],
    ['a thousand letters at most', `<p>${'a'.repeat(1001)}</p>`, 'a'.repeat(1000)],
    ['what stands in the main part', `<p>${'a'.repeat(50)}</p><main><p>One</p></main>`, 'One'],
    ['nothing', '<div>x</div>', ''],
  ])('begins with %s', (_, html, lead) => expect(leadOf(page(html))).toBe(lead));

  it('has a first heading', () => {
    expect(readHeading(page('<p>x</p><h2>Two <b>b</b></h2><h1>One</h1>'))).toBe('Two b');
    expect(readHeading(page('<p>x</p>'))).toBe('');
  });

  it('is its head as it stands in the source', () => {
    const html =
      '<html lang=cy class=x><head><!-- no --><title>T &amp; u</title><meta name=a content=b><script type=" Application/LD+JSON ">{}</script><script type=module src=x></script><script x=application/ld+json></script><noscript><p>no</p></noscript></head><body><meta name=c content=d>';
    expect(readHeadSource(page(html)).map(({ source, name, text }) => [source, name, text])).toEqual([
      ['<html lang=cy class=x>', 'language', 'cy'],
      ['<title>T &amp; u</title>', 'title', 'T & u'],
      ['<meta name=a content=b>', 'meta:a', 'b'],
      ['<script type=" Application/LD+JSON ">{}</script>', 'json', '{}'],
      ['<script type=module src=x></script>', undefined, ''],
      ['<script x=application/ld+json></script>', undefined, ''],
      ['<noscript><p>no</p></noscript>', undefined, ''],
    ]);
    expect(readHeadSource(page('<html class=x>')).map(({ text }) => text)).toEqual(['']);
    expect(readHeadSource(page('<p>x'))).toEqual([]);
    const [long] = readHeadSource(page(`<style>${'x'.repeat(5000)}</style>`));
    expect(long?.source).toBe(`<style>${'x'.repeat(3993)} …`);
    expect(readHeadSource(page(`<style>${'x'.repeat(4000 - 15)}</style>`))[0]?.source).toHaveLength(4000);
  });
});

describe('lines written into a page', () => {
  const line = (name: string, text: string | false, more: object = {}): PlannedLine =>
    ({ name, from: 'site', text, ...more }) as PlannedLine;
  const written = (html: string, ...plan: PlannedLine[]) => {
    const document = page(html);
    return new TextDecoder().decode(splice(bytes(html), document.source, withoutOverlaps(editHead(document, plan))));
  };

  it.each<[string, string, PlannedLine[], string]>([
    ['nothing', '<title>x</title>', [], '<title>x</title>'],
    ['a title', '<title>x</title>', [line('title', 'New')], '<title>New</title>'],
    ['no title', '<title>x</title>', [line('title', false)], '<title>x</title>'],
    ['a language', '<html lang=en>', [line('language', 'cy')], '<html lang="cy">'],
    [
      'a language for XML too',
      '<html xml:lang="en" lang="en">',
      [line('language', 'cy')],
      '<html xml:lang="cy" lang="cy">',
    ],
    [
      'a language without a tag for it',
      '<!DOCTYPE html><p>x',
      [line('language', 'c"y')],
      '<!DOCTYPE html><html lang="c&quot;y"><p>x',
    ],
    ['no language', '<html lang=en>', [line('language', false)], '<html lang=en>'],
    [
      'data',
      '<head></head>',
      [line('json:data', '{}')],
      '<head><script type="application/ld+json">\n{}\n</script>\n</head>',
    ],
    ['no data', '<head></head>', [line('json:data', false)], '<head></head>'],
    ['code in the head', '<head></head>', [line('code:head', ' <x> ')], '<head><x>\n</head>'],
    [
      'no code',
      '<head></head><body></body>',
      [line('code:head', false), line('code:end', false)],
      '<head></head><body></body>',
    ],
    ['code at the end', '<body>x</body></html>', [line('code:end', ' <x> ')], '<body>x<x>\n</body></html>'],
    [
      'code at the end of a page that closes nothing but itself',
      '<html><body>x</html>',
      [line('code:end', '<x>')],
      '<html><body>x<x>\n</html>',
    ],
    ['code at the end of a page that closes nothing', '<body>x', [line('code:end', '<x>')], '<body>x<x>\n'],
    [
      'a property',
      '<head><title>x</title></head>',
      [line('meta:og:title', 'T')],
      '<head><title>x</title>\n<meta property="og:title" content="T"></head>',
    ],
    [
      'lines where there is no title',
      '<head><meta charset=utf-8></head>',
      [line('meta:a', 'b')],
      '<head><meta charset=utf-8>\n<meta name="a" content="b"></head>',
    ],
    [
      'lines where the title stands in the body',
      '<head><meta charset=utf-8></head><body><title>x</title>',
      [line('meta:a', 'b')],
      '<head><meta charset=utf-8>\n<meta name="a" content="b"></head><body><title>x</title>',
    ],
    [
      'lines where the title never ends',
      '<head><meta charset=utf-8><title>x',
      [line('meta:a', 'b')],
      '<head><meta charset=utf-8>\n<meta name="a" content="b"><title>x',
    ],
    [
      'lines as the page breaks them',
      '<head>\r\n\t<title>x</title>\r\n</head>',
      [line('meta:a', 'b'), line('meta:c', 'd')],
      '<head>\r\n\t<title>x</title>\r\n\t<meta name="a" content="b">\r\n\t<meta name="c" content="d">\r\n</head>',
    ],
    [
      'lines as the page closes them',
      '<head><link href=a /><title>x</title></head>',
      [line('meta:a', 'b')],
      '<head><link href=a /><title>x</title>\n<meta name="a" content="b" /></head>',
    ],
    [
      'a link in its place',
      '<head><link rel=canonical href=/a/></head>',
      [line('link:canonical', '/b/')],
      '<head><link rel=canonical href="/b/"></head>',
    ],
    [
      'a link with more to say in place of it',
      '<head>\n <link rel=icon href=a>\n<title>x</title></head>',
      [line('link:icon', 'b', { attributes: { sizes: '1"1' } })],
      '<head>\n<title>x</title>\n<link rel="icon" sizes="1&quot;1" href="b"></head>',
    ],
    [
      'several icons in place of all',
      '<head><title>x</title><link rel=icon href=a><link rel=icon href=b></head>',
      [line('link:icon', 'c', { attributes: {} }), line('link:icon', 'd', { attributes: {} })],
      '<head><title>x</title>\n<link rel="icon" href="c">\n<link rel="icon" href="d"></head>',
    ],
    [
      'no line that is not there',
      '<head><title>x</title></head>',
      [line('meta:a', false)],
      '<head><title>x</title></head>',
    ],
    [
      'a line beside others',
      '<head>\t<meta name=a content=b> <meta name=c content=d></head>',
      [line('meta:a', false)],
      '<head>\t <meta name=c content=d></head>',
    ],
    [
      'a line of its own',
      '<head>\r\n \t<meta name=a content=b>\r\n</head>',
      [line('meta:a', false)],
      '<head>\r\n</head>',
    ],
  ])('%s', (_, html, plan, expected) => expect(written(html, ...plan)).toBe(expected));
});
