// @vitest-environment jsdom
/** Metadata of many pages at once: as a table that goes out and comes back, and by find and replace. Pages are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { metadataApi, type TableReading } from '@fastigium/contracts/api/metadata';
import { decision } from '@fastigium/contracts/messages/decision';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { createMetadataRow } from '../../testing/rows.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import CsvBench from './CsvBench.vue';
import ReplaceBench from './ReplaceBench.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const reading: TableReading = {
  version: 3,
  rows: 40,
  encoding: 'windows-1252',
  changes: [
    { page: id(1), address: '/visit/', name: 'title', before: 'Visit', after: 'Visit us' },
    { page: id(1), address: '/visit/', name: 'meta:description', before: '', after: 'How to find us.' },
    { page: id(2), address: '/press/', name: 'title', before: 'Press', after: 'For the press' },
  ],
  unknown: ['/gone/', '/nowhere/'],
  doubled: ['/visit/'],
  ignored: ['Colour'],
};
const message = decision('head-set', { where: 'pages', lines: [], kinds: 0, how: 'set' } as never);

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});

describe('a table that comes back', () => {
  const show = () =>
    showScreen(CsvBench, { props: { metadata: {}, csvAddress: `/api/sites/${SITE}/metadata/table.csv` } });
  const give = (name: string) => {
    const input = document.querySelector<HTMLInputElement>('input[type=file]');
    if (!input) throw new Error('there is nowhere to put a file');
    Object.defineProperty(input, 'files', { configurable: true, value: [new File(['x'], name)] });
    input.dispatchEvent(new Event('change', { bubbles: true }));
  };

  it('shows every change before any is made, and what it would leave out', async () => {
    server.answers(metadataApi.readCsv, reading);
    show();
    give('titles.csv');
    await isShown(() => expect(readPageText()).toContain('3 cells on 2 pages would change.'));
    expect(readPageText()).toContain('40 rows, windows-1252');
    expect(readPageText()).toContain('2 rows are about no page of this site and would be left out: /gone/, /nowhere/');
    expect(readPageText()).toContain('1 page stands in it twice; the first row counts: /visit/');
    expect(readPageText()).toContain('Columns that mean nothing here: Colour.');
    expect(readPageText()).toContain('How to find us.');
    expect(server.asked.map(({ endpoint }) => endpoint)).not.toContain(metadataApi.takeCsv);
  });

  it('is taken as one step, of the draft it was read against, and can be taken back at once', async () => {
    server.answers(metadataApi.readCsv, reading);
    server.answers(metadataApi.takeCsv, { version: 4, message, made: null });
    const bench = show();
    give('titles.csv');
    await isShown(() => expect(findButton('Take all of it')?.disabled).toBe(false));
    await press('Take all of it');
    await isShown(() => expect(bench.emitted('leave')).toHaveLength(1));
    expect(server.asked.find(({ endpoint }) => endpoint === metadataApi.takeCsv)?.search).toBe('?version=3');
    const { notice } = useNotices();
    expect(notice?.action?.label).toBe('Undo');
    notice?.action?.run();
    await isShown(() =>
      expect(server.sentTo(draftApi.decide)[0]?.decision).toEqual({ kind: 'step', direction: 'back' }),
    );
  });

  it('that says what is there already has nothing to take', async () => {
    server.answers(metadataApi.readCsv, { ...reading, changes: [], unknown: [], doubled: [], ignored: [] });
    show();
    give('same.csv');
    await isShown(() => expect(readPageText()).toContain('It says what is there already: nothing would change.'));
    expect(findButton('Take all of it')?.disabled).toBe(true);
    expect(readPageText()).not.toContain('left out');
  });

  it('is read once more where the draft changed meanwhile, and why it was not taken is said', async () => {
    server.answers(metadataApi.readCsv, reading);
    server.refuses(metadataApi.takeCsv, 'draft-stale');
    const bench = show();
    give('titles.csv');
    await isShown(() => expect(findButton('Take all of it')?.disabled).toBe(false));
    await press('Take all of it');
    await isShown(() => expect(document.querySelector('[role=alert]')).not.toBeNull());
    await isShown(() =>
      expect(server.asked.filter(({ endpoint }) => endpoint === metadataApi.readCsv)).toHaveLength(2),
    );
    expect(bench.emitted('leave')).toBeUndefined();
  });

  it('that is none says so, and another one can be brought', async () => {
    server.refuses(metadataApi.readCsv, 'table-unreadable', { detail: 'no column is called Address' });
    show();
    give('picture.png');
    await isShown(() => expect(document.querySelector('[role=alert]')?.textContent).toContain('Address'));
    server.answers(metadataApi.readCsv, reading);
    give('titles.csv');
    await isShown(() => expect(readPageText()).toContain('3 cells on 2 pages'));
    expect(document.querySelector('[role=alert]')).toBeNull();
  });
});

describe('find and replace', () => {
  const rows = [
    createMetadataRow(id(1), 'The moor at night', 'Moor and heath.'),
    createMetadataRow(id(2), 'Moorland', ''),
    createMetadataRow(id(3), 'The press', 'moor'),
  ];
  const show = () => showScreen(ReplaceBench, { props: { rows } });
  const tick = (label: string) =>
    [...document.querySelectorAll('label')].find(({ textContent }) => textContent.includes(label))?.click();
  const after = () => [...document.querySelectorAll('ins')].map(({ textContent }) => textContent);

  it('shows every change in the pages that are shown, and makes them in one step', async () => {
    const bench = show();
    expect(readPageText()).toContain('In the 3 pages that the table shows now.');
    expect(findButton('Replace on 0 pages')?.disabled).toBe(true);
    await write('Find', 'moor');
    await write('Replace by', 'fell');
    await isShown(() => expect(after()).toEqual(['The fell at night', 'fellland']));
    await send();
    await isShown(() => expect(bench.emitted('leave')).toHaveLength(1));
    expect(server.sentTo(draftApi.decide).map((sent) => sent.decision)).toMatchObject([
      {
        kind: 'head',
        settings: [
          { scope: { kind: 'page', page: id(1) }, name: 'title', text: 'The fell at night' },
          { scope: { kind: 'page', page: id(2) }, name: 'title', text: 'fellland' },
        ],
      },
    ]);
  });

  it('looks for whole words, or for the same letters, where it is told to', async () => {
    show();
    await write('Find', 'moor');
    await write('Replace by', 'fell');
    tick('Whole words');
    await isShown(() => expect(after()).toEqual(['The fell at night']));
    tick('Whole words');
    await write('Find', 'Moor');
    tick('Same letter case');
    await isShown(() => expect(after()).toEqual(['fellland']));
  });

  it('looks in descriptions, and says where nothing holds it', async () => {
    show();
    await write('Find', 'press');
    document.querySelectorAll<HTMLElement>('[role=radio]')[1]?.click();
    await isShown(() => expect(readPageText()).toContain('Nothing of what is shown holds this.'));
    await write('Find', 'moor');
    // Never emptied: where nothing would be left, nothing is replaced.
    await isShown(() => expect(after()).toEqual(['and heath.']));
  });

  it('stays open where it could not be done', async () => {
    server.refuses(draftApi.decide, 'database-away');
    const bench = show();
    await write('Find', 'moor');
    await send();
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect(bench.emitted('leave')).toBeUndefined();
  });
});
