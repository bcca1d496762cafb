// @vitest-environment jsdom
/** Pages: the tree and what else there is to work on, one beside the other. Pages are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi } from '@fastigium/contracts/api/pages';
import { picturesApi } from '@fastigium/contracts/api/pictures';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { chooseOption, readPageText, write } from '../../testing/page.ts';
import { createPageRow } from '../../testing/pageRow.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import PagesStation from './PagesStation.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const PAGES = [
  createPageRow(id(1), { isHome: true, address: '/', title: 'Welcome', label: 'Welcome' }),
  createPageRow(id(2), { address: '/visit/', title: 'Visit', label: 'Visit' }),
  createPageRow(id(3), { address: '/visit/groups/', title: 'Groups', label: 'Groups', parent: id(2), depth: 1 }),
];

let server: FakeServer;
beforeEach(() => {
  giveRoom();
  server = new FakeServer();
  answerSite(server);
  server.answers(draftApi.pages, { version: 3, style: 'slash', pages: PAGES, removed: [] });
  server.answers(picturesApi.list, { draft: {}, live: {} });
  server.answers(pagesApi.menus, { version: 3, menus: [], apart: [] });
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});
const show = (overview: Parameters<typeof showScreen>[1] = {}) =>
  showScreen(PagesStation, { ...overview, without: ['PageBench', 'NodeBench', 'MenuItemBench'] });
const listed = () =>
  [...document.querySelectorAll('[role="treeitem"], [role="option"]')].map((each) =>
    each.textContent.replace(/\s+/g, ' ').trim(),
  );

describe('the pages of a site', () => {
  it('stand as a tree at first', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/visit/'));
    expect(listed()[0]).toContain('Welcome');
  });

  it('are searched by titles and addresses, wherever they stand in the tree', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/visit/'));
    await write('Search pages', 'groups');
    await isShown(() => expect(listed().join()).not.toContain('Welcome'));
    expect(listed().join()).toContain('Groups');
  });

  it('make room for the menus, and come back as they were', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/visit/'));
    await chooseOption('Menus');
    await isShown(() => expect(readPageText()).toContain('No menu was found'));
    await chooseOption('In place');
    await isShown(() => expect(listed().join()).toContain('/visit/'));
  });

  it.each([
    [null, false],
    [{ number: 4, at: '2026-11-29T10:00:00.000Z' }, true],
  ])('offer what is in releases only where something is live (%#)', async (live, isOffered) => {
    show({ overview: { live } as never });
    await isShown(() => expect(listed().join()).toContain('/visit/'));
    expect(readPageText().includes('In releases')).toBe(isOffered);
  });

  it('say how many are removed', async () => {
    show({ overview: { removals: { all: 5, pages: 3, sweptSoon: 0, firstSweep: null } } });
    await isShown(() => expect(readPageText()).toContain('Removed, 5'));
  });
});
