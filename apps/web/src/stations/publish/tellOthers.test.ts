// @vitest-environment jsdom
/** Those who are told: what arrived, adding one with its secret shown once, and messages that somebody wrote. */
import { HOOK_EVENTS, tellingApi, type Delivery, type Hook } from '@fastigium/contracts/api/telling';
import { beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import { chooseDeliveryMark, sayDelivery } from './tellingWords.ts';
import TellOthers from './TellOthers.vue';

const NOW = new Date('2026-11-29T12:00:00');
const delivery = (more: Partial<Delivery> = {}): Delivery => ({
  id: SITE,
  event: 'release-live',
  at: '2026-11-29T08:00:00.000Z',
  state: 'arrived',
  attempts: 1,
  nextAt: null,
  status: 200,
  problem: null,
  ...more,
});
const hook = (more: Partial<Hook> = {}): Hook => ({
  id: SITE,
  kind: 'webhook',
  url: 'https://told.example/hook',
  events: [...HOOK_EVENTS],
  by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
  deliveries: [],
  ...more,
});

let server: FakeServer;
const has = (
  hooks: Hook[],
  offered: { index: string | null; account: { url: string } | null } | undefined = undefined,
) => server.answers(tellingApi.hooks, { hooks, offered: offered ?? { index: null, account: null } });
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
});

describe('what became of a telling', () => {
  it.each([
    [delivery(), 'verdigris', /^a release is live.*arrived/],
    [delivery({ attempts: 3 }), 'verdigris', /3/],
    [delivery({ state: 'waiting', attempts: 0 }), 'ochre', /on its way/],
    [delivery({ state: 'waiting', attempts: 2, problem: 'answers 503' }), 'ochre', /answers 503.*soon/],
    [delivery({ state: 'given-up', attempts: 8, problem: 'answers 503' }), 'madder', /given up.*8.*answers 503/],
  ])('%# is said and marked', (of, mark, words) => {
    expect(chooseDeliveryMark(of)).toBe(mark);
    expect(sayDelivery(of, NOW)).toMatch(words);
  });

  it('nothing was told yet: its mark is dashed', () => expect(chooseDeliveryMark(undefined)).toBe('dashed'));
});

describe('telling others', () => {
  it('lists who is told of what, and removes one', async () => {
    has([hook({ events: ['away', 'back'], deliveries: [delivery({ event: 'away' })] })]);
    showScreen(TellOthers);
    await isShown(() => expect(readPageText()).toContain('https://told.example/hook'));
    expect(readPageText()).toContain('the site is away, the site is back');
    server.answers(tellingApi.remove, { done: true });
    has([]);
    await press('Remove https://told.example/hook');
    await isShown(() => expect(readPageText()).toContain('A program can be told when a release is live'));
  });

  it('adds a program, and shows its secret this once', async () => {
    has([]);
    showScreen(TellOthers);
    await isShown(() => expect(findButton('Add somebody …')).toBeDefined());
    await press('Add somebody …');
    expect(findButton('Add')?.disabled).toBe(true);
    await write('Address that is told (webhook)', ' https://told.example/hook ');
    for (const box of [...document.querySelectorAll<HTMLInputElement>('fieldset input')].slice(1)) {
      box.click();
      await nextTick();
    }
    server.answers(tellingApi.add, { hook: hook({ events: ['release-live'] }), secret: 'shown once' });
    has([hook({ events: ['release-live'] })]);
    await send();
    await isShown(() => expect(readPageText()).toContain('shown once'));
    expect(server.sentTo(tellingApi.add)).toEqual([
      { kind: 'webhook', url: 'https://told.example/hook', events: ['release-live'] },
    ]);
    await press('I have it');
    expect(readPageText()).not.toContain('shown once');
  });

  it('wants the token of an account, but not of the one that is simulated', async () => {
    has([], { index: null, account: { url: 'http://127.0.0.1:1/post' } });
    showScreen(TellOthers);
    await isShown(() => expect(findButton('Add somebody …')).toBeDefined());
    await press('Add somebody …');
    await press('An account');
    await write('Address it takes posts at (Micropub)', 'https://posts.example/');
    expect(findButton('Add')?.disabled).toBe(true);
    await write('Its token', 'secret');
    expect(findButton('Add')?.disabled).toBe(false);
    await press('Take the simulated one');
    expect(readPageText()).not.toContain('Its token');
    server.answers(tellingApi.add, { hook: hook({ kind: 'account' }), secret: null });
    await send();
    await isShown(() =>
      expect(server.sentTo(tellingApi.add)).toEqual([{ kind: 'account', url: 'http://127.0.0.1:1/post' }]),
    );
  });

  it('is not there for whoever only looks, and only owners add', async () => {
    has([]);
    showScreen(TellOthers, { role: 'reviewer' });
    expect(readPageText()).not.toContain('Tell others');
    expect(server.asked).toEqual([]);
    showScreen(TellOthers, { role: 'editor' });
    await isShown(() => expect(readPageText()).toContain('Tell others'));
    expect(findButton('Add somebody …')).toBeUndefined();
  });
});
