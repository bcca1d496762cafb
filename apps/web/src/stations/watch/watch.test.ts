// @vitest-environment jsdom
/** The days after a release, as somebody comes by to see whether all is well. Figures are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { redirectsApi } from '@fastigium/contracts/api/redirects';
import {
  UP_DAYS,
  WATCH_DAYS,
  watchApi,
  type LostAddress,
  type Up,
  type UsedRule,
  type Watch,
} from '@fastigium/contracts/api/watch';
import { decision } from '@fastigium/contracts/messages/decision';
import { alert } from '@fastigium/core/watch';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText } from '../../testing/page.ts';
import { createRedirectRow } from '../../testing/rows.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import DatesPart from './DatesPart.vue';
import RuleUseBench from './RuleUseBench.vue';
import UpView from './UpView.vue';
import WatchStation from './WatchStation.vue';

const now = new Date('2026-11-30T12:00:00.000Z');
const up: Up = {
  percent: 99.93,
  watchedMinutes: 43_200,
  downMinutes: 30,
  promised: { percent: 99.95, minutes: 21.6 },
  firstByte: { median: 42.4, p95: 180 },
  lastAt: '2026-11-30T11:58:00.000Z',
  isUp: true,
  days: Array.from({ length: UP_DAYS }, (_, at) => ({
    day: `2026-11-${String(at + 1).padStart(2, '0')}`,
    percent: at < 10 ? null : at === 12 ? 97.9 : 100,
    median: at < 10 ? null : 40,
  })),
  outages: [{ from: '2026-11-13T08:00:00.000Z', to: '2026-11-13T08:30:00.000Z', problem: 'connection refused' }],
};
const lost = (address: string, more: Partial<LostAddress> = {}): LostAddress => ({
  address,
  visits: 12,
  byDay: Array.from({ length: WATCH_DAYS }, () => 0),
  robotVisits: 3,
  lastAt: '2026-11-30T08:00:00.000Z',
  referrer: null,
  standing: 'lost',
  isSpike: false,
  isApart: false,
  ...more,
});
const rule = (from: string, visits: number, more: Partial<UsedRule> = {}): UsedRule => ({
  from,
  isPattern: false,
  status: 301,
  to: '/visit/',
  visits,
  addresses: 1,
  lastAt: visits > 0 ? '2026-11-30T09:00:00.000Z' : null,
  ...more,
});
const settled = (from: string) =>
  createRedirectRow(from, {
    origin: 'decided',
    status: 301,
    to: '/visit/',
    toPage: SITE,
    target: { kind: 'page', page: SITE },
    end: 'page',
    visits: 7,
  });
const seenOf = (more: Partial<Watch> = {}): Watch => ({
  state: 'reading',
  readAt: '2026-11-30T11:50:00.000Z',
  problem: null,
  notRead: 0,
  days: Array.from({ length: WATCH_DAYS }, (_, at) => ({
    day: `2026-11-${17 + at}`,
    found: 100,
    redirected: 20,
    lost: 4,
    gone: 1,
    failed: 0,
    robots: 9,
  })),
  lost: [lost('/old-menu.php'), lost('/led-on/', { standing: 'settled' }), lost('/wp-login.php', { isApart: true })],
  rules: [rule('/in-use.html', 40), rule('/forgotten.html', 0), rule('/also.html', 0)],
  up,
  drift: null,
  alerts: [],
  dates: { certificates: [], registrations: [], comesDown: null },
  since: '2026-01-01T00:00:00.000Z',
  ...more,
});

// jsdom has no canvas to draw on.
vi.mock('./DaysChart.vue', () => ({ default: { render: () => null } }));

let server: FakeServer;
beforeEach(() => {
  giveRoom();
  server = new FakeServer();
  answerSite(server);
  server.answers(watchApi.get, seenOf());
  server.answers(redirectsApi.rows, {
    version: 3,
    rows: ['/in-use.html', '/forgotten.html', '/also.html'].map(settled),
    suggesting: false,
  });
  server.answers(draftApi.pages, { version: 3, style: 'imported', pages: [], removed: [] });
  server.answers(draftApi.decide, { version: 4, message: decision('redirect-removed', { from: '/x' }), made: null });
});
afterEach(() => {
  vi.restoreAllMocks();
  document.body.innerHTML = '';
});
const choose = (name: RegExp) => {
  const radio = [...document.querySelectorAll<HTMLElement>('[role=radio]')].find(({ textContent }) =>
    name.test(textContent),
  );
  if (!radio) throw new Error(`there is no ${String(name)}`);
  radio.click();
};
const station = async (role: 'owner' | 'reviewer' = 'owner') => {
  showScreen(WatchStation, { role, without: ['RedirectBench'] });
  await isShown(() => expect(readPageText()).toContain('/old-menu.php'));
};

describe('what visitors did not find', () => {
  it('is what still finds nothing; what leads on by now is among all', async () => {
    await station();
    expect(readPageText()).not.toContain('/led-on/');
    choose(/All/);
    await isShown(() => expect(readPageText()).toContain('/led-on/'));
  });

  it.each([
    [{ state: 'none' } as const, 'Nothing is live yet'],
    [{ state: 'no-log' } as const, 'This host gives no access log'],
    [{ lost: [] }, 'Nobody has asked for anything'],
  ])('says why there is none (%j)', async (more, words) => {
    server.answers(watchApi.get, seenOf({ ...more, lost: [] }));
    showScreen(WatchStation, { without: ['RedirectBench'] });
    await isShown(() => expect(readPageText()).toContain(words));
  });

  const away = alert('away', { problem: 'no answer' });
  it('says first what is wrong now', async () => {
    server.answers(
      watchApi.get,
      seenOf({
        up: { ...up, isUp: false },
        alerts: [{ kind: 'away', weight: 'wrong', message: away }],
      }),
    );
    await station();
    expect(readPageText()).toContain('Host, away now');
  });
});

describe('redirects by their use', () => {
  it('can be retired together where nobody has used them for long, as one step', async () => {
    await station();
    choose(/Never used/);
    await isShown(() => expect(readPageText()).toContain('/forgotten.html'));
    expect(readPageText()).not.toContain('/in-use.html');
    const retire = [...document.querySelectorAll('button')].find(({ textContent }) => /[Rr]etire/.test(textContent));
    retire?.click();
    await isShown(() =>
      expect(server.sentTo(draftApi.decide).map((sent) => sent.decision)).toEqual([
        { kind: 'redirects', settle: [], remove: ['/forgotten.html', '/also.html'] },
      ]),
    );
  });

  it('are not retired by who only looks on', async () => {
    await station('reviewer');
    choose(/Never used/);
    await isShown(() => expect(readPageText()).toContain('/forgotten.html'));
    expect([...document.querySelectorAll('button')].filter(({ textContent }) => /[Rr]etire/.test(textContent))).toEqual(
      [],
    );
  });

  it.each([
    ['one that is used', rule('/in-use.html', 40, { addresses: 3 }), '40 visits, by 3 addresses', false],
    ['one nobody uses', rule('/forgotten.html', 0), 'Search engines take', true],
    ['a pattern', rule('/news/*', 0, { isPattern: true }), 'A pattern', false],
  ])('says of %s what is known of it', async (_, each, words, canRetire) => {
    showScreen(RuleUseBench, {
      props: {
        rule: each,
        row: each.isPattern ? undefined : settled(each.from),
        since: '2026-01-01T00:00:00.000Z',
        now,
      },
    });
    expect(readPageText()).toContain(words);
    const retire = [...document.querySelectorAll('button')].find(({ textContent }) => /[Rr]etire/.test(textContent));
    expect(retire !== undefined).toBe(canRetire);
    retire?.click();
    await isShown(() => expect(server.sentTo(draftApi.decide)).toHaveLength(canRetire ? 1 : 0));
  });
});

describe('the host', () => {
  it('is held to what it promised, in minutes', () => {
    showScreen(UpView, { props: { up, drift: null, dates: seenOf().dates, now } });
    expect(readPageText()).toContain('The site answers');
    expect(readPageText()).toContain('99.930 %');
    expect(readPageText()).toContain('30 min');
    expect(readPageText()).toContain('21.6');
    expect(readPageText()).toContain('20 days watched');
    expect(document.querySelectorAll('.days .none')).toHaveLength(10);
    expect(document.querySelectorAll('.days .part')).toHaveLength(1);
    expect(readPageText()).toContain('connection refused');
  });

  it('is said to be away while it is, since when', () => {
    const outages = [{ from: '2026-11-30T11:00:00.000Z', to: null, problem: 'no answer' }];
    showScreen(UpView, { props: { up: { ...up, isUp: false, outages }, drift: null, dates: seenOf().dates, now } });
    expect(readPageText()).toContain('The site does not answer');
    expect(readPageText()).toContain('still');
  });

  it('says nothing of what was not asked yet', () => {
    const never = { ...up, percent: null, isUp: null, lastAt: null, outages: [] };
    showScreen(UpView, { props: { up: never, drift: null, dates: seenOf().dates, now } });
    expect(readPageText()).toContain('Not asked yet');
    expect(readPageText()).not.toContain('21.6');
  });

  it('names days ahead, the nearest first, each by how near it is', () => {
    const dates = {
      certificates: [{ name: 'moor.example', at: '2027-02-20T00:00:00.000Z' }],
      registrations: [{ name: 'moor.example', at: '2026-11-20T00:00:00.000Z' }],
      comesDown: '2026-12-04',
    };
    showScreen(DatesPart, { props: { dates, now } });
    const rows = [...document.querySelectorAll('tr')].map(({ textContent }) => textContent.replace(/\s+/g, ' '));
    expect(rows.map((each) => /Registration|Certificate|Comes down/.exec(each)?.[0])).toEqual([
      'Registration',
      'Comes down',
      'Certificate',
    ]);
    expect(rows[0]).toContain('over');
    expect(rows[1]).toContain('4 Dec 2026');
    expect(rows[2]).toContain('in 81 days');
    expect(findButton('x')).toBeUndefined();
  });
});
