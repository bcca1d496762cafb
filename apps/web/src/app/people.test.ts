// @vitest-environment jsdom
/** People: who has access, inviting, another role, other sites, a lost password, and taking access away. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import { sitesApi } from '@fastigium/contracts/api/sites';
import { beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { useNotices } from '../stores/notices.ts';
import { FakeServer } from '../testing/fakeServer.ts';
import { findButton, readPageText, press } from '../testing/page.ts';
import { isShown, createOverview, showScreen, SITE } from '../testing/screen.ts';
import PeoplePage from './PeoplePage.vue';

const BRAN = '00000000-0000-4000-8000-000000000021';
const HEATH = '00000000-0000-4000-8000-000000000022';
const TOKEN = 'a-token-of-twenty-letters';

const people = (more: Partial<People['members'][number]> = {}): People => ({
  team: 'Moor Works',
  members: [
    {
      id: SITE,
      name: 'Ada Stone',
      initials: 'AS',
      email: 'ada@moor.example',
      role: 'owner',
      since: '2026-11-01T08:00:00.000Z',
      access: { sites: null, factors: 1, sessions: 1, lastSeen: null },
    },
    {
      id: BRAN,
      name: 'Bran Moor',
      initials: 'BM',
      email: 'bran@moor.example',
      role: 'editor',
      since: '2026-11-02T08:00:00.000Z',
      access: { sites: [HEATH], factors: 2, sessions: 3, lastSeen: '2026-11-28T08:00:00.000Z' },
      ...more,
    },
  ],
  invitations: [{ id: HEATH, role: 'reviewer', by: 'Ada Stone', until: '2026-12-06T08:00:00.000Z' }],
});

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  server.answers(peopleApi.list, people());
  server.answers(sitesApi.list, [createOverview(), { ...createOverview(), id: HEATH, name: 'Heath' }]);
});
const show = (role: 'owner' | 'editor' = 'owner') => showScreen(PeoplePage, { role, without: ['AppLintel'] });
const rows = () => [...document.querySelectorAll('.row')].map(({ textContent }) => textContent.replace(/\s+/g, ' '));
const said = () => useNotices().notice?.text;
async function openBran(): Promise<void> {
  await isShown(() => expect(rows().length).toBeGreaterThan(2));
  [...document.querySelectorAll<HTMLElement>('button.row')][1]?.click();
  await nextTick();
}

describe('the people of a team', () => {
  it('are listed with their roles and how much they see, and who is invited', async () => {
    show();
    await isShown(() => expect(rows()).toHaveLength(4));
    expect(readPageText()).toContain('Moor Works');
    expect(rows()[0]).toMatch(/Ada Stone.*ada@moor\.example.*1 Nov.*owner/i);
    expect(rows()[1]).toMatch(/Bran Moor.*editor.*1 site/i);
    expect(rows()[2]).toMatch(/reviewer.*Ada Stone.*6 Dec/i);
  });

  it('are changed by owners alone; others see their own role', async () => {
    show('editor');
    await isShown(() => expect(rows().length).toBeGreaterThan(2));
    expect(document.querySelectorAll('button.row')).toHaveLength(0);
    expect(readPageText()).toContain('Your access');
    expect(findButton('Take it back')).toBeUndefined();
  });

  it('are invited by a link that is shown once, in a role', async () => {
    show();
    await isShown(() => expect(findButton('Make a link')).toBeDefined());
    server.answers(peopleApi.invite, { token: TOKEN, until: '2026-12-06T08:00:00.000Z' });
    await press('Make a link');
    await isShown(() => expect(readPageText()).toContain(`/join/${TOKEN}`));
    expect(server.sentTo(peopleApi.invite)).toEqual([{ role: 'editor', days: 7, sites: null }]);
  });

  it('a client is invited to sites that are named, and to none by itself', async () => {
    show();
    await isShown(() => expect(findButton('Make a link')).toBeDefined());
    await press('client');
    expect(findButton('Make a link')?.disabled).toBe(true);
    await isShown(() => expect(document.querySelectorAll('.seen input[type=checkbox]')).toHaveLength(2));
    document.querySelectorAll<HTMLInputElement>('.seen input[type=checkbox]')[1]?.click();
    await isShown(() => expect(findButton('Make a link')?.disabled).toBe(false));
    server.answers(peopleApi.invite, { token: TOKEN, until: '2026-12-06T08:00:00.000Z' });
    await press('Make a link');
    await isShown(() => expect(server.sentTo(peopleApi.invite)).toEqual([{ role: 'client', days: 7, sites: [HEATH] }]));
  });

  it('an invitation is taken back', async () => {
    show();
    await isShown(() => expect(findButton('Take it back')).toBeDefined());
    server.answers(peopleApi.withdraw, { done: true });
    server.answers(peopleApi.list, { ...people(), invitations: [] });
    await press('Take it back');
    await isShown(() => expect(said()).toContain('invitation is taken back'));
    await isShown(() => expect(findButton('Take it back')).toBeUndefined());
  });

  it('somebody gets another role, and one that is theirs already is not asked for', async () => {
    show();
    await openBran();
    await press('editor');
    expect(server.sentTo(peopleApi.setRole)).toEqual([]);
    server.answers(peopleApi.setRole, { done: true });
    await press('reviewer');
    await isShown(() => expect(server.sentTo(peopleApi.setRole)).toEqual([{ role: 'reviewer' }]));
    await isShown(() => expect(said()).toBeDefined());
  });

  it('what is refused is said beside it', async () => {
    show();
    await openBran();
    server.refuses(peopleApi.setRole, 'last-owner');
    await press('reviewer');
    await isShown(() => expect(document.querySelector('aside p.wrong')?.textContent.trim()).not.toBe(''));
  });

  it('a link to set a new password is made, and access is taken away only when asked twice', async () => {
    show();
    await openBran();
    server.answers(peopleApi.resetPassword, { token: TOKEN, until: '2026-12-06T08:00:00.000Z' });
    await press('Make a link to set a new password');
    await isShown(() => expect(readPageText()).toContain(`/reset/${TOKEN}`));
    await press('Take access away');
    expect(server.asked.filter(({ endpoint }) => endpoint === peopleApi.remove)).toEqual([]);
    await press('No');
    await press('Take access away');
    server.answers(peopleApi.remove, { done: true });
    await press('Really, at once');
    await isShown(() => expect(said()).toContain('Bran Moor has no access any more'));
    // The bench is free to invite somebody else.
    await isShown(() => expect(findButton('Make a link')).toBeDefined());
  });
});
