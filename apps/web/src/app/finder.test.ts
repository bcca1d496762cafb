// @vitest-environment jsdom
/** Ctrl K: what is found by a few letters, and what comes of it; and the history, whose steps are taken back one by one. */
import { draftApi, type HistoryRow } from '@fastigium/contracts/api/draft';
import { decision } from '@fastigium/contracts/messages/decision';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { FakeServer } from '../testing/fakeServer.ts';
import { readPageText, press } from '../testing/page.ts';
import { createPageRow } from '../testing/pageRow.ts';
import { answerSite, isShown, showScreen, SITE } from '../testing/screen.ts';
import CommandFinder from './CommandFinder.vue';
import HistoryPanel from './HistoryPanel.vue';

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(draftApi.pages, {
    version: 3,
    style: 'imported',
    pages: [createPageRow(SITE, { title: 'Visit us', address: '/visit/' })],
    removed: [],
  });
});
afterEach(() => {
  document.body.innerHTML = '';
});

describe('the finder', () => {
  const show = async (more: Parameters<typeof showScreen>[1] = {}) => {
    const finder = showScreen(CommandFinder, more);
    await isShown(() => expect(document.querySelectorAll('[role=option]').length).toBeGreaterThan(0));
    return finder;
  };
  const type = async (text: string) => {
    const input = document.querySelector<HTMLInputElement>('[role=combobox]');
    if (!input) throw new Error('there is no finder');
    input.value = text;
    input.dispatchEvent(new Event('input', { bubbles: true }));
    await nextTick();
  };
  const key = async (name: string) => {
    document
      .querySelector('[role=combobox]')
      ?.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
    await nextTick();
  };
  const options = () => [...document.querySelectorAll('[role=option]')].map(({ textContent }) => textContent);
  const chosen = () => document.querySelector('[role=option][aria-selected=true]')?.textContent;

  it('finds pages by their titles and their addresses', async () => {
    await show();
    await isShown(() => expect(server.asked.some(({ endpoint }) => endpoint === draftApi.pages)).toBe(true));
    await type('visit');
    await isShown(() => expect(options()[0]).toContain('Visit us'));
    await type('/visit/');
    await isShown(() => expect(options()[0]).toContain('Visit us'));
  });

  it('goes by the arrows and stays within what was found', async () => {
    await show();
    await isShown(() => expect(options().join()).toContain('Visit us'));
    const all = options();
    expect(chosen()).toBe(all[0]);
    await key('ArrowUp');
    expect(chosen()).toBe(all[0]);
    await key('ArrowDown');
    expect(chosen()).toBe(all[1]);
    for (let n = 0; n < all.length + 3; n += 1) await key('ArrowDown');
    expect(chosen()).toBe(all.at(-1));
  });

  it('does by Enter what is chosen, and closes first', async () => {
    const finder = await show();
    await type('history');
    await isShown(() => expect(options()[0]).toContain('History of the draft'));
    await key('Enter');
    expect(finder.emitted('close')).toHaveLength(1);
    expect(finder.emitted('history')).toHaveLength(1);
  });

  it('offers a step back to who may take it, with what it would take back', async () => {
    const steps = { undo: decision('last-day-removed'), redo: null };
    await show({ overview: { steps } });
    await type('step back');
    await isShown(() => expect(options()[0]).toContain('One step back'));
    document.body.innerHTML = '';
    await show({ overview: { steps }, role: 'reviewer' });
    await type('step back');
    await isShown(() => expect(options()).toEqual([]));
    expect(readPageText()).toContain('Nothing here is called that. Try fewer letters.');
  });
});

describe('the history', () => {
  const row = (seq: number, more: Partial<HistoryRow> = {}): HistoryRow => ({
    seq,
    message: decision('title-set', { address: '/visit/', title: `Title ${seq}` }),
    by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
    at: '2026-11-29T08:00:00.000Z',
    undone: false,
    isStep: true,
    ...more,
  });

  it('says who decided what, and takes one back by itself', async () => {
    server.answers(draftApi.history, {
      rows: [row(3), row(2, { undone: true }), row(1, { isStep: false, by: null })],
      more: false,
    });
    server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
    showScreen(HistoryPanel);
    await isShown(() => expect(readPageText()).toContain('Title of /visit/ set to “Title 3”'));
    expect(readPageText()).toContain('taken back');
    expect(readPageText()).toContain('by the time limit');
    expect([...document.querySelectorAll('li button')]).toHaveLength(1);
    await press('Take back');
    await isShown(() =>
      expect(server.sentTo(draftApi.decide).map((sent) => sent.decision)).toEqual([{ kind: 'undo', of: 3 }]),
    );
  });

  it('goes on to older ones, behind those that are shown', async () => {
    let asked = 0;
    server.answers(draftApi.history, () =>
      (asked += 1) === 1 ? { rows: [row(9)], more: true } : { rows: [row(8)], more: false },
    );
    showScreen(HistoryPanel);
    await isShown(() => expect(readPageText()).toContain('“Title 9”'));
    await press('Show older ones');
    await isShown(() => expect(readPageText()).toContain('“Title 8”'));
    expect(readPageText()).toContain('“Title 9”');
    expect(server.asked.map(({ search }) => search)).toEqual(['', '?before=9']);
  });

  it('offers no step back to who only looks on, and says when there is none', async () => {
    server.answers(draftApi.history, { rows: [row(3)], more: false });
    showScreen(HistoryPanel, { role: 'reviewer' });
    await isShown(() => expect(readPageText()).toContain('“Title 3”'));
    expect(document.querySelectorAll('li button')).toHaveLength(0);
    server.answers(draftApi.history, { rows: [], more: false });
    showScreen(HistoryPanel);
    await isShown(() => expect(readPageText()).toContain('Nothing has been decided yet'));
  });
});
