/** What the table says, and what is shown beside each other. Rows are invented. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareWithLive } from './beside.ts';
import { judgeRows, findReplacements, filterRows } from './judging.ts';
import { nameLanguage, groupTranslations } from './languages.ts';
import { cut } from './shareCut.ts';
import { createMetadataRow } from '../../testing/rows.ts';
import { SITE_SETTINGS, saySettingStanding } from './site/settings.ts';

const cell = (text: string) => ({ text, from: 'imported' as const });
const LONG = 'A description that is neither too short nor too long for a line of results, as it should be.';

describe('the table', () => {
  const rows = [
    createMetadataRow('a', 'A title of ordinary length', LONG),
    createMetadataRow('b', '', ''),
    createMetadataRow('c', 'W'.repeat(60), 'x'.repeat(156)),
    createMetadataRow('d', 'A title of ordinary length', 'Short.'),
    createMetadataRow('e', 'Another good title here', `${LONG} Indeed.`, {
      robots: cell('noindex, follow'),
      conflicts: 1,
      suggestedDescription: 'x',
    }),
  ];
  it('says what is missing, doubled, too long and too short', () => {
    expect(judgeRows(rows).map(({ title, description }) => [title, description])).toEqual([
      ['doubled', undefined],
      ['missing', 'missing'],
      ['long', 'long'],
      ['doubled', 'short'],
      [undefined, undefined],
    ]);
  });
  it('shows some of them, in an order', () => {
    const judged = judgeRows(rows);
    const ids = (
      filter: Parameters<typeof filterRows>[1]['filter'],
      sort: Parameters<typeof filterRows>[1]['sort'] = 'tree',
      search = '',
    ) =>
      filterRows(judged, { filter, sort, search })
        .map((each) => each.row.id)
        .join('');
    expect([
      ids('faulty'),
      ids('shut'),
      ids('conflicts'),
      ids('all', 'titlePx'),
      ids('all', 'letters'),
      ids('all', 'tree', ' ANOTHER '),
      ids('suggested'),
    ]).toEqual(['abcd', 'e', 'e', 'cadeb', 'bdaec', 'e', '']);
  });
  it('says where a width is only guessed', () =>
    expect(
      judgeRows([createMetadataRow('a', '星の家', ''), createMetadataRow('b', 'Tŷ', '')]).map(
        ({ isGuessed }) => isGuessed,
      ),
    ).toEqual([true, false]));
  it('follows limits that somebody set', () =>
    expect(judgeRows(rows, { titlePx: 100, descriptionLetters: 60 })[4]?.title).toBe('long'));
  it('shows what a replacement changes, and never empties a text', () => {
    expect(
      findReplacements(rows, 'title', (text) => text.replace('ordinary', 'usual')).map(({ row: { id }, after }) => [
        id,
        after,
      ]),
    ).toEqual([
      ['a', 'A title of usual length'],
      ['d', 'A title of usual length'],
    ]);
    expect(findReplacements(rows, 'meta:description', () => ' ')).toEqual([]);
  });
});

describe('live beside draft', () => {
  const lines = fc.array(fc.constantFrom('<a>', '<b>', '<c>', '<d>'), { maxLength: 8 });
  it('holds every line of both, each in its order (property)', () => {
    fc.assert(
      fc.property(lines, lines, (draft, live) => {
        const of = (sources: readonly string[]) =>
          sources.map((source) => ({ source, name: null, from: 'site' as const }));
        const beside = compareWithLive({ draft: of(draft), live: of(live) });
        expect(beside.filter(({ state }) => state !== 'gone').map(({ source }) => source)).toEqual(draft);
        expect(beside.filter(({ state }) => state !== 'new').map(({ source }) => source)).toEqual(live);
      }),
    );
  });
  it('marks nothing on a page that is not live yet', () =>
    expect(compareWithLive({ draft: [{ source: '<a>', name: null, from: 'site' }], live: null })[0]?.state).toBe(
      'same',
    ));
});

it('pages stand in rows with what they are in other languages', () => {
  const welsh = createMetadataRow('w', 'Ymweld', '', { language: cell('cy') });
  const rows = groupTranslations({
    rows: [
      createMetadataRow('v', 'Visit', ''),
      createMetadataRow('x', 'Alone', ''),
      welsh,
      createMetadataRow('y', '', '', { language: cell('') }),
    ],
    groups: [
      [
        { id: 'v', language: 'en' },
        { id: 'w', language: 'cy' },
      ],
    ],
  });
  expect(rows.map(({ pages }) => [...pages].map(([tag, { id }]) => `${tag} ${id}`))).toEqual([
    ['en v', 'cy w'],
    ['en x'],
  ]);
  expect([nameLanguage('cy'), nameLanguage('en-GB'), nameLanguage('zz'), nameLanguage('not a tag')]).toEqual([
    'Welsh',
    'British English',
    'zz',
    'not a tag',
  ]);
});

// 1200 by 630 is common practice.
it.each([
  [1200, 630, false, ', shown whole'],
  [2400, 1260, false, ', shown whole'],
  [1200, 1200, false, ', 48 % cut off above and below'],
  [4000, 1000, false, ', 52 % cut off left and right'],
  [600, 315, true, ', shown whole'],
])('a picture of %d by %d', (widthPx, heightPx, isSmall, words) =>
  expect(cut(widthPx, heightPx)).toEqual({ isSmall, words }),
);

it('each setting says how it stands', () => {
  const metadata = {
    settings: [
      { scope: { kind: 'everywhere' }, name: 'canonical', text: 'on', own: null },
      { scope: { kind: 'everywhere' }, name: 'meta:generator', text: false, own: 'replaced' },
    ],
    siteName: 'Moor',
    icons: [],
    files: { robots: 'User-agent: *', security: null, hasImportedSitemap: true },
  } as unknown as Metadata;
  const standing = (name: string) => {
    const setting = SITE_SETTINGS.find((each) => each.name === name);
    return setting && saySettingStanding(metadata, setting).words;
  };
  expect(
    ['canonical', 'meta:generator', 'name', 'robots.txt', 'security.txt', 'sitemap', 'icons', 'share'].map(standing),
  ).toEqual(['on', 'left out', 'Moor', 'as imported', 'not set', 'as imported', 'as imported', 'off']);
});
