// @vitest-environment jsdom
import { change } from '@fastigium/core/report';
import { nameBrowser } from './browser.ts';
import { spreadBars } from '../stations/address/spread.ts';
import { formatDuration, formatMoney } from './duration.ts';
import { mayTakeFocus } from './focus.ts';
import type { Changes } from '@fastigium/contracts/api/releases';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { describe, expect, it } from 'vitest';
import { createRedirectRow } from '../testing/rows.ts';
import { groupChanges, isHeading } from '../stations/publish/grouped.ts';
import { reckonCoverage } from '../stations/redirects/coverage.ts';
import { readTarget } from '../stations/shared/settling/target.ts';
import { readTypedTarget } from '../stations/shared/pickedTarget.ts';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { deriveBays } from './bays.ts';
import { find } from './find.ts';
import { count, formatShare, reckonPercent, formatSize, formatWhen } from './format.ts';
import { isTyping, matchesKey } from './keys.ts';

describe('a browser, by what it calls itself', () => {
  // The forms browsers send (RFC 9110, section 10.1.5, and what each of them documents of its own); from memory.
  it.each([
    ['Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0', 'Firefox on Linux'],
    [
      'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36 Edg/140.0.0.0',
      'Edge on Windows',
    ],
    [
      'Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36',
      'Chrome or Chromium on Android',
    ],
    [
      'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile/15E148 Safari/604.1',
      'Safari on an iPhone or iPad',
    ],
    [
      'Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Safari/605.1.15',
      'Safari on a Mac',
    ],
    ['curl/8.14.1', 'curl'],
    ['', 'A program without a name'],
  ])('%s', (agent, words) => expect(nameBrowser(agent)).toBe(words));
});

describe('figures', () => {
  it.each([
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1.0 kB'],
    [9949, '9.9 kB'],
    [9950, '10 kB'],
    [999_499, '999 kB'],
    [999_500, '1.0 MB'],
    [84_000_000, '84 MB'],
    [2e15, '2000 TB'],
  ])('%i bytes are %s', (bytes, words) => {
    expect(formatSize(bytes)).toBe(words);
  });

  it.each([
    [0, 0, 0],
    [1, 1000, 1],
    [999, 1000, 99],
    [1, 2, 50],
    [5, 5, 100],
  ])('%i of %i are %i percent', (part, whole, expected) => expect(reckonPercent(part, whole)).toBe(expected));

  it.each([
    [0, 0, '0%'],
    [0, 50_000, '0%'],
    [1, 50_000, 'less than 1%'],
    [1, 100, '1%'],
    [1, 3, '33%'],
    [99, 100, '99%'],
    [49_999, 50_000, 'more than 99%'],
    [50_000, 50_000, '100%'],
  ])('%i of %i are said to be %s', (part, whole, expected) => expect(formatShare(part, whole)).toBe(expected));

  it('agrees with its noun', () =>
    expect([count(1, 'page'), count(0, 'page'), count(1234, 'entry', 'entries')]).toEqual([
      '1 page',
      '0 pages',
      '1,234 entries',
    ]));

  it('says when, the shorter the nearer', () => {
    const now = new Date(2026, 10, 25, 15, 0);
    expect(formatWhen(new Date(2026, 10, 25, 9, 5).toISOString(), now)).toBe('today 09:05');
    expect(formatWhen(new Date(2026, 10, 22, 14, 5).toISOString(), now)).toBe('Sun 14:05');
    expect(formatWhen(new Date(2026, 9, 3, 14, 5).toISOString(), now)).toBe('3 Oct, 14:05');
  });
});

