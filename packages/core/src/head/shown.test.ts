/**
 * What is shown of titles and descriptions, translations of a page, and what is set for many pages. Sources: HTML
 * standard, section 4.6.1 (`hreflang`). Limits of results pages are common practice, no source.
 */
import { describe, expect, it } from 'vitest';
import {
  cutDescription,
  cutTitle,
  isMeasured,
  isTitlePattern,
  listLanguages,
  countLetters,
  fillTitlePattern,
  suggestDescription,
  suggestTitle,
  measureTitlePx,
  SettingIndex,
  keySetting,
  groupTranslatedPages,
  type HeadSetting,
  type TranslatedPage,
} from './index.ts';
import { escapeScriptText } from './jsonLd.ts';

describe('titles in a common form', () => {
  it.each([
    ['{page} · {site}', true],
    ['{page}', true],
    ['{site}', false],
    ['{page} {page}', false],
    ['', false],
  ])('%s is one: %s', (text, isIt) => expect(isTitlePattern(text)).toBe(isIt));

  it.each([
    ['{page} · {site}', 'Visit', 'Moor', '', 'Visit · Moor'],
    ['{site}: {page} ({site})', 'Visit', 'Moor', '', 'Moor: Visit (Moor)'],
    ['{page} · {site}', 'Visit · Moor', 'Moor', '', 'Visit · Moor'],
    ['{page} · {site}', ' · Moor', 'Moor', '', ' · Moor · Moor'],
    ['{site} – {page}!', 'Moor – Visit', 'Moor', '', 'Moor – Moor – Visit!'],
    ['{site} – {page}!', 'Visit!', 'Moor', '', 'Moor – Visit!!'],
    ['{page} · {site}', 'Moor', 'Moor', 'Stars', 'Moor · Stars'],
    ['{page} · {site}', 'Moor', 'Moor', '', 'Moor'],
    ['{page} · {site}', '', 'Moor', '', 'Moor'],
    ['{page} · {site}', '', 'Moor', 'Stars', 'Moor · Stars'],
    ['{page} · {site}', '', '', 'Stars', ''],
    ['{page} · {site}', 'Visit', '', '', 'Visit · '],
  ])('%s with %j of %j, %j: %j', (pattern, title, site, tagline, expected) =>
    expect(fillTitlePattern(pattern, title, site, tagline)).toBe(expected),
  );
});

describe('what is shown of titles and descriptions', () => {
  // Advance widths of Arimo Regular at 2048 units an em, from memory: space 569, "a" 1139, "i" 455, "W" 1933.
  it.each([
    ['a', (1139 * 20) / 2048],
    [' a ', (1139 * 20) / 2048],
    ['a \n a', ((2 * 1139 + 569) * 20) / 2048],
    ['', 0],
    ['日', 20],
    ['a\u0301', (1139 * 20) / 2048],
  ])('%j is %f px wide', (text, px) => expect(measureTitlePx(text)).toBeCloseTo(px, 6));

  it('is as wide as its letters are large', () =>
    expect(measureTitlePx('ai', 40)).toBeCloseTo(2 * measureTitlePx('ai', 20), 9));

  it('is closer where letters are kerned, in one script alone', () => {
    expect(measureTitlePx('AV')).toBeLessThan(measureTitlePx('A') + measureTitlePx('V'));
    expect(measureTitlePx('A.V')).toBeGreaterThan(measureTitlePx('AV'));
    expect(measureTitlePx('AТ')).toBeCloseTo(measureTitlePx('A') + measureTitlePx('Т'), 9);
  });

  it('is measured where every letter is known', () => {
    expect([isMeasured('Visit\tthe moor – äé'), isMeasured('日本')]).toEqual([true, false]);
    expect(countLetters('a\u{1F52D}')).toBe(2);
  });

  it('is cut between words so that it fits, or within one that alone does not', () => {
    const text = 'one two three four five';
    const limit = measureTitlePx('one two …');
    expect(cutTitle(text, limit)).toBe('one two …');
    expect(cutTitle(text, limit - 0.01)).toBe('one …');
    expect(cutTitle(` ${text}\n`, measureTitlePx(text))).toBe(text);
    expect(cutTitle('aaaaaaaa', measureTitlePx('aaa…'))).toBe('aaa…');
    expect(cutTitle('aaaaaaaa bb', measureTitlePx('aaa…') - 0.01)).toBe('aa…');
  });

  it('is cut to so many letters', () => {
    expect(cutDescription(' one\n two ', 7)).toBe('one two');
    expect(cutDescription('one two three', 10)).toBe('one two …');
    expect(cutDescription('one two, – three', 12)).toBe('one two …');
    expect(cutDescription('a bcdefghijklmnop', 10)).toBe('a bcdefgh …');
    expect(cutDescription('abcdef ghijklmnop', 12)).toBe('abcdef ghij …');
    expect(cutDescription('abcdefg hijklmnop', 12)).toBe('abcdefg …');
  });

  it.each([
    ['One.  Two.', 20, 'One. Two.'],
    ['One is this. Two is that. Three is more.', 25, 'One is this. Two is that.'],
    ['One is this. Two is that. Three is more.', 24, 'One is this.'],
    ['“Who?” asked she. “Me!” said he.', 18, '“Who?” asked she.'],
    ['What?! (Yes.) And then more words come here.', 14, 'What?! (Yes.)'],
    ['One is this… and no end', 12, 'One is this…'],
    ['This sentence, – is far too long to fit', 17, 'This sentence…'],
    ['Unbreakableword that goes on', 8, 'U…'],
  ])('of %j suggests, in %d letters, %j', (lead, letters, text) =>
    expect(suggestDescription(lead, letters)).toBe(text),
  );

  it('suggests a heading as a title', () => expect(suggestTitle(' One\n  two ')).toBe('One two'));
});

