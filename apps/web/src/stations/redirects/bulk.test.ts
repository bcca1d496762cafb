// @vitest-environment jsdom
/** Many old addresses settled in one step, each of them in sight before. Addresses are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { decision } from '@fastigium/contracts/messages/decision';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press } from '../../testing/page.ts';
import { createRedirectRow } from '../../testing/rows.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import BulkBench from './BulkBench.vue';

const suggested = (from: string, probability: number) =>
  createRedirectRow(from, { suggestion: { page: SITE, address: '/visit/', title: 'Visit', probability } });
const rows = [
  suggested('/news/sure.html', 0.98),
  suggested('/news/less-sure.html', 0.92),
  suggested('/shop/perhaps.php', 0.6),
  createRedirectRow('/shop/nothing.php'),
  createRedirectRow('/bot.php', { kind: 'noise' }),
  createRedirectRow('/done.html', { origin: 'decided', status: 301, to: '/visit/' }),
];

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = (home: string | undefined = SITE) => showScreen(BulkBench, { props: { rows, home } });
const listed = () =>
  [...document.querySelectorAll<HTMLInputElement>('input[type=checkbox]')].map((each) =>
    each.getAttribute('aria-label'),
  );
const choose = async (name: string) => {
  const radio = [...document.querySelectorAll<HTMLElement>('[role=radio]')].find(
    ({ textContent }) => textContent.trim() === name,
  );
  if (!radio) throw new Error(`there is no ${name}`);
  radio.click();
  await nextTick();
};
const submit = () => document.querySelector('form')?.dispatchEvent(new Event('submit', { cancelable: true }));
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);

describe('many at once', () => {
  it('are those with a suggestion that is sure, and are settled on it in one step', async () => {
    const bench = show();
    expect(listed()).toEqual(['/news/sure.html', '/news/less-sure.html']);
    submit();
    const to = { status: 301, target: { kind: 'page', page: SITE } };
    await isShown(() =>
      expect(decided()).toEqual([
        {
          kind: 'redirects',
          settle: [
            { from: '/news/sure.html', to },
            { from: '/news/less-sure.html', to },
          ],
          remove: [],
        },
      ]),
    );
    await isShown(() => expect(bench.emitted('leave')).toHaveLength(1));
  });

  it('are more where less is asked for, and fewer where more is', async () => {
    show();
    await choose('0.50');
    expect(listed()).toHaveLength(3);
    await choose('0.97');
    expect(listed()).toEqual(['/news/sure.html']);
  });

  it('leave out what is taken off the list', async () => {
    show();
    document.querySelector<HTMLInputElement>('input[aria-label="/news/sure.html"]')?.click();
    await isShown(() => expect(findButton('Settle 1 address')).toBeDefined());
    submit();
    await isShown(() => expect(decided()[0]).toMatchObject({ settle: [{ from: '/news/less-sure.html' }] }));
  });

  it('are of one folder, where one is chosen', async () => {
    show();
    await choose('Gone (410)');
    expect(listed()).toHaveLength(4);
    const select = document.querySelector('select');
    if (!select) throw new Error('there is no choice of folders');
    expect([...select.options].map(({ value }) => value)).toEqual(['', '/news/', '/shop/']);
    select.value = '/shop/';
    select.dispatchEvent(new Event('change'));
    await isShown(() => expect(listed()).toEqual(['/shop/perhaps.php', '/shop/nothing.php']));
    submit();
    await isShown(() =>
      expect(decided()[0]).toMatchObject({
        settle: [
          { from: '/shop/perhaps.php', to: { status: 410 } },
          { from: '/shop/nothing.php', to: { status: 410 } },
        ],
      }),
    );
  });

  it('lead home only where there is one', async () => {
    showScreen(BulkBench, { props: { rows, home: undefined } });
    await choose('Home page');
    expect(findButton('Settle 4 addresses')?.disabled).toBe(true);
  });

  it('that are settled can be removed, and are kept for putting back', async () => {
    show();
    await choose('Remove what is settled');
    expect(listed()).toEqual(['/done.html']);
    await press('Remove 1 redirect');
    submit();
    await isShown(() =>
      expect(decided()[0]).toMatchObject({ kind: 'remove', thing: { kind: 'redirects', froms: ['/done.html'] } }),
    );
  });

  it('stay on the list where they could not be settled', async () => {
    server.refuses(draftApi.decide, 'database-away');
    const bench = show();
    submit();
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect(bench.emitted('leave')).toBeUndefined();
    expect(readPageText()).toContain('/news/sure.html');
  });
});