describe('keys', () => {
  const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
    key,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    shiftKey: false,
    ...more,
  });

  it.each([
    [press('k', { ctrlKey: true }), { key: 'k', ctrl: true }, true],
    [press('k', { metaKey: true }), { key: 'k', ctrl: true }, true],
    [press('k'), { key: 'k', ctrl: true }, false],
    [press('Z', { ctrlKey: true, shiftKey: true }), { key: 'z', ctrl: true }, false],
    [press('Z', { ctrlKey: true, shiftKey: true }), { key: 'z', ctrl: true, shift: true }, true],
    [press('?', { shiftKey: true }), { key: '?' }, true],
    [press('a', { altKey: true }), { key: 'a' }, false],
  ])('%o as %o: %s', (event, key, expected) => expect(matchesKey(event, key)).toBe(expected));

  it('leaves what is typed alone', () => {
    const make = (html: string) => Object.assign(document.createElement('div'), { innerHTML: html }).firstElementChild;
    expect(['<input>', '<textarea></textarea>', '<input type=search>'].map((html) => isTyping(make(html)))).toEqual([
      true,
      true,
      true,
    ]);
    expect(['<input type=checkbox>', '<button></button>', '<div></div>'].map((html) => isTyping(make(html)))).toEqual([
      false,
      false,
      false,
    ]);
  });
});

describe('the cursor', () => {
  it('goes back to the ledger from the bench, not from where somebody types meanwhile', () => {
    document.body.innerHTML = '<aside><input id="title"></aside><input id="search">';
    const at = (id: string) => {
      document.getElementById(id)?.focus();
      return mayTakeFocus();
    };
    expect([at('title'), at('search')]).toEqual([true, false]);
    (document.activeElement as HTMLElement).blur();
    expect(mayTakeFocus()).toBe(true);
  });
});

describe('spans and money', () => {
  it.each([
    [0, '0 s'],
    [89_000, '89 s'],
    [780_000, '13 min'],
    [3_600_000, '1 h'],
    [7_500_000, '2 h 5 min'],
    [86_400_000, '1 day'],
    [3 * 86_400_000 + 7_200_000, '3 days 2 h'],
    [61 * 86_400_000 + 7_200_000, '61 days'],
    [-5, '0 s'],
  ])('%d ms: %s', (ms, words) => expect(formatDuration(ms)).toBe(words));
  it('is written with two places', () => expect(formatMoney(1400, 'USD')).toBe('$14.00'));
});

describe('the spread as bars', () => {
  const at = (seconds: number) => new Date(1_000_000_000_000 + seconds * 1000).toISOString();
  const bars = spreadBars(
    {
      authorityAnswers: true,
      authorityNewSince: at(-60),
      everyoneBy: at(3600),
      presentTtlSeconds: 3600,
      negativeTtlSeconds: 600,
      resolvers: [
        { resolver: 'Home', address: '1', state: 'old', oldUntil: at(1800), answers: [], added: false },
        { resolver: 'Office', address: '2', state: 'old', oldUntil: at(3600), answers: [], added: false },
        { resolver: 'New', address: '3', state: 'new', oldUntil: null, answers: [], added: false },
        { resolver: 'Away', address: '4', state: 'silent', oldUntil: null, answers: [], added: false },
        { resolver: 'Past', address: '5', state: 'old', oldUntil: at(-1), answers: [], added: false },
      ],
    },
    1_000_000_000_000,
  );

  it('are as long as the old answer lasts, against the longest', () => {
    expect(bars.map(({ name, kind, oldShare }) => [name, kind, oldShare])).toEqual([
      ['Name servers', 'new', 0],
      ['Home', 'old', 0.5],
      ['Office', 'old', 1],
      ['New', 'new', 0],
      ['Away', 'silent', 0],
      ['Past', 'new', 0],
    ]);
    expect(bars[1]?.words).toBe('old for 30 min');
  });
});

describe('finding', () => {
  const items = ['opening times /visit/opening-times/', 'the solar terrace /observatory/', 'times of old /x/'].map(
    (text) => ({ text }),
  );

  it('wants every word, and prefers the early and whole ones', () => {
    expect(find(items, 'times', 9).map(({ text }) => text)).toEqual([
      'times of old /x/',
      'opening times /visit/opening-times/',
    ]);
    expect(find(items, 'TERR sol', 9)).toHaveLength(1);
    expect(find(items, 'times nowhere', 9)).toEqual([]);
    expect(find(items, ' ', 2)).toHaveLength(2);
  });
});

