/** The table out and in; cases of csv-spectrum (BSD-2) for the form, by the packages that read and write it. */
import fc from 'fast-check';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { describe, expect, it } from 'vitest';
import { readTable, replaceText, TABLE_COLUMNS, writeTableRows, type TableColumn, type TablePage } from './index.ts';

const NONE = Object.fromEntries(Object.keys(TABLE_COLUMNS).map((name) => [name, ''])) as Record<TableColumn, string>;
const page = (id: string, address: string, values: Partial<Record<TableColumn, string>> = {}): TablePage => ({
  id,
  address,
  values: { ...NONE, ...values },
});
const PAGES = [page('a', '/', { title: 'Home', 'meta:description': 'Old' }), page('b', '/visit/', { title: 'Visit' })];

describe('a table', () => {
  it('goes out and comes back as nothing to change, through CSV (property)', () => {
    const text = fc
      .oneof(
        fc.string({ unit: 'binary' }),
        fc.constantFrom('=1+1', '+x', '-x', '@x', "'=x", 'a,b', '"quoted"', 'two\nlines', '＝full', '\tTab'),
      )
      .map((each) => each.replace(/[\0\ud800-\udfff]/gu, ''));
    fc.assert(
      fc.property(fc.array(fc.tuple(text, text)), (values) => {
        const pages = values.map(([title, description], index) =>
          page(`p${index}`, `/p${index}/`, { title, 'meta:description': description }),
        );
        const csv = stringify(writeTableRows(pages), { record_delimiter: 'windows' });
        const reading = readTable(parse(csv, { relax_column_count: true, skip_empty_lines: true }), pages);
        expect(reading).toMatchObject({ changes: [], unknown: [], doubled: [], ignored: [], rows: pages.length });
      }),
    );
  });

  // OWASP, "CSV Injection".
  it('has no cell that a spreadsheet would take for a formula', () => {
    const rows = writeTableRows([
      page('a', '/', {
        title: '=HYPERLINK("https://evil.example")',
        'meta:description': '+1',
        language: '-1',
        'meta:robots': '@SUM',
      }),
    ]);
    for (const cell of rows.flat()) expect(cell).not.toMatch(/^[=+\-@\t\r]/);
  });

  it('finds columns by their names, in any order and letter case', () => {
    const reading = readTable(
      [
        ['DESCRIPTION', 'notes', 'address'],
        ['New', 'x', '/'],
        ['Come', '', 'https://www.moor.example/visit/'],
        ['', '', '/visit/'],
        ['x', '', '/gone/'],
      ],
      PAGES,
    );
    expect(reading?.changes.map(({ page: id, name, before, after }) => [id, name, before, after])).toEqual([
      ['a', 'meta:description', 'Old', 'New'],
      ['b', 'meta:description', '', 'Come'],
    ]);
    expect(reading).toMatchObject({ unknown: ['/gone/'], doubled: ['/visit/'], ignored: ['notes'], rows: 4 });
  });

  it('changes nothing by an empty cell', () =>
    expect(
      readTable(
        [
          ['Address', 'Title'],
          ['/', ' '],
        ],
        PAGES,
      )?.changes,
    ).toEqual([]));
  it('is no table without a column of addresses', () => expect(readTable([['Title'], ['x']], PAGES)).toBeUndefined());
});

describe('find and replace', () => {
  const plain = { matchCase: false, wholeWords: false };
  it.each([
    ['Moor and moorland', { find: 'moor', replace: 'Fell', ...plain }, 'Fell and Fellland'],
    ['Moor and moorland', { find: 'moor', replace: 'Fell', ...plain, matchCase: true }, 'Moor and Fellland'],
    ['Moor and moorland', { find: 'moor', replace: 'Fell', ...plain, wholeWords: true }, 'Fell and moorland'],
    ['a.c abc', { find: 'a.c', replace: '$&', ...plain }, '$& abc'],
    ['Tŷ tŷ', { find: 'tŷ', replace: 'Hafan', ...plain, wholeWords: true }, 'Hafan Hafan'],
    ['x', { find: '', replace: 'y', ...plain }, 'x'],
  ])('%s, %o', (text, how, expected) => expect(replaceText(text, how)).toBe(expected));
});
