// @vitest-environment jsdom
/** The list of old addresses, settled one after another as somebody does it before a move. Addresses are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { redirectsApi, type OldAddress, type RedirectRow } from '@fastigium/contracts/api/redirects';
import { decision } from '@fastigium/contracts/messages/decision';
import { ruleFault } from '@fastigium/core/redirects';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { chooseOption, findButton, press, readPageText } from '../../testing/page.ts';
import { createPageRow } from '../../testing/pageRow.ts';
import { createRedirectRow } from '../../testing/rows.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import RedirectsStation from './RedirectsStation.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const PAGES = [
  createPageRow(id(1), { isHome: true, address: '/', title: 'Welcome' }),
  createPageRow(id(2), { address: '/visit/', title: 'Visit' }),
];
const visit = { page: id(2), address: '/visit/', title: 'Visit', probability: 0.8 };
const decidedRow = (from: string, more: Partial<RedirectRow> = {}) =>
  createRedirectRow(from, {
    origin: 'decided',
    status: 301,
    to: '/visit/',
    toTitle: 'Visit',
    toPage: id(2),
    target: { kind: 'page', page: id(2) },
    end: 'page',
    ...more,
  });
const ROWS = [
  createRedirectRow('/besuch.html', { visits: 40, suggestion: visit }),
  createRedirectRow('/presse.html', { visits: 7 }),
  createRedirectRow('/wp-login', { visits: 900, kind: 'noise', noise: 'probe' }),
  decidedRow('/anfahrt.html', { visits: 12 }),
  decidedRow('/weg.html', {
    problem: {
      kind: 'chain',
      final: '/visit/',
      message: ruleFault('detour', { steps: 2, way: '/weg.html → /visit', end: '/visit/' }),
    },
  }),
];
const oldAddress = (from: string): OldAddress => ({
  from,
  visits: null,
  lastSeen: null,
  seen: [],
  oldStatus: null,
  title: null,
  text: null,
  headings: [],
  kind: 'page',
  noise: null,
  none: null,
  isWorthPuttingBack: false,
  wasPage: null,
  suggestions: [{ ...visit, evidence: [], neighbours: null }],
  settledBy: null,
  settledAt: null,
});

let server: FakeServer;
let rows: RedirectRow[];
beforeEach(() => {
  giveRoom();
  rows = ROWS;
  server = new FakeServer();
  answerSite(server);
  server.answers(redirectsApi.rows, () => ({ version: 3, rows, suggesting: false }));
  server.answers(draftApi.pages, { version: 3, style: 'slash', pages: PAGES, removed: [] });
  server.answers(redirectsApi.one, oldAddress('/besuch.html'));
  server.answers(draftApi.decide, {
    version: 4,
    message: decision('redirect-gone', { from: '/besuch.html' }),
    made: null,
  });
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});

const OTHERS = ['GatherBench', 'BulkBench', 'FilesBench', 'PatternsBench', 'ProofView', 'PagePicker', 'DraftProof'];
const show = (role: 'owner' | 'reviewer' = 'owner') => showScreen(RedirectsStation, { role, without: OTHERS });
const listed = () =>
  [...document.querySelectorAll('[role="option"]')].map((each) => /\/[a-z-]+(\.html)?/.exec(each.textContent)?.[0]);
const type = (key: string) => window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));

describe('the list of old addresses', () => {
  it('begins with what is to be settled, counts the rest, and leaves noise apart', async () => {
    show();
    await isShown(() => expect(listed()).toEqual(['/besuch.html', '/presse.html']));
    for (const words of ['To settle 2', 'To mend 1', 'Settled 2', 'Set apart 1', 'All 5'])
      expect(readPageText()).toContain(words);
  });

  it.each([
    ['Settled 2', ['/anfahrt.html', '/weg.html']],
    ['Set apart 1', ['/wp-login']],
    ['To mend 1', ['/weg.html']],
    ['All 5', ROWS.map(({ from }) => from)],
  ])('shows under “%s” what is so', async (name, expected) => {
    show();
    await isShown(() => expect(listed()).toHaveLength(2));
    await chooseOption(name);
    await isShown(() => expect(listed()).toEqual(expected));
  });

  it('shows everything where nothing is to be settled, and says so where somebody asks', async () => {
    rows = ROWS.slice(3);
    show();
    await isShown(() => expect(listed()).toEqual(['/anfahrt.html', '/weg.html']));
    await chooseOption('To settle 0');
    await isShown(() => expect(readPageText()).toContain('Every old address is settled.'));
    expect(findButton('Many at onceM')?.disabled).toBe(true);
  });

  it('says what to do where there is none, and offers no proof of nothing', async () => {
    rows = [];
    show();
    await isShown(() => expect(readPageText()).toContain('No old address yet. Bring some in: press B.'));
    expect(findButton('ProveV')?.disabled).toBe(true);
  });

  it('leads redirects that take more than one step there at once', async () => {
    show();
    await isShown(() => expect(listed()).toHaveLength(2));
    await chooseOption('To mend 1');
    await isShown(() => expect(readPageText()).toContain('One redirect takes more than one step.'));
    await press('Lead it there at once');
    await isShown(() =>
      expect(server.sentTo(draftApi.decide).map((sent) => sent.decision)).toEqual([
        { kind: 'chains-flattened', addresses: null },
      ]),
    );
  });

  it('goes on with the next one once one is settled, and shows it settled before the list is read again', async () => {
    show();
    await isShown(() => expect(readPageText()).toContain('1 of 2'));
    document
      .querySelector<HTMLElement>('[role="listbox"]')
      ?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await isShown(() =>
      expect(server.sentTo(draftApi.decide).map((sent) => sent.decision)).toMatchObject([
        { kind: 'redirect', from: '/besuch.html', to: { status: 301, target: { kind: 'page', page: id(2) } } },
      ]),
    );
    await isShown(() => expect(listed()).toEqual(['/presse.html']));
    expect(readPageText()).toContain('Settled 3');
  });

  it.each([
    ['b', 'gather-bench-stub'],
    ['m', 'bulk-bench-stub'],
    ['p', 'patterns-bench-stub'],
    ['f', 'files-bench-stub'],
    ['v', 'proof-view-stub'],
  ])('opens by %s what the letter stands for', async (key, stub) => {
    show();
    await isShown(() => expect(listed()).toHaveLength(2));
    type(key);
    await isShown(() => expect(document.querySelector(stub)).not.toBeNull());
  });

  it('lets who only looks on read, take files and prove, and change nothing', async () => {
    show('reviewer');
    await isShown(() => expect(listed()).toHaveLength(2));
    expect(findButton('Bring in old addressesB')).toBeUndefined();
    expect(findButton('FilesF')?.disabled).toBe(false);
    expect(findButton('ProveV')?.disabled).toBe(false);
    type('b');
    type('f');
    await isShown(() => expect(document.querySelector('files-bench-stub')).not.toBeNull());
    expect(document.querySelector('gather-bench-stub')).toBeNull();
  });
});