const site = (more: Partial<SiteOverview>): SiteOverview => ({
  id: 'x',
  name: 'X',
  hostName: 'x',
  hasHost: true,
  liveUrl: null,
  answersAt: 'x.localhost',
  pages: 4,
  files: 9,
  liveRelease: null,
  createdAt: '',
  version: 1,
  live: null,
  address: null,
  basePath: '',
  snags: { must: 0, should: 0, dismissed: 0, checking: false, metadata: 0 },
  notes: 0,
  oldAddresses: 0,
  oldAddressesWithRule: 0,
  redirects: 0,
  homeTitle: 'Home',
  removals: { all: 0, pages: 0, sweptSoon: 0, firstSweep: null },
  watch: { lost: 0, readAt: null, problem: null, alerts: [] },
  steps: { undo: null, redo: null },
  runningJobs: [],
  lastImport: null,
  ...more,
});
const NOTHING = change('page-source-only');

const changes = (n: number, since: number | null): Changes => ({
  version: 1,
  sinceRelease: since,
  sending: null,
  hostProblem: null,
  whole: { files: 9, bytes: 1 },
  changes: Array.from({ length: n }, (_, i) => ({
    key: `file:${i}`,
    group: 'pages' as const,
    what: 'changed' as const,
    subject: '/',
    message: NOTHING,
  })),
});

describe('the frieze', () => {
  const bay = (name: string, overview: SiteOverview, differences?: Changes) =>
    deriveBays(overview, differences).find(({ station }) => station === name);

  it('has seven bays in the order of the work, the ones without content inert', () => {
    expect(deriveBays(site({}), undefined).map(({ station, isOpen }) => `${station}${isOpen ? '' : ' -'}`)).toEqual([
      'survey',
      'address',
      'pages',
      'metadata',
      'redirects',
      'publish',
      'watch -',
    ]);
    expect(
      deriveBays(site({ files: 0, pages: 0 }), undefined)
        .filter(({ isOpen }) => isOpen)
        .map(({ station }) => station),
    ).toEqual(['survey', 'address']);
  });

  it.each([
    ['address', site({}), undefined, 'no domain yet', 'dashed'],
    [
      'address',
      site({ address: { main: 'www.a.example', state: 'broken', words: 'records: 1 of 3 right' } }),
      undefined,
      'records: 1 of 3 right',
      'madder',
    ],
    [
      'address',
      site({ address: { main: 'www.a.example', state: 'right', words: 'all five links right' } }),
      undefined,
      'all five links right',
      'verdigris',
    ],
    [
      'survey',
      site({
        files: 0,
        lastImport: { id: '', state: 'failed', fileName: '', error: { code: 'upload-empty', details: {} } },
      }),
      undefined,
      'nothing came in',
      'madder',
    ],
    [
      'survey',
      site({ lastImport: { id: '', state: 'reading', fileName: '', error: null } }),
      undefined,
      'reading …',
      'ochre',
    ],
    ['pages', site({ homeTitle: null }), undefined, 'no home page', 'madder'],
    ['pages', site({}), changes(2, 1), '2 changed', 'ochre'],
    ['redirects', site({ oldAddresses: 9, oldAddressesWithRule: 7 }), undefined, '2 to settle', 'ochre'],
    ['redirects', site({ oldAddresses: 9, oldAddressesWithRule: 9 }), undefined, 'all 9 settled', 'verdigris'],
    ['publish', site({}), changes(3, null), 'not live yet', 'dashed'],
    [
      'publish',
      site({ live: { number: 4, at: '', by: { id: '', name: '', initials: '' }, rollbackOf: null, downSince: null } }),
      changes(1, 4),
      '1 change',
      'ochre',
    ],
    [
      'publish',
      site({ live: { number: 4, at: '', by: { id: '', name: '', initials: '' }, rollbackOf: null, downSince: null } }),
      changes(0, 4),
      'release 4 is live',
      'verdigris',
    ],
    [
      'publish',
      site({
        live: { number: 4, at: '', by: { id: '', name: '', initials: '' }, rollbackOf: null, downSince: '2027-03-31' },
      }),
      changes(0, 4),
      'down since 31 March 2027',
      'dashed',
    ],
    [
      'survey',
      site({ snags: { must: 0, should: 0, dismissed: 0, checking: true, metadata: 0 } }),
      undefined,
      'checking …',
      'ochre',
    ],
    [
      'metadata',
      site({ snags: { must: 0, should: 0, dismissed: 0, checking: true, metadata: 0 } }),
      undefined,
      'checking …',
      'ochre',
    ],
  ] as const)('%s', (name, overview, differences, words, mark) =>
    expect(bay(name, overview, differences)).toMatchObject({ words, mark }),
  );
});

