import fc from 'fast-check';
import { parseAtomFeed } from 'feedsmith';
import { XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { parsePage, splice, withoutOverlaps } from '../html/index.ts';
import {
  writeAtomFeed,
  editListing,
  planListing,
  sortNewestFirst,
  findOtherContent,
  addressPage,
  type Entry,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const entry = (slug: string, date: string, more: Partial<Entry> = {}): Entry => ({
  id: `id-${slug}`,
  title: `Title ${slug}`,
  address: `/journal/${slug}/`,
  date,
  summary: `About ${slug}`,
  ...more,
});
const ENTRIES = [entry('a', '2016-05-09'), entry('b', '2020-01-02'), entry('c', '2018-03-04')];
const place = {
  importedAddresses: new Set(ENTRIES.map(({ address }) => address)),
  before: '/journal/',
  after: '/journal/',
};

function listed(html: string, entries = ENTRIES, perPage = 10, number = 1): string {
  const document = parsePage(bytes(html));
  const plan = planListing(entries, '/journal/', perPage)[number - 1];
  if (!plan) throw new Error('no such page');
  const after = plan.addresses[number - 1] ?? '';
  return new TextDecoder().decode(
    splice(bytes(html), document.source, withoutOverlaps(editListing(document, plan, { ...place, after }))),
  );
}

describe('a listing', () => {
  it('is the newest first, so many to a page, and loses none (property)', () => {
    const entries = fc
      .array(
        fc.record({
          slug: fc.stringMatching(/^[a-z]{1,8}$/),
          day: fc.date({ min: new Date('1990-01-01'), max: new Date('2030-01-01'), noInvalidDate: true }),
        }),
        { maxLength: 40 },
      )
      .map((list) => list.map(({ slug, day }) => entry(slug, day.toISOString().slice(0, 10))));
    fc.assert(
      fc.property(entries, fc.integer({ min: 1, max: 12 }), (all, perPage) => {
        const plans = planListing(all, '/journal/', perPage);
        const shown = plans.flatMap(({ entries: each }) => each);
        expect(shown).toEqual(sortNewestFirst(all));
        expect(
          plans.every(
            ({ entries: each }, index) =>
              each.length <= perPage && (index === plans.length - 1 || each.length === perPage),
          ),
        ).toBe(true);
        expect(shown.every(({ date }, index) => index === 0 || date <= (shown[index - 1]?.date ?? ''))).toBe(true);
      }),
    );
  });

  it('goes on at addresses in its own style', () => {
    expect([
      addressPage('/journal/', 2),
      addressPage('/journal.html', 2),
      addressPage('/journal', 3),
      addressPage('/', 2),
      addressPage('/journal/', 1),
    ]).toEqual(['/journal/page-2/', '/journal/page-2.html', '/journal/page-3', '/page-2/', '/journal/']);
  });

  it('is written in the markup of the page’s own first entry', () => {
    const html =
      '<head></head><main><h1>Journal</h1><ul class="news">\n <li class="x"><a href="a/">Title a</a> <time datetime="2016-05-09">9 May</time><p>Words</p></li>\n <li><a href="b/">B</a></li>\n</ul></main>';
    const out = listed(html);
    expect(out).toContain(
      '<ul class="news">\n <li class="x"><a href="b/">Title b</a> <time datetime="2020-01-02">2020-01-02</time><p>About b</p></li>\n <li class="x"><a href="c/">Title c</a>',
    );
    expect(out.match(/<li[ >]/g)).toHaveLength(3);
    expect(out).toContain('<link rel="alternate" type="application/atom+xml" href="feed.xml">');
  });

  it('is a plain list where there is none, and links its pages by number', () => {
    const out = listed('<main><h1>Journal</h1></main>', ENTRIES, 2, 2);
    expect(out).toContain(
      '<h1>Journal</h1>\n<ul>\n  <li><a href="../a/">Title a</a> <time datetime="2016-05-09">2016-05-09</time></li>\n</ul>\n<nav class="pages"><a href="../">1</a> <a href="./" aria-current="page">2</a></nav></main>',
    );
  });

  it('says what else the page holds', () => {
    const own = '<h1>Journal</h1><ul><li><a href="a/">A</a></li><li><a href="b/">B</a></li></ul>';
    expect(findOtherContent(parsePage(bytes(`<main>${own}</main>`)), place)).toEqual([]);
    expect(findOtherContent(parsePage(bytes(`<main>${own}<h2>About us</h2><p>Long.</p></main>`)), place)).toEqual([
      'About us',
    ]);
  });
});

describe('a feed', () => {
  const feed = (entries: readonly Entry[], title = 'Journal') =>
    writeAtomFeed({
      id: '0190a2c4-0000-7000-8000-000000000000',
      title,
      origin: 'https://www.lanternmoor.example',
      address: '/journal/feed.xml',
      listing: '/journal/',
      author: 'Lanternmoor',
      language: 'en',
      entries,
    });

  it('is Atom as a feed reader’s parser reads it (RFC 4287; parser: feedsmith)', () => {
    const read = parseAtomFeed(feed(ENTRIES));
    expect(read.id).toBe('urn:uuid:0190a2c4-0000-7000-8000-000000000000');
    expect(read.title?.value ?? read.title).toBe('Journal');
    expect(read.updated).toBe('2020-01-02T00:00:00Z');
    expect(read.entries?.map(({ links }) => links?.[0]?.href)).toEqual(
      ['b', 'c', 'a'].map((slug) => `https://www.lanternmoor.example/journal/${slug}/`),
    );
    expect(read.entries?.every(({ id, updated, title }) => id && updated && title)).toBe(true);
  });

  it('is well-formed XML whatever titles hold (property; validator: fast-xml-parser)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            title: fc.string({ unit: 'binary', maxLength: 20 }),
            summary: fc.string({ unit: 'binary', maxLength: 20 }),
          }),
          { maxLength: 5 },
        ),
        fc.string({ unit: 'binary' }),
        (list, title) => {
          expect(
            XMLValidator.validate(
              feed(
                list.map((each, index) => entry(`e${index}`, '2020-01-01', each)),
                title,
              ),
            ),
          ).toBe(true);
        },
      ),
    );
  });
});
