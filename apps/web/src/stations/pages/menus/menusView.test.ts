// @vitest-environment jsdom
/** The site's menus, edited as somebody does it once for all pages. Menus and pages are invented. */
import { draftApi, type RemovedRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type MenuRow } from '@fastigium/contracts/api/pages';
import { decision } from '@fastigium/contracts/messages/decision';
import { menu } from '@fastigium/contracts/messages/names';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../../testing/fakeServer.ts';
import { findButton, press, readPageText, send, write } from '../../../testing/page.ts';
import { createPageRow } from '../../../testing/pageRow.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../../testing/screen.ts';
import MenusView from './MenusView.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const PAGES = [
  createPageRow(id(1), { isHome: true, address: '/', title: 'Welcome', label: 'Welcome' }),
  createPageRow(id(2), { address: '/visit/', label: 'Visit' }),
  createPageRow(id(3), { address: '/press/', label: 'Press', isReady: false }),
];
const item = (label: string, target: MenuRow['items'][number]['target'], more: object = {}) => ({
  label,
  target,
  newWindow: false,
  children: [],
  ...more,
});
const home = item('Start', { kind: 'home' });
const visit = item('Visit us', { kind: 'page', page: id(2) });
const press2 = item('Press room', { kind: 'page', page: id(3) });
const main: MenuRow = {
  id: 'm1',
  name: menu('main'),
  way: 'body>nav',
  isPointed: false,
  items: [home, item('About', { kind: 'none' }, { children: [visit] }), press2],
  isEdited: false,
  whereItDiffers: false,
  pages: 9,
  differing: [{ id: id(2), title: 'Visit', address: '/visit/', missing: ['Press room'], extra: [] }],
};

let server: FakeServer;
let menus: MenuRow[];
beforeEach(() => {
  giveRoom();
  menus = [main];
  server = new FakeServer();
  answerSite(server);
  server.answers(pagesApi.menus, () => ({ version: 3, menus, apart: [] }));
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});

const show = (role: 'owner' | 'reviewer' = 'owner', removed: readonly RemovedRow[] = []) =>
  showScreen(MenusView, { role, props: { pages: PAGES, removed }, without: ['PagePicker'] });
const options = () => [...document.querySelectorAll<HTMLElement>('[role="option"], [role="treeitem"]')];
const listed = () => options().map((each) => each.textContent.replace(/\s+/g, ' ').trim());
async function choose(label: string): Promise<void> {
  await isShown(() => expect(listed().join()).toContain(label));
  options()
    .find((each) => each.textContent.includes(label))
    ?.click();
}
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);
const labels = (items: readonly { label: string; children: readonly { label: string }[] }[]) =>
  items.map(({ label, children }) => [label, ...children.map((child) => child.label)].join(' > '));

describe('the menus of a site', () => {
  it('says of each item where it leads, and of what is left out why', async () => {
    show();
    await isShown(() => expect(listed()).toHaveLength(5));
    expect(listed()[0]).toMatch(/on 9 pages/i);
    expect(listed()[1]).toContain('Start');
    expect(listed()[3]).toMatch(/Visit us.*\/visit\//);
    expect(listed()[4]).toMatch(/Press room.*\/press\/.*not ready/i);
    expect(readPageText()).toMatch(/differs on 1/i);
    expect(readPageText()).toContain('lacks “Press room”');
  });

  it('calls an item otherwise, and leaves the others as they are', async () => {
    show();
    await choose('Visit us');
    await isShown(() => expect(findButton('SetEnter')?.disabled).toBe(true));
    await write('Words in the menu', 'Plan a visit');
    await send();
    await isShown(() => expect(decided()).toHaveLength(1));
    const [sent] = decided();
    expect(sent).toMatchObject({ kind: 'menu', menu: 'm1', whereItDiffers: false });
    expect(labels((sent as unknown as { items: MenuRow['items'] }).items)).toEqual([
      'Start',
      'About > Plan a visit',
      'Press room',
    ]);
  });

  it.each([
    ['UpAlt ↑', 'Press room', ['Start', 'Press room', 'About > Visit us']],
    ['DownAlt ↓', 'Start', ['About > Visit us', 'Start', 'Press room']],
    ['NestAlt →', 'Press room', ['Start', 'About > Visit us > Press room']],
    ['LiftAlt ←', 'Visit us', ['Start', 'About', 'Visit us', 'Press room']],
  ])('moves an item by “%s”', async (button, label, expected) => {
    show();
    await choose(label);
    await isShown(() => expect(findButton(button)?.disabled).toBe(false));
    await press(button);
    await isShown(() => expect(decided()).toHaveLength(1));
    expect(labels((decided()[0] as unknown as { items: MenuRow['items'] }).items)).toEqual(expected);
  });

  it('takes an item out by its place, so that it can be put back', async () => {
    show();
    await choose('Visit us');
    await press('RemoveDel');
    await isShown(() =>
      expect(decided()).toMatchObject([
        { kind: 'remove', thing: { kind: 'menu-item', menu: 'm1', path: [1, 0] }, standIn: { kind: 'none' } },
      ]),
    );
  });

  it('adds a head that leads nowhere at the end of a menu', async () => {
    show();
    await isShown(() => expect(findButton('Add a head without a link')).toBeDefined());
    await press('Add a head without a link');
    await isShown(() => expect(decided()).toHaveLength(1));
    const { items } = decided()[0] as unknown as { items: MenuRow['items'] };
    expect(labels(items).slice(0, 3)).toEqual(['Start', 'About > Visit us', 'Press room']);
    expect(items[3]).toMatchObject({ target: { kind: 'none' }, children: [] });
  });

  it('shows what was removed where somebody asks for it, and puts it back', async () => {
    menus = [{ ...main, items: [home, { ...visit, removed: 7 }] }];
    show();
    await isShown(() => expect(listed().join()).toContain('Visit us'));
    await press('Put back');
    await isShown(() =>
      expect(decided()).toEqual([{ kind: 'put-back', things: [{ of: 7 }], where: 'in-place', taken: 'stop' }]),
    );
  });

  it('finds an item by its letters, and says where none holds them', async () => {
    show();
    await isShown(() => expect(listed()).toHaveLength(5));
    await write('Search menus', 'press');
    await isShown(() => expect(listed()).toHaveLength(1));
    await write('Search menus', 'zzz');
    await isShown(() => expect(readPageText()).toContain('No menu holds these letters.'));
  });

  it('says so where no menu was found', async () => {
    menus = [];
    show();
    await isShown(() => expect(readPageText()).toContain('No menu was found'));
  });

  it('is read by who only looks on, and changed by nobody of them', async () => {
    show('reviewer');
    await choose('Visit us');
    await isShown(() => expect(readPageText()).toMatch(/in .* on 9 pages/i));
    expect(findButton('RemoveDel')).toBeUndefined();
    expect(findButton('SetEnter')).toBeUndefined();
  });
});