describe('pages in several languages', () => {
  const said = (address: string, language: string, more: Partial<TranslatedPage> = {}): TranslatedPage => ({
    id: address,
    address,
    language,
    alternates: [],
    switches: [],
    translates: undefined,
    ...more,
  });
  const groups = (pages: TranslatedPage[], languages = ['en', 'cy', 'de']) =>
    groupTranslatedPages(pages, languages).map((group) => group.map(({ id }) => id).join(' '));

  it.each<[string, TranslatedPage[], string[]]>([
    [
      'addresses that differ in their language',
      [said('/cy/visit/', 'cy'), said('/visit/', 'en')],
      ['/visit/ /cy/visit/'],
    ],
    ['letter case in the folder', [said('/CY/visit/', 'cy'), said('/visit/', 'en')], ['/visit/ /CY/visit/']],
    ['no folder of another name', [said('/xx/visit/', 'cy'), said('/visit/', 'en')], []],
    [
      'what pages name themselves',
      [said('/a/', 'en', { alternates: ['/b/', '/never/'] }), said('/b/', 'cy')],
      ['/a/ /b/'],
    ],
    [
      'links that lead to each other',
      [said('/a/', 'en', { switches: ['/b/'] }), said('/b/', 'cy', { switches: ['/a/'] })],
      ['/a/ /b/'],
    ],
    [
      'no links that lead one way',
      [said('/a/', 'en', { switches: ['/b/'] }), said('/b/', 'cy', { switches: ['/c/'] })],
      [],
    ],
    ['what was decided', [said('/a/', 'en'), said('/b/', 'cy', { translates: '/a/' })], ['/a/ /b/']],
    ['none where that was decided', [said('/visit/', 'en'), said('/cy/visit/', 'cy', { translates: '' })], []],
    [
      'none of a page that is of none',
      [said('/a/', 'en', { translates: '' }), said('/b/', 'cy', { translates: '/a/' })],
      [],
    ],
    ['none in the same language', [said('/a/', 'en'), said('/b/', 'en', { translates: '/a/' })], []],
    ['none without a language', [said('/visit/', ''), said('/cy/visit/', 'cy')], []],
    [
      'decided before named',
      [said('/a/', 'en'), said('/b/', 'cy', { translates: '/a/' }), said('/c/', 'de', { alternates: ['/b/'] })],
      ['/a/ /b/'],
    ],
    [
      'of each language one',
      [said('/a/', 'en', { alternates: ['/b/', '/c/'] }), said('/b/', 'cy'), said('/c/', 'cy')],
      ['/a/ /b/'],
    ],
    [
      'in the order of languages, then of addresses',
      [
        said('/z/', 'fr', { alternates: ['/y/', '/x/', '/w/'] }),
        said('/y/', 'it'),
        said('/x/', 'de'),
        said('/w/', 'cy'),
      ],
      ['/w/ /x/ /y/ /z/'],
    ],
    [
      'grown together',
      [said('/a/', 'en', { alternates: ['/b/'] }), said('/b/', 'cy'), said('/c/', 'de', { alternates: ['/b/'] })],
      ['/a/ /b/ /c/'],
    ],
  ])('are one by %s', (_, pages, expected) => expect(groups(pages)).toEqual(expected));

  it('have the home page’s language first, then those of most pages', () => {
    const pages = [
      said('/x/', 'de'),
      said('/y/', 'de'),
      said('/z/', 'cy'),
      said('/w/', 'br'),
      said('/v/', ''),
      said('/', 'en'),
    ];
    expect(listLanguages(pages)).toEqual(['en', 'de', 'br', 'cy']);
    expect(listLanguages(pages.slice(0, -1))).toEqual(['de', 'br', 'cy']);
  });
});

