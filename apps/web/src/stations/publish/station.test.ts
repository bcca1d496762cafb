// @vitest-environment jsdom
/** What visitors will notice, read before a release goes out, and two releases held side by side. Changes are invented. */
import { releasesApi, type Change } from '@fastigium/contracts/api/releases';
import { decision } from '@fastigium/contracts/messages/decision';
import { change as changeMessage } from '@fastigium/core/report';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useSite } from '../../stores/site.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { chooseOption, readPageText } from '../../testing/page.ts';
import { createRelease } from '../../testing/rows.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import PublishStation from './PublishStation.vue';

const person = (last: number, name: string) => ({ id: SITE.slice(0, -1) + last, name, initials: name.slice(0, 2) });
const [ada, ben] = [person(1, 'Ada Stone'), person(2, 'Ben Hale')];
const change = (key: string, group: Change['group'], subject: string): Change => ({
  key,
  group,
  what: 'changed',
  subject,
  message: changeMessage('as-written', { text: `something about ${subject}` }),
});
const CHANGES = [
  change('page:/visit/', 'pages', '/visit/'),
  change('page:/press/', 'pages', '/press/'),
  change('rule:/old', 'redirects', '/old'),
];
const cause = (seq: number, by: typeof ada, ...changes: string[]) => ({
  seq,
  message: decision('last-day-removed'),
  by,
  at: '2026-11-29T10:00:00.000Z',
  canLeaveOut: true,
  changes,
});
let server: FakeServer;
beforeEach(() => {
  giveRoom();
  server = new FakeServer();
  answerSite(server, { live: { number: 4, at: '2026-11-29T10:00:00.000Z' } as never });
  server.answers(releasesApi.list, []);
  server.answers(releasesApi.causes, {
    version: 3,
    cut: false,
    causes: [cause(1, ada, 'page:/visit/', 'rule:/old'), cause(2, ben, 'page:/press/')],
  });
  server.answers(releasesApi.compare, { changes: [CHANGES[0] ?? ({} as never)] });
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});

function show(changes: readonly Change[] | undefined, sinceRelease: number | null = 4) {
  const station = showScreen(PublishStation, { without: ['ReleaseBench', 'ChangeEvidence'] });
  if (changes)
    useSite().changes = {
      version: 3,
      sinceRelease,
      changes: [...changes],
      sending: null,
      hostProblem: null,
      whole: { files: 9, bytes: 90 },
    };
  return station;
}
const rows = () =>
  [...document.querySelectorAll('[role="listbox"] > *, [role="option"], [role="presentation"]')]
    .map((each) => each.textContent.replace(/\s+/g, ' ').trim())
    .join(' | ');

describe('what visitors will notice', () => {
  it.each([
    [undefined, 4, 'Reckoning what visitors will notice …'],
    [CHANGES, null, 'What visitors will notice: the site itself, for the first time'],
    [[], 4, 'Live and draft are the same: release 4'],
    [CHANGES.slice(0, 1), 4, 'What visitors will notice: 1 change since release 4'],
    [CHANGES, 4, 'What visitors will notice: 3 changes since release 4'],
  ] as const)('%#: is said in one line', async (changes, since, words) => {
    show(changes, since);
    await isShown(() => expect(document.querySelector('h1')?.textContent.trim()).toBe(words));
  });

  it('says where changes come from while there are none', async () => {
    show([]);
    await isShown(() => expect(readPageText()).toContain('Change something in Pages or Redirects'));
  });

  it('is listed by kind, and by those who made it', async () => {
    show(CHANGES);
    await isShown(() => expect(rows()).toContain('/press/'));
    await isShown(() => expect(readPageText()).toContain('By person'));
    const text = () => readPageText();
    expect(text().indexOf('/visit/')).toBeLessThan(text().indexOf('/press/'));
    await chooseOption('By person');
    await isShown(() => expect(text()).toContain('Ben Hale'));
    // Ada's two stand together, before Ben's.
    expect(text().indexOf('/old')).toBeLessThan(text().indexOf('/press/'));
  });

  it.each([
    ['a release before the live one', 2, 'before=2&after=4'],
    ['the live one, with what was live before it', 4, 'before=3&after=4'],
  ])('is held against %s', async (_, number, query) => {
    server.answers(releasesApi.list, [createRelease(4, { state: 'live' }), createRelease(3), createRelease(2)]);
    const station = show(CHANGES);
    const bench = station.findComponent({ name: 'ReleaseBench' });
    await isShown(() => expect(bench.props('releases')).toHaveLength(3));
    await isShown(() => expect(readPageText()).toContain('/press/'));
    useSite().overview = { ...useSite().overview, live: { number: 4 } } as never;
    bench.vm.$emit('compare', number);
    await isShown(() =>
      expect(server.asked.find(({ endpoint }) => endpoint === releasesApi.compare)?.search).toBe(`?${query}`),
    );
    await isShown(() => expect(rows()).not.toContain('/press/'));
  });

  it('goes back to the draft where two releases cannot be held side by side', async () => {
    server.refuses(releasesApi.compare, 'not-found', { what: 'release' });
    const station = show(CHANGES);
    await isShown(() => expect(readPageText()).toContain('/press/'));
    station.findComponent({ name: 'ReleaseBench' }).vm.$emit('compare', 2);
    await isShown(() => expect(server.asked.some(({ endpoint }) => endpoint === releasesApi.compare)).toBe(true));
    await isShown(() => expect(readPageText()).toContain('since release 4'));
  });
});
