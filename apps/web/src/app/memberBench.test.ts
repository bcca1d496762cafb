// @vitest-environment jsdom
/** One person of a team, as an owner sees to them. People and sites are invented. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import type { SiteSummary } from '@fastigium/contracts/api/sites';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../stores/notices.ts';
import { FakeServer } from '../testing/fakeServer.ts';
import { chooseOption, findButton, press, readPageText } from '../testing/page.ts';
import { createOverview, isShown, showScreen, SITE } from '../testing/screen.ts';
import MemberBench from './MemberBench.vue';

type Member = People['members'][number];
const OTHER = '00000000-0000-4000-8000-000000000002';
const moor: SiteSummary = { ...createOverview(), answersAt: 'www.moor.example' };
const heath: SiteSummary = { ...createOverview(), id: OTHER, name: 'Heath', answersAt: null };
const ben = (more: Partial<Member> = {}): Member => ({
  id: SITE,
  name: 'Ben Hale',
  initials: 'BH',
  email: 'ben@moor.example',
  role: 'editor',
  since: '2026-11-01T08:00:00.000Z',
  access: { sites: null, factors: 2, sessions: 1, lastSeen: '2026-11-29T08:00:00.000Z' },
  ...more,
});

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  for (const endpoint of [peopleApi.setRole, peopleApi.setSites, peopleApi.remove, peopleApi.endSessions] as const)
    server.answers(endpoint, { done: true });
  server.answers(peopleApi.removeFactors, { done: true });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = (member = ben(), isSelf = false, sites: readonly SiteSummary[] = [moor, heath]) =>
  showScreen(MemberBench, { props: { member, sites, isSelf } });
const said = () => useNotices().notice?.text;
const asked = (endpoint: (typeof peopleApi)[keyof typeof peopleApi]) =>
  server.asked.filter((each) => each.endpoint === endpoint);

describe('somebody of the team', () => {
  it('is shown with how they sign in, and where they are signed in', () => {
    show();
    expect(readPageText()).toContain('2 second factors; 1 session, seen');
    expect(readPageText()).toContain('changes and publishes sites');
  });

  it('has nothing to end where there is nothing', () => {
    show(ben({ access: { sites: null, factors: 0, sessions: 0, lastSeen: null } }));
    expect(readPageText()).toContain('No second factor; signed in nowhere.');
    expect(findButton('Sign out everywhere')).toBeUndefined();
    expect(findButton('Remove second factors that are lost')).toBeUndefined();
  });

  it('gets another role at once, and the same one not again', async () => {
    const bench = show();
    await chooseOption('editor');
    await chooseOption('reviewer');
    await isShown(() => expect(bench.emitted('changed')).toHaveLength(1));
    expect(server.sentTo(peopleApi.setRole)).toEqual([{ role: 'reviewer' }]);
    expect(said()).toBe('The role holds from now on');
  });

  it('sees all sites or only some, and one less when its mark is taken away', async () => {
    const bench = show();
    await chooseOption('Only these');
    await isShown(() => expect(server.sentTo(peopleApi.setSites)).toEqual([{ sites: [SITE, OTHER] }]));
    await bench.setProps({
      member: ben({ access: { sites: [SITE, OTHER], factors: 0, sessions: 0, lastSeen: null } }),
    });
    document.querySelector<HTMLInputElement>('input[type="checkbox"]')?.click();
    await isShown(() => expect(server.sentTo(peopleApi.setSites).at(-1)).toEqual({ sites: [OTHER] }));
  });

  it('as an owner sees every site, so there is nothing to choose', () => {
    show(ben({ role: 'owner' }));
    expect(readPageText()).not.toContain('Only these');
  });

  it('gets a link for a new password, which is shown', async () => {
    server.answers(peopleApi.resetPassword, {
      token: 'token-of-thirty-letters-long',
      until: '2026-12-02T08:00:00.000Z',
    });
    show();
    await press('Make a link to set a new password');
    await isShown(() =>
      expect(document.body.innerHTML).toContain(`${location.origin}/reset/token-of-thirty-letters-long`),
    );
  });

  it.each([
    ['Remove second factors that are lost', 'Really; the password alone is enough then', peopleApi.removeFactors],
    ['Take access away', 'Really, at once', peopleApi.remove],
  ])('%s: asks once more, and does nothing on a no', async (what, really, endpoint) => {
    const bench = show();
    await press(what);
    await press('No');
    expect(findButton(really)).toBeUndefined();
    await press(what);
    expect(asked(endpoint)).toEqual([]);
    await press(really);
    await isShown(() => expect(asked(endpoint).map(({ params }) => params)).toEqual([{ person: SITE }]));
    await isShown(() => expect(bench.emitted('changed')).toHaveLength(1));
  });

  it('is let go by nobody but another owner', () => {
    show(ben(), true);
    expect(findButton('Take access away')).toBeUndefined();
  });

  it('keeps their access where it cannot be taken, and says why', async () => {
    server.refuses(peopleApi.remove, 'last-owner');
    const bench = show();
    await press('Take access away');
    await press('Really, at once');
    await isShown(() => expect(document.querySelector('p[role="alert"]')).not.toBeNull());
    expect(bench.emitted('close')).toBeUndefined();
  });
});