describe('settings', () => {
  const setting = (scope: HeadSetting['scope'], name: string, more: Partial<HeadSetting>): HeadSetting => ({
    scope,
    name,
    text: undefined,
    ...more,
  });
  const index = (...settings: HeadSetting[]) =>
    new SettingIndex(new Map(settings.map((each) => [keySetting(each), each])));
  const site = { kind: 'everywhere' } as const;
  const branch = (page: string) => ({ kind: 'branch', page }) as const;
  const own = { kind: 'page', page: 'p' } as const;

  it('begin branches, each page once', () => {
    expect(
      index(
        setting(branch('b'), 'x', { text: '1' }),
        setting(branch('b'), 'y', { text: '1' }),
        setting(branch('c'), 'x', { text: '1' }),
        setting(own, 'x', { text: '1' }),
        setting(site, 'x', { text: '1' }),
      ).branchRoots(),
    ).toEqual(['b', 'c']);
    expect(index().branchRoots()).toEqual([]);
  });

  it.each<[string, HeadSetting[], object]>([
    [
      'nothing',
      [setting(site, 'y', { text: '1' })],
      { text: undefined, from: undefined, replacesOwn: false, isDecided: false },
    ],
    [
      'what the site says',
      [setting(site, 'x', { text: '1' })],
      { text: '1', from: 'site', replacesOwn: false, isDecided: false },
    ],
    [
      'what the nearest branch says',
      [
        setting(site, 'x', { text: '1' }),
        setting(branch('far'), 'x', { text: '2' }),
        setting(branch('near'), 'x', { text: '3' }),
      ],
      { text: '3', from: 'branch', replacesOwn: false, isDecided: false },
    ],
    [
      'what the page says, in place of its own',
      [setting(site, 'x', { text: '1' }), setting(own, 'x', { text: '4' })],
      { text: '4', from: 'page', replacesOwn: true, isDecided: true },
    ],
    [
      'what becomes of the page’s own, and what the site says',
      [setting(site, 'x', { text: '1' }), setting(own, 'x', { own: 'kept' })],
      { text: '1', from: 'site', replacesOwn: false, isDecided: true },
    ],
    [
      'that the branch replaces it',
      [setting(branch('near'), 'x', { text: '3', own: 'replaced' })],
      { text: '3', from: 'branch', replacesOwn: true, isDecided: true },
    ],
    [
      'that nothing stands there',
      [setting(site, 'x', { text: '1' }), setting(own, 'x', { text: false })],
      { text: false, from: 'page', replacesOwn: true, isDecided: true },
    ],
  ])('are in force: %s', (_, settings, expected) =>
    expect(index(...settings).inForce('x', 'p', ['near', 'far'])).toEqual(expected),
  );
});

it.each([
  ['utf-8', 'é'],
  ['utf-16le', 'é'],
  ['utf-16be', 'é'],
  ['windows-1252', '\\u00e9'],
  ['shift_jis', '\\u00e9'],
])('data in a script of %s says %s (JSON, RFC 8259, section 7)', (encoding, written) => {
  expect(escapeScriptText('{"a":"é</script>"}', encoding)).toBe(`{"a":"${written}\\u003c/script>"}`);
});
