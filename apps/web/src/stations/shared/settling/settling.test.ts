// @vitest-environment jsdom
/** One old address settled, by a press or by the keyboard, as it is done a hundred times in a row. Pages are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { redirectsApi, type OldAddress, type RedirectRow } from '@fastigium/contracts/api/redirects';
import { decision } from '@fastigium/contracts/messages/decision';
import { ruleFault } from '@fastigium/core/redirects';
import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../../stores/notices.ts';
import { FakeServer } from '../../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../../testing/page.ts';
import { createPageRow } from '../../../testing/pageRow.ts';
import { createRedirectRow } from '../../../testing/rows.ts';
import { answerSite, isShown, showScreen, SITE } from '../../../testing/screen.ts';
import RedirectBench from './RedirectBench.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const PAGES = [
  createPageRow(id(1), { isHome: true, address: '/', title: 'Welcome' }),
  createPageRow(id(2), { address: '/visit/', title: 'Visit' }),
  createPageRow(id(3), { address: '/press/', title: 'Press' }),
];
const row = createRedirectRow('/besuch.html', { visits: 40 });
const candidate = (last: number, address: string, title: string, probability: number) => ({
  page: id(last),
  address,
  title,
  probability,
  evidence: [],
  neighbours: null,
});
const old: OldAddress = {
  from: row.from,
  visits: 40,
  lastSeen: null,
  seen: [{ source: 'log', visits: 40, lastSeen: null }],
  oldStatus: 200,
  title: 'Besuch',
  text: null,
  headings: [],
  kind: 'page',
  noise: null,
  none: 0.1,
  isWorthPuttingBack: false,
  wasPage: null,
  suggestions: [candidate(2, '/visit/', 'Visit', 0.8), candidate(3, '/press/', 'Press', 0.1)],
  settledBy: null,
  settledAt: null,
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(redirectsApi.one, old);
  server.answers(draftApi.decide, { version: 4, message: decision('redirect-gone', { from: row.from }), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
type Bench = VueWrapper<InstanceType<typeof RedirectBench>>;
const show = (of: RedirectRow | 'new' = row, role: 'owner' | 'reviewer' = 'owner') =>
  showScreen(RedirectBench, {
    role,
    props: { row: of === 'new' ? undefined : of, pages: PAGES, place: '3 of 108', tick: 0 },
    without: ['PagePicker', 'DraftProof'],
  }) as unknown as Bench;
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);
const changes = (bench: Bench) => bench.emitted('settled')?.map(([change]) => change);

describe('an old address', () => {
  it('settles on the best page by Enter, and shows so at once', async () => {
    const bench = show();
    await isShown(() => expect(readPageText()).toContain('Press'));
    await send();
    await isShown(() =>
      expect(decided()).toEqual([
        {
          kind: 'redirect',
          from: '/besuch.html',
          to: { status: 301, target: { kind: 'page', page: id(2) } },
          dropsQuery: false,
          ignoreCase: false,
          anySlash: false,
        },
      ]),
    );
    expect(bench.emitted('settling')).toEqual([['/besuch.html']]);
    await isShown(() =>
      expect(changes(bench)).toMatchObject([
        { from: '/besuch.html', origin: 'decided', status: 301, to: '/visit/', toPage: id(2), end: 'page' },
      ]),
    );
  });

  it('settles on another one by its number', async () => {
    const bench = show();
    await isShown(() => expect(readPageText()).toContain('Press'));
    bench.vm.choose(2);
    // There is no third.
    bench.vm.choose(3);
    await bench.vm.settle();
    expect(decided()[0]).toMatchObject({ to: { target: { kind: 'page', page: id(3) } } });
  });

  it('is gone, or at home, by a key', async () => {
    const bench = show();
    await bench.vm.settleGone();
    expect(decided()[0]).toMatchObject({ to: { status: 410 } });
    expect(changes(bench)?.[0]).toMatchObject({ end: 'gone', to: null, target: null });
    await bench.vm.settleHome();
    expect(decided()[1]).toMatchObject({ to: { status: 301, target: { kind: 'home' } } });
    expect(changes(bench)?.[1]).toMatchObject({ end: 'home', to: '/' });
  });

  it('is set apart, and is no longer', async () => {
    server.answers(redirectsApi.kind, { done: true } as never);
    const bench = show();
    await bench.vm.setApart();
    expect(server.sentTo(redirectsApi.kind)).toEqual([{ addresses: ['/besuch.html'], noise: true }]);
    expect(changes(bench)?.[0]).toMatchObject({ kind: 'noise' });
    document.body.innerHTML = '';
    show({ ...row, kind: 'noise', noise: null });
    await isShown(() => expect(readPageText()).toContain('Set apart by a person'));
    [...document.querySelectorAll('button')].find(({ textContent }) => /Take it back/.test(textContent))?.click();
    await isShown(() => expect(server.sentTo(redirectsApi.kind)).toHaveLength(2));
    expect(server.sentTo(redirectsApi.kind)[1]).toEqual({ addresses: ['/besuch.html'], noise: false });
  });

  it('says why it could not be settled, and nothing shows as settled', async () => {
    server.refuses(draftApi.decide, 'database-away');
    const bench = show();
    await isShown(() => expect(readPageText()).toContain('Press'));
    await bench.vm.settle();
    expect(useNotices().notice?.kind).toBe('problem');
    expect(changes(bench)).toBeUndefined();
  });

  it('that no page is like has nothing to settle on, and says so', async () => {
    server.answers(redirectsApi.one, { ...old, suggestions: [], none: 0.9 });
    show();
    await isShown(() => expect(readPageText()).toContain('No page is like it'));
    await send();
    expect(decided()).toEqual([]);
  });

  it('that was a page here can be put back', async () => {
    server.answers(redirectsApi.one, { ...old, wasPage: { of: 7, page: id(3), label: 'Press' } });
    show();
    await isShown(() => expect(readPageText()).toContain('This was “Press”, a page that is removed'));
    await press('Put it back');
    await isShown(() =>
      expect(decided()).toEqual([
        { kind: 'put-back', things: [{ of: 7, nodes: [id(3)] }], where: 'in-place', taken: 'stop' },
      ]),
    );
  });

  it('in a chain leads to its end at once, by a press', async () => {
    const chain = {
      kind: 'chain' as const,
      message: ruleFault('detour', { steps: 2, end: '/visit/', way: '/old/' }),
      final: '/visit/',
    };
    const bench = show({ ...row, origin: 'decided', status: 301, to: '/old/', problem: chain });
    await isShown(() => expect(findButton('Lead there at once')).toBeDefined());
    await press('Lead there at once');
    await isShown(() => expect(decided()).toEqual([{ kind: 'chains-flattened', addresses: ['/besuch.html'] }]));
    await isShown(() => expect(changes(bench)).toEqual([{ from: '/besuch.html', to: '/visit/', problem: null }]));
  });

  it('is written anew, one after another', async () => {
    const bench = show('new');
    await write('Old address', '/a.php?id=3');
    await bench.vm.settleGone();
    expect(decided()[0]).toMatchObject({ from: '/a.php?id=3', to: { status: 410 } });
    expect(document.querySelector('input')?.value).toBe('');
  });

  it('is only looked at by who changes nothing', async () => {
    show(row, 'reviewer');
    await isShown(() => expect(readPageText()).toContain('/besuch.html'));
    expect(readPageText()).not.toContain('Where it could land');
  });
});
