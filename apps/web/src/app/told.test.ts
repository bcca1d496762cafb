// @vitest-environment jsdom
/** Where people read what was done: the history and what they are to be told, in the words of the catalogue. */
import { draftApi, type HistoryRow } from '@fastigium/contracts/api/draft';
import { removalsApi } from '@fastigium/contracts/api/removals';
import { decision } from '@fastigium/contracts/messages/decision';
import { notice } from '@fastigium/contracts/messages/notice';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../stores/notices.ts';
import { FakeServer } from '../testing/fakeServer.ts';
import { isShown, showScreen, SITE } from '../testing/screen.ts';
import HistoryPanel from './HistoryPanel.vue';
import ToldNotices from './ToldNotices.vue';

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});
afterEach(() => {
  document.body.innerHTML = '';
});

const by = { id: SITE, name: 'Ben Hill', initials: 'BH' };
const row = (seq: number, more: Partial<HistoryRow>): HistoryRow => ({
  seq,
  message: decision('home-set', { name: 'Visit' }),
  by,
  at: '2026-11-29T08:00:00.000Z',
  undone: false,
  isStep: true,
  ...more,
});
const lines = () =>
  [...document.querySelectorAll('li')].map(({ textContent }) => textContent.replace(/\s+/g, ' ').trim());
const button = (name: string) =>
  [...document.querySelectorAll('button')].find(({ textContent }) => textContent.trim() === name);

describe('the history', () => {
  const answerRows = (rows: HistoryRow[], more = false) => server.answers(draftApi.history, { rows, more });
  const renamed = decision('address-set', { before: '/visit/', after: '/come/', below: 5 });

  it('says each decision, what was taken back, and what no person did', async () => {
    answerRows([
      row(3, { message: decision('undone', { decision: renamed }) }),
      row(2, { message: renamed, undone: true }),
      row(1, { message: decision('swept', { count: 1, label: 'Old', by: 'time' }), by: null, isStep: false }),
    ]);
    showScreen(HistoryPanel);
    await isShown(() => expect(lines()).toHaveLength(3));
    const [undone, before, swept] = lines();
    expect(undone).toMatch(/^3Taken back: \/visit\/ becomes \/come\/, with 5 below it ?Ben Hill, .*Take back$/);
    expect(before).toMatch(/taken back$/);
    expect(swept).toMatch(/“Old” removed for good: the time they were kept is over ?by the time limit/);
    expect(swept).not.toContain('Take back');
  });

  it('takes one back for who may, and asks for it by its number', async () => {
    answerRows([row(7, {})]);
    server.refuses(draftApi.decide, 'nothing-to-undo');
    showScreen(HistoryPanel);
    await isShown(() => expect(button('Take back')).toBeDefined());
    button('Take back')?.click();
    await isShown(() =>
      expect(server.sentTo(draftApi.decide)).toEqual([{ version: 3, decision: { kind: 'undo', of: 7 } }]),
    );
    // What is refused is said in words, with what to do next.
    await isShown(() => expect(useNotices().notice?.text).toMatch(/\.$/));
    expect(useNotices().notice?.text).not.toContain('nothing-to-undo');
  });

  it('offers nothing to who only looks on', async () => {
    answerRows([row(7, {})]);
    showScreen(HistoryPanel, { role: 'reviewer' });
    await isShown(() => expect(lines()).toHaveLength(1));
    expect(button('Take back')).toBeUndefined();
  });

  it('is read on to the beginning', async () => {
    answerRows([row(9, {}), row(8, {})], true);
    showScreen(HistoryPanel);
    await isShown(() => expect(lines()).toHaveLength(3));
    answerRows([row(7, {})]);
    button('Show older ones')?.click();
    await isShown(() => expect(lines().map((line) => line[0])).toEqual(['9', '8', '7']));
    expect(server.asked.at(-1)?.search).toBe('?before=8');
    expect(button('Show older ones')).toBeUndefined();
  });

  it('says that nothing was decided yet', async () => {
    answerRows([]);
    showScreen(HistoryPanel);
    await isShown(() => expect(document.body.textContent).toContain('Nothing has been decided yet'));
  });
});

describe('what somebody is to be told', () => {
  it('stands there until it was read, and is then gone here and there', async () => {
    server.answers(removalsApi.notices, [
      {
        id: SITE,
        message: notice('swept-by', { person: 'Ben Hill', count: 3, label: 'Summer' }),
        at: '2026-11-29T08:00:00.000Z',
      },
    ]);
    server.answers(removalsApi.noticeSeen, { done: true });
    showScreen(ToldNotices);
    await isShown(() =>
      expect(document.body.textContent).toContain(
        'Ben Hill removed for good 3 things, “Summer” among them, which you had removed.',
      ),
    );
    button('Read')?.click();
    await isShown(() => expect(lines()).toEqual([]));
    expect(server.asked.map(({ endpoint }) => endpoint)).toContain(removalsApi.noticeSeen);
  });
});
