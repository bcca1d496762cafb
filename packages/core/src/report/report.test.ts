import { ENGLISH, speakerFor } from '@fastigium/words';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { line } from '../head/index.ts';
import {
  isHeadOnly,
  isLinksOnly,
  isMenuOnly,
  comparePage,
  describePageChange,
  compareSources,
  type PageChange,
} from './index.ts';

const page = (title: string, body: string) => new TextEncoder().encode(`<title>${title}</title><body>${body}`);
const words = (before: Uint8Array, after: Uint8Array) =>
  speakerFor(ENGLISH)(describePageChange(comparePage(before, after)));

describe('a change in words', () => {
  it.each([
    ['a title', page('A', '<p>x'), page('B', '<p>x'), 'title “A” becomes “B”'],
    ['a first title', page('', '<p>x'), page('B', '<p>x'), 'gets the title “B”'],
    [
      'text and links',
      page('A', '<p>one<p>two<p>three<a href=/x/>l</a>'),
      page('A', '<p>1<p>two<p>3<a href=/y/>l</a>'),
      'text in 2 places; links in 1 place',
    ],
    [
      'lines of the head',
      page('A', '<p>x'),
      new TextEncoder().encode(
        '<html lang=cy><title>A</title><meta name=author content=x><link rel=canonical href=https://a.example/><link rel=icon href=/i.ico><script type=application/ld+json>{}</script><body><p>x',
      ),
      'in the head: language, author, canonical address, icons, structured data',
    ],
    ['only the source', page('A', '<p>x'), page('A', '<p  >x'), 'source only, nothing a visitor sees'],
    [
      'no style or script as text',
      page('A', '<style>p{}</style><p>x'),
      page('A', '<style>a{}</style><p>x'),
      'source only, nothing a visitor sees',
    ],
  ])('%s', (_, before, after, expected) => expect(words(before, after)).toBe(expected));
});

describe('what kind of change it is', () => {
  const nothing = { title: undefined, head: [], menuPlaces: 0, textPlaces: 0, linksChanged: 0 };
  const parts: readonly Partial<PageChange>[] = [
    { title: { before: 'A', after: 'B' } },
    { head: [line('author')] },
    { menuPlaces: 1 },
    { textPlaces: 1 },
    { linksChanged: 1 },
  ];

  it('is of the head, of menus or of links alone, and never more than one of them (property)', () => {
    fc.assert(
      fc.property(fc.subarray([0, 1, 2, 3, 4]), (which) => {
        const page: PageChange = Object.assign({}, nothing, ...which.map((each) => parts[each]));
        const only = which.length === 1 ? which[0] : undefined;
        expect([isHeadOnly(page), isMenuOnly(page), isLinksOnly(page)]).toEqual([only === 1, only === 2, only === 4]);
      }),
    );
  });
});

describe('the source difference', () => {
  it('shows the changed lines with two around them', () => {
    const lines = Array.from({ length: 20 }, (_, n) => `line ${n}`);
    const changed = lines.map((line) => (line === 'line 10' ? 'line ten' : line));
    expect(compareSources(lines.join('\n'), changed.join('\n')).map(({ sign, text }) => sign + text)).toEqual([
      ' line 8',
      ' line 9',
      '-line 10',
      '+line ten',
      ' line 11',
      ' line 12',
    ]);
  });
});
