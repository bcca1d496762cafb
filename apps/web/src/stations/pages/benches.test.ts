// @vitest-environment jsdom
/** What a page becomes: the home page, or a listing of the dated pages below it. Pages are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi, type HomePreview } from '@fastigium/contracts/api/pages';
import { decision } from '@fastigium/contracts/messages/decision';
import { menu } from '@fastigium/contracts/messages/names';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { createPageRow } from '../../testing/pageRow.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import HomeChoice from './HomeChoice.vue';
import ListingPanel from './ListingPanel.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const named = (last: number, label: string) => ({ id: id(last), label, address: `/${label.toLowerCase()}/` });
const preview: HomePreview = {
  version: 3,
  page: named(2, 'Welcome'),
  former: { ...named(3, 'Start'), canChoose: true },
  leading: [
    { kind: 'menu', label: 'Home', menu: menu('main'), pages: 9, on: [] },
    {
      kind: 'logo',
      label: '',
      menu: null,
      pages: 5,
      on: [named(4, 'One'), named(5, 'Two'), named(6, 'Three'), named(7, 'Four')],
    },
  ],
  linkingPages: 40,
  readPages: 12,
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(pagesApi.previewHome, preview);
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);

describe('a page that becomes home', () => {
  const show = async () => {
    const choice = showScreen(HomeChoice, { props: { page: createPageRow(id(2)) } });
    await isShown(() => expect(readPageText()).toContain('“Welcome” as home page'));
    return choice;
  };

  it('says what leads to the front, a few pages of many, and how much of it was read', async () => {
    await show();
    expect(readPageText()).toContain('“Home” in');
    expect(readPageText()).toContain('on 9 pages');
    expect(readPageText()).toContain('on 5 pages: One, Two, Three …');
    expect(readPageText()).toContain('Read in 12 of 40 pages that lead there; all of them will.');
  });

  it('gives the one that was home the address that is proposed, or another', async () => {
    const choice = await show();
    expect(findField('Its new address').value).toBe('/start/');
    await write('Its new address', '/begin/');
    await isShown(() => expect(server.sentTo(pagesApi.previewHome)).toHaveLength(2));
    expect(server.sentTo(pagesApi.previewHome)[1]).toEqual({ formerAddress: '/begin/' });
    await send();
    await isShown(() => expect(decided()).toEqual([{ kind: 'home', page: id(2), formerAddress: '/begin/' }]));
    await isShown(() => expect(choice.emitted('chosen')).toHaveLength(1));
  });

  it('is not made so while its former’s address is somebody else’s, which is said', async () => {
    await show();
    server.refuses(pagesApi.previewHome, 'address-taken', { address: '/visit/', title: 'Visit' });
    await write('Its new address', '/visit/');
    await isShown(() => expect(document.querySelector('p.wrong')?.textContent).toContain('/visit/'));
    await send();
    expect(decided()).toEqual([]);
  });

  it('asks for no address where none can be chosen', async () => {
    server.answers(pagesApi.previewHome, { ...preview, former: { ...named(3, 'Start'), canChoose: false } });
    await show();
    expect(document.querySelector('input')).toBeNull();
    await send();
    await isShown(() => expect(decided()).toEqual([{ kind: 'home', page: id(2) }]));
  });

  it('that nothing leads to says so, and one that cannot be home why', async () => {
    server.answers(pagesApi.previewHome, { ...preview, former: null, leading: [], linkingPages: 0, readPages: 0 });
    await show();
    expect(readPageText()).toContain('No page leads to the front');
    server.refuses(pagesApi.previewHome, 'not-found', { what: 'page' });
    const choice = showScreen(HomeChoice, { props: { page: createPageRow(id(2)) } });
    await isShown(() => expect(document.querySelector('[role=alert]')).not.toBeNull());
    await press('Back to the page');
    expect(choice.emitted('leave')).toHaveLength(1);
  });
});

describe('a listing', () => {
  const journal = createPageRow(id(2), { depth: 0 });
  const pages = [
    journal,
    createPageRow(id(3), { depth: 1, date: '2026-11-01' }),
    createPageRow(id(4), { depth: 2, date: '2026-11-02' }),
    createPageRow(id(5), { depth: 1 }),
    createPageRow(id(6), { depth: 0, date: '2026-11-03' }),
  ];
  const show = (page = journal, role: 'owner' | 'reviewer' = 'owner') =>
    showScreen(ListingPanel, { role, props: { page, pages } });

  it('is offered where there are dated pages below, at whatever level', async () => {
    show();
    expect(readPageText()).toContain('2 dated pages below it');
    await press('List them here');
    await isShown(() => expect(findField('Entries to a page').value).toBe('10'));
    await write('Entries to a page', '0');
    expect(findButton('List them')?.disabled).toBe(true);
    await write('Entries to a page', '25');
    await send();
    await isShown(() => expect(decided()).toEqual([{ kind: 'listing', page: id(2), perPage: 25 }]));
    await isShown(() => expect(document.querySelector('form')).toBeNull());
  });

  it('is not offered where there is nothing to list, nor to who only looks on', () => {
    show(pages[4]);
    expect(readPageText()).not.toContain('dated page');
    show(journal, 'reviewer');
    expect(readPageText()).not.toContain('dated page');
  });

  it('says that no menu leads to it, and is none any more by a press', async () => {
    show({ ...journal, lists: 2 });
    expect(readPageText()).toContain('Lists 2 entries');
    expect(readPageText()).toContain('No menu leads to it.');
    await press('No listing any more');
    await isShown(() => expect(decided()).toEqual([{ kind: 'listing-removed', page: id(2) }]));
  });
});
