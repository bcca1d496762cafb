/** Translations recognised, suggestions drawn, code and widths judged. Common practice where no source is named. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cutDescription,
  cutTitle,
  isMeasured,
  listLanguages,
  leadOf,
  findMarkupFault,
  suggestDescription,
  measureTitlePx,
  groupTranslatedPages,
  type TranslatedPage,
} from './index.ts';
import { parsePage } from '../html/index.ts';

const page = (address: string, language: string, more: Partial<TranslatedPage> = {}): TranslatedPage => ({
  id: address,
  address,
  language,
  alternates: [],
  switches: [],
  translates: undefined,
  ...more,
});
const groups = (...pages: TranslatedPage[]) =>
  groupTranslatedPages(pages, listLanguages(pages)).map((group) => group.map(({ id }) => id));

describe('translations', () => {
  it('are pages whose addresses differ in the folder of their language', () => {
    expect(
      groups(
        page('/', 'en'),
        page('/cy/', 'cy'),
        page('/visit/', 'en'),
        page('/cy/visit/', 'cy'),
        page('/about/', 'en'),
      ),
    ).toEqual([
      ['/', '/cy/'],
      ['/visit/', '/cy/visit/'],
    ]);
  });
  it('are what pages name themselves, under whatever address', () =>
    expect(
      groups(page('/', 'en'), page('/visit/', 'en', { alternates: ['/ymweld/'] }), page('/ymweld/', 'cy')),
    ).toEqual([['/visit/', '/ymweld/']]));
  it('are pages whose links between languages lead to each other, and not all that link to the other home', () => {
    expect(
      groups(
        page('/', 'en'),
        page('/home/', 'en', { switches: ['/cy/'] }),
        page('/visit/', 'en', { switches: ['/cy/'] }),
        page('/cy/', 'cy', { switches: ['/home/'] }),
      ),
    ).toEqual([['/home/', '/cy/']]);
  });
  it('are what was decided, before anything recognised', () => {
    expect(
      groups(
        page('/', 'en'),
        page('/visit/', 'en'),
        page('/cy/visit/', 'cy', { translates: '' }),
        page('/cy/dod/', 'cy', { translates: '/visit/' }),
      ),
    ).toEqual([['/visit/', '/cy/dod/']]);
  });
  it('hold each language once, every page once, whatever pages say (property)', () => {
    const address = fc.constantFrom('/a/', '/b/', '/cy/a/', '/cy/b/', '/fr/a/', '/c/');
    const arbitrary = fc.uniqueArray(
      fc.record({
        address,
        language: fc.constantFrom('en', 'cy', 'fr', ''),
        alternates: fc.array(address, { maxLength: 3 }),
        switches: fc.array(address, { maxLength: 3 }),
        translates: fc.option(fc.oneof(address, fc.constant('')), { nil: undefined }),
      }),
      { selector: (each) => each.address },
    );
    fc.assert(
      fc.property(arbitrary, (all) => {
        const found = groupTranslatedPages(
          all.map((each) => ({ ...each, id: each.address })),
          ['en', 'cy', 'fr'],
        );
        const ids = found.flat().map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        for (const group of found) {
          expect(group.length).toBeGreaterThan(1);
          expect(new Set(group.map(({ language }) => language)).size).toBe(group.length);
          expect(group.every(({ language, translates }) => language !== '' && translates !== '')).toBe(true);
        }
      }),
    );
  });
});

describe('a suggested description', () => {
  it('is whole sentences as far as they fit', () =>
    expect(
      suggestDescription(
        'One is here. Two is here as well. Three is far too long to be taken along with the others.',
        40,
      ),
    ).toBe('One is here. Two is here as well.'));
  it('is cut at a word where the first sentence is too long', () =>
    expect(suggestDescription('One very long sentence that goes on and on', 20)).toBe('One very long…'));
  it('never is longer than the limit, and begins as the text does (property)', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 400 }), fc.integer({ min: 20, max: 200 }), (text, limit) => {
        const made = suggestDescription(text, limit);
        expect([...made].length).toBeLessThanOrEqual(limit);
        expect(text.replace(/\s+/g, ' ').trim().startsWith(made.replace(/…$/, ''))).toBe(true);
      }),
    );
  });
  it('comes from the first paragraph that says something', () => {
    const document = parsePage(
      new TextEncoder().encode(
        '<nav><p>Menu</p></nav><main><h1>x</h1><p>12 May</p><p>The long room is open on every clear night of the year.</p></main>',
      ),
    );
    expect(leadOf(document)).toBe('The long room is open on every clear night of the year.');
  });
});

describe('code', () => {
  it.each([
    ['<script src="https://stats.example/s.js" defer></script>', 'head', undefined],
    ['<meta name="verify" content="x">', 'head', undefined],
    ['<!-- ours --><link rel="me" href="https://x.example">', 'head', undefined],
    ['<div>x</div>', 'head', 'may not stand in a head'],
    ['<div>x</div>', 'end', undefined],
    ['text', 'head', 'plain text'],
    ['text', 'end', undefined],
    ['<script>', 'end', 'never'],
    ['<div><p>x</p>', 'end', 'never closed'],
    ['<!-- x', 'end', 'never ends'],
    ['<a href="x', 'end', 'never ends'],
    ['</body><p>x</p>', 'end', 'whole page'],
    ['', 'end', 'empty'],
  ] as const)('%s in the %s', (text, place, fault) => {
    const found = findMarkupFault(text, place);
    if (fault === undefined) expect(found).toBeUndefined();
    else expect(found && speakerFor(ENGLISH)(found)).toContain(fault);
  });
});

describe('what is shown of a text', () => {
  it('is the whole where it fits, else whole words that fit (property)', () => {
    fc.assert(
      fc.property(
        fc
          .array(fc.string({ unit: fc.constantFrom(...'abcWil mAV'), minLength: 1 }), { maxLength: 12 })
          .map((words) => words.join(' ')),
        fc.integer({ min: 60, max: 400 }),
        (text, limit) => {
          const shown = cutTitle(text, limit);
          expect(measureTitlePx(shown)).toBeLessThanOrEqual(limit);
          if (!shown.endsWith('…')) expect(shown).toBe(text.replace(/\s+/g, ' ').trim());
        },
      ),
    );
  });
  it('is about 155 letters of a description', () => {
    const text = 'word '.repeat(60).trim();
    expect(cutDescription(text).length).toBeLessThanOrEqual(156);
    expect(cutDescription('Short.')).toBe('Short.');
  });
  it('knows letters it can only guess', () => {
    expect(isMeasured('Ysgol Tŷ Ω Ж')).toBe(true);
    expect(isMeasured('星の家')).toBe(false);
    expect(measureTitlePx('星')).toBe(20);
  });
});
