// @vitest-environment jsdom
/** The audit trail: what is said of each act, by its kind, and what came before. */
import { trailApi, type TrailEntry } from '@fastigium/contracts/api/trail';
import { act } from '@fastigium/contracts/messages/act';
import { beforeEach, describe, expect, it } from 'vitest';
import { FakeServer } from '../testing/fakeServer.ts';
import { findButton, readPageText, press } from '../testing/page.ts';
import { isShown, showScreen } from '../testing/screen.ts';
import TrailPage from './TrailPage.vue';

const entry = (number: number, more: Partial<TrailEntry> = {}): TrailEntry => ({
  number,
  at: '2026-11-29T08:00:00.000Z',
  kind: 'people',
  what: act('people-set-role'),
  who: 'Ada Stone',
  address: '203.0.113.7',
  request: 'r',
  site: null,
  about: null,
  outcome: 'done',
  ...more,
});

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});
const rows = () => [...document.querySelectorAll('.entry')].map(({ textContent }) => textContent.replace(/\s+/g, ' '));
const show = () => showScreen(TrailPage, { without: ['AppLintel'] });
const asked = () => server.asked.map(({ search }) => search);

describe('the audit trail', () => {
  it('says who did what to whom, from where, and how it ended where that was not well', async () => {
    server.answers(trailApi.list, {
      entries: [
        entry(4, { about: 'Bran Moor' }),
        entry(3, { kind: 'sites', what: act('sites-delete'), site: 'Moor' }),
        entry(2, { outcome: 'not-allowed', site: 'Moor' }),
        entry(1, { outcome: null, address: '' }),
      ],
      more: false,
    });
    show();
    await isShown(() => expect(rows()).toHaveLength(4));
    expect(rows()[0]).toMatch(/29 Nov 2026, .*Ada Stone.*203\.0\.113\.7.*Give somebody another role: Bran Moor$/);
    expect(rows()[1]).toMatch(/Delete a site, which can be taken back for 30 days\s?Moor$/);
    expect(rows()[2]).toMatch(/Moor, refused: /);
    expect(rows()[3]).toMatch(/command line.*begun; how it ended is not known/);
  });

  it('is read by kind, taken along by kind, and on to what came before', async () => {
    server.answers(trailApi.list, { entries: [entry(9), entry(8)], more: true });
    show();
    await isShown(() => expect(rows()).toHaveLength(2));
    server.answers(trailApi.list, { entries: [entry(7)], more: false });
    await press('Show older ones');
    await isShown(() => expect(rows()).toHaveLength(3));
    expect(asked().at(-1)).toContain('before=8');
    expect(findButton('Show older ones')).toBeUndefined();

    server.answers(trailApi.list, { entries: [], more: false });
    await press('secrets');
    await isShown(() => expect(readPageText()).toContain('Nothing of this kind has happened yet.'));
    expect(asked().at(-1)).toContain('kind=secrets');
    expect(document.querySelector('a[download]')?.getAttribute('href')).toContain('kind=secrets');
  });
});