describe('redirects', () => {
  const row = (
    origin: RedirectRow['origin'],
    visits: number | null,
    status: RedirectRow['status'] = null,
  ): RedirectRow =>
    createRedirectRow(`/${Math.random()}`, {
      visits,
      origin,
      status,
      end: origin === 'open' ? 'missing' : status === 410 ? 'gone' : 'page',
    });

  it('counts coverage by visits, or by addresses where none are known', () => {
    expect(reckonCoverage([row('decided', 30, 301), row('open', 10), row('decided', 5, 410), row('page', 5)])).toEqual({
      landing: 35,
      home: 0,
      gone: 5,
      suggested: 0,
      lost: 10,
      visits: 50,
      hasVisits: true,
    });
    expect(reckonCoverage([row('decided', null, 301), row('open', null)])).toEqual({
      landing: 1,
      home: 0,
      gone: 0,
      suggested: 0,
      lost: 1,
      visits: 2,
      hasVisits: false,
    });
  });

  it('reads what is typed as a target', () => {
    expect([
      readTypedTarget(' /x#y '),
      readTypedTarget('https://e.example/'),
      readTypedTarget('https://'),
      readTypedTarget('opening'),
    ]).toEqual([
      { kind: 'address', address: '/x#y' },
      { kind: 'url', url: 'https://e.example/' },
      undefined,
      undefined,
    ]);
  });

  it('opens a decided one as it was decided', () => {
    const of = (target: RedirectRow['target'], to: string) =>
      readTarget({ ...row('decided', 1, 301), to, toPage: 'p', target });
    for (const [target, to] of [
      [{ kind: 'home' }, '/'],
      [{ kind: 'page', page: 'p' }, '/a/'],
      [{ kind: 'page', page: 'p', fragment: 'part' }, '/a/#part'],
      [{ kind: 'page', page: 'news', newest: true }, '/news/last/'],
      [{ kind: 'address', address: '/a/#part' }, '/a/#part'],
    ] as const)
      expect(of(target, to)).toEqual(target);
    expect(readTarget({ ...row('moved', 1, 301), to: '/a/', toPage: 'p' })).toEqual({ kind: 'page', page: 'p' });
    expect(readTarget({ ...row('page', 1), to: '/a/', toPage: 'p' })).toBeUndefined();
  });
});

describe('changes', () => {
  it('stand by kind under headings with their number', () => {
    const list = groupChanges([
      ...changes(2, 1).changes,
      { key: 'rule:/a', group: 'redirects', what: 'added', subject: '/a', message: NOTHING },
    ]);
    expect(list.map((item) => (isHeading(item) ? `${item.heading} ${item.count}` : item.key))).toEqual([
      'Pages 2',
      'file:0',
      'file:1',
      'Redirects 1',
      'rule:/a',
    ]);
  });
});
