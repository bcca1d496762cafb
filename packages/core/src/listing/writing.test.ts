/**
 * Listings written into pages. Sources: RFC 4287 (feeds), HTML standard, sections 4.5.14 (`time`) and 4.6.7.1
 * (`alternate`), WAI-ARIA 1.2, section 6.6 (`aria-current`). Which list is a page's own is this project's own.
 */
import { describe, expect, it } from 'vitest';
import { parsePage, splice, withoutOverlaps } from '../html/index.ts';
import {
  writeAtomFeed,
  editListing,
  planListing,
  sortNewestFirst,
  findOtherContent,
  type Entry,
  type ListingPlan,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const entry = (slug: string, date: string, more: Partial<Entry> = {}): Entry => ({
  id: slug,
  title: `T ${slug}`,
  address: `/j/${slug}/`,
  date,
  summary: `S ${slug}`,
  ...more,
});
const A = entry('a', '2020-01-01');
const B = entry('b', '2021-01-01');
const place = { importedAddresses: new Set(['/j/a/', '/j/b/']), before: '/j/', after: '/j/' };
const plan = (more: Partial<ListingPlan> = {}): ListingPlan => ({
  entries: [B, A],
  number: 1,
  addresses: ['/j/'],
  feed: '/j/feed.xml',
  ...more,
});
const listed = (html: string, more: Partial<ListingPlan> = {}, at: Partial<typeof place> = {}) => {
  const document = parsePage(bytes(html));
  return new TextDecoder()
    .decode(
      splice(bytes(html), document.source, withoutOverlaps(editListing(document, plan(more), { ...place, ...at }))),
    )
    .replace(/<link rel="alternate"[^>]*>\n/, '');
};

describe('a listing in the markup of its first entry', () => {
  it.each([
    [
      'in a list',
      '<main><ul><li><a href="a/">A</a></li>, <li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><a href="b/">T b</a></li>\n<li><a href="a/">T a</a></li></ul></main>',
    ],
    [
      'with white space between',
      '<main><ul><li><a href="a/">A</a></li> <li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><a href="b/">T b</a></li> <li><a href="a/">T a</a></li></ul></main>',
    ],
    [
      'of one entry in a list',
      '<main><ul><li><a href="a/">A</a></li></ul></main>',
      '<main><ul><li><a href="b/">T b</a></li>\n<li><a href="a/">T a</a></li></ul></main>',
    ],
    [
      'in boxes',
      '<main><div><article><a href="a/">A</a></article><article><a href="b/">B</a></article></div></main>',
      '<main><div><article><a href="b/">T b</a></article><article><a href="a/">T a</a></article></div></main>',
    ],
    [
      'with a heading and words',
      '<main><div><article><h2><a href="a/">A</a></h2><p> </p><p>Words <b>here</b></p><p>More</p></article><article><h2><a href="b/">B</a></h2></article></div></main>',
      '<main><div><article><h2><a href="b/">T b</a></h2><p> </p><p>S b</p><p>More</p></article><article><h2><a href="a/">T a</a></h2><p> </p><p>S a</p><p>More</p></article></div></main>',
    ],
    [
      'with a day',
      '<main><ul><li><time>1 May</time> <a href="a/">A</a></li><li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><time datetime="2021-01-01">2021-01-01</time> <a href="b/">T b</a></li><li><time datetime="2020-01-01">2020-01-01</time> <a href="a/">T a</a></li></ul></main>',
    ],
    [
      'with a day in a paragraph',
      '<main><ul><li><a href="a/">A</a><p>On <time datetime="2020-01-01"></time></p><p>Words</p></li><li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><a href="b/">T b</a><p>On <time datetime="2021-01-01"></time></p><p>S b</p></li><li><a href="a/">T a</a><p>On <time datetime="2020-01-01"></time></p><p>S a</p></li></ul></main>',
    ],
    [
      'with a link in a paragraph',
      '<main><ul><li><p><a href="a/">A</a></p><p>Words</p></li><li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><p><a href="b/">T b</a></p><p>S b</p></li><li><p><a href="a/">T a</a></p><p>S a</p></li></ul></main>',
    ],
    [
      'with a second link to it, and one elsewhere',
      '<main><ul><li><a href="a/"><img src=x></a><a href="a/">A</a><a href="/x/">X</a></li><li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><a href="b/"><img src=x></a><a href="b/">A</a><a href="/x/">X</a></li><li><a href="a/"><img src=x></a><a href="a/">A</a><a href="/x/">X</a></li></ul></main>',
    ],
    [
      'that needs escaping',
      '<main><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></main>',
      '<main><ul><li><a href="b/">T b</a></li><li><a href="a/">T a</a></li></ul></main>',
    ],
  ])('%s', (_, html, expected) => expect(listed(html)).toBe(expected));

  it('escapes titles and words', () => {
    const html = '<main><ul><li><a href="a/">A</a><p>W</p></li><li><a href="b/">B</a></li></ul></main>';
    expect(listed(html, { entries: [entry('a', '2020-01-01', { title: 'A & <b>', summary: '<i>' })] })).toContain(
      '<a href="a/">A &amp; &lt;b></a><p>&lt;i></p>',
    );
  });

  it('leads there from where the page answers, or from its base', () => {
    const html = '<main><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></main>';
    expect(listed(html, {}, { after: '/j/page-2/' })).toContain('<a href="../b/">T b</a>');
    expect(listed(`<base href="/j/">${html}`)).toContain('<a href="/j/b/">T b</a>');
  });

  it('is the list that holds most entries, the nearest around them', () => {
    const html =
      '<main><p>See <a href="a/">A</a></p><div><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></div></main>';
    expect(listed(html)).toBe(
      '<main><p>See <a href="a/">A</a></p><div><ul><li><a href="b/">T b</a></li><li><a href="a/">T a</a></li></ul></div></main>',
    );
    // One link in a text is none.
    expect(listed('<main><p>See <a href="a/">A</a></p></main>')).toContain('<p>See <a href="a/">A</a></p>\n<ul>');
    expect(
      listed('<nav><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></nav><main><p>x</p></main>'),
    ).toContain('<li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></nav>');
  });

  it('links its pages behind its list', () => {
    const html = '<main><ul><li><a href="a/">A</a></li></ul><p>x</p></main>';
    expect(listed(html, { entries: [A], addresses: ['/j/', '/j/page-2/'], number: 1 })).toBe(
      '<main><ul><li><a href="a/">T a</a></li></ul>\n<nav class="pages"><a href="./" aria-current="page">1</a> <a href="page-2/">2</a></nav><p>x</p></main>',
    );
  });
});

describe('a listing without a list of its own', () => {
  it('comes behind the content, or in an empty main part', () => {
    expect(
      listed('<main><h1>J</h1><p>x</p></main>', {
        entries: [entry('a', '2020-01-01', { title: '<A>' })],
      }),
    ).toContain(
      '<p>x</p>\n<ul>\n  <li><a href="a/">&lt;A></a> <time datetime="2020-01-01">2020-01-01</time></li>\n</ul>',
    );
    expect(listed('<main></main>', { entries: [A] })).toContain('<main>\n<ul>\n  <li>');
    expect(listed('<frameset></frameset>')).toBe('<frameset></frameset>');
  });

  it('says where its feed is', () => {
    const html = '<head><title>x</title></head><main></main>';
    const document = parsePage(bytes(html));
    const edits = editListing(document, plan(), place);
    expect(edits.at(-1)).toEqual({
      start: html.indexOf('</head>'),
      end: html.indexOf('</head>'),
      text: '<link rel="alternate" type="application/atom+xml" href="feed.xml">\n',
    });
  });
});

describe('what else its page says', () => {
  const other = (html: string) => findOtherContent(parsePage(bytes(html)), place);
  it.each([
    ['<main><h1>J</h1><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></main>', []],
    [
      '<main><h2>News</h2><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul><h2>More</h2><p>x</p></main>',
      ['More'],
    ],
    ['<main><h2>News</h2><p>x</p><h2>More</h2><p>x</p></main>', ['More']],
    ['<main><div><h2>News</h2></div><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul></main>', ['News']],
  ])('%s', (html, names) => expect(other(html)).toEqual(names));
});

describe('entries', () => {
  it('are the newest first, those of one day by their titles', () => {
    const day = (title: string, date: string) => entry(title, date, { title });
    const sorted = sortNewestFirst([
      day('b', '2020-01-01'),
      day('a', '2020-01-01'),
      day('x', '2021-01-01'),
      day('c', '2020-01-01'),
      day('b', '2020-01-01'),
      day('w', '2019-01-01'),
    ]);
    expect(sorted.map(({ title }) => title).join('')).toBe('xabbcw');
  });

  it('are one empty page where there are none', () => {
    expect(planListing([], '/j/', 5)).toEqual([{ entries: [], number: 1, addresses: ['/j/'], feed: '/j/feed.xml' }]);
  });

  it('are fifty in a feed, the newest first, and as old as the newest', () => {
    const many = Array.from({ length: 60 }, (_, n) => entry(String(n), `20${String(n + 10)}-01-01`));
    const feed = (more: object = {}) =>
      writeAtomFeed({
        id: 'x',
        title: 'J & k',
        origin: 'https://moor.example',
        address: '/j/feed.xml',
        listing: '/j/',
        author: 'M',
        language: undefined,
        entries: many,
        ...more,
      });
    expect(feed().match(/<entry>/g)).toHaveLength(50);
    expect(feed()).toContain('<updated>2069-01-01T00:00:00Z</updated>\n  <link rel="self"');
    expect(feed().indexOf('/j/59/')).toBeLessThan(feed().indexOf('/j/58/'));
    expect(feed()).toContain('<feed xmlns="http://www.w3.org/2005/Atom">');
    expect(feed({ language: 'cy' })).toContain('xml:lang="cy">');
    expect(feed({ entries: [] })).toContain('<updated>1970-01-01T00:00:00Z</updated>');
    expect(feed({ entries: [entry('a', '2020-01-01', { summary: '' })] })).not.toContain('<summary>');
    expect(feed({ entries: [entry('a', '2020-01-01', { summary: 'a < b' })] })).toContain(
      '<summary>a &lt; b</summary>',
    );
  });
});
