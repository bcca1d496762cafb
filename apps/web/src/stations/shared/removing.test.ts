// @vitest-environment jsdom
/** Before something is removed: what visitors would notice, and where its address leads from then on. Pages are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi } from '@fastigium/contracts/api/pages';
import { removalsApi, type RemovePreview } from '@fastigium/contracts/api/removals';
import type { RemoveRequest } from '@fastigium/contracts/decisions/removals';
import { decision } from '@fastigium/contracts/messages/decision';
import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { createPageRow } from '../../testing/pageRow.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import RemovePanel from './RemovePanel.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const PAGES = [
  createPageRow(id(2)),
  createPageRow(id(3), { parent: id(2), depth: 1 }),
  createPageRow(id(4), { parent: id(3), depth: 2 }),
];
const node = { kind: 'node', node: id(2), alone: false } as const;
const quiet: RemovePreview = {
  label: 'Old news',
  goes: [{ label: 'Old news', address: '/news/' }],
  goesInAll: 1,
  linkedFrom: [],
  linkedFromInAll: 0,
  menus: [],
  redirects: [],
  redirectsInAll: 0,
  visits: null,
  roles: [],
  parent: null,
  hasAddress: true,
  inside: null,
};
const named = (label: string, last: number) => ({ id: id(last), label, address: `/${label}/` });

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(removalsApi.previewRemove, quiet);
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
  server.refuses(pagesApi.addAsset, 'internal');
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = async (
  preview: Partial<RemovePreview> = {},
  thing: RemoveRequest['thing'] = node,
): Promise<VueWrapper> => {
  server.answers(removalsApi.previewRemove, { ...quiet, ...preview });
  const panel = showScreen(RemovePanel, { props: { thing, pages: PAGES }, without: ['PagePicker'] });
  await isShown(() => expect(readPageText()).toContain('Remove “Old news”'));
  return panel;
};
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);
const choose = async (name: string) => {
  const radio = [...document.querySelectorAll<HTMLElement>('[role=radio]')].find(
    ({ textContent }) => textContent.trim() === name,
  );
  if (!radio) throw new Error(`there is no ${name}`);
  radio.click();
  await Promise.resolve();
};

describe('removing', () => {
  it('says that nothing else leads there, where nothing does', async () => {
    await show();
    expect(readPageText()).toContain('Nothing else leads here');
  });

  it('names what leads there, a few of many, and what it costs', async () => {
    await show({
      linkedFrom: ['One', 'Two', 'Three', 'Four', 'Five'].map((label, at) => named(label, at)),
      linkedFromInAll: 5,
      redirects: ['/old-news.html'],
      redirectsInAll: 1,
      visits: 120,
      roles: ['listing'],
    });
    expect(readPageText()).toContain('5 other pages link here');
    expect(readPageText()).toContain('One, Two, Three, Four …');
    expect(readPageText()).not.toContain('Five');
    expect(readPageText()).toContain('1 old address lands here and would land on nothing');
    expect(readPageText()).toContain('120 visits counted in logs and lists');
    expect(readPageText()).toContain('It lists dated pages and has a feed');
    expect(readPageText()).not.toContain('Nothing else leads here');
  });

  it('leads to the page above by itself, and its links there at once', async () => {
    const panel = await show({ parent: named('Journal', 3), linkedFrom: [named('One', 4)], linkedFromInAll: 1 });
    await write('Why, for whoever wonders later (may stay empty)', ' outdated ');
    await send();
    await isShown(() =>
      expect(decided()).toEqual([
        {
          kind: 'remove',
          thing: node,
          standIn: { kind: 'parent' },
          links: 'lead-on',
          why: 'outdated',
          newHome: null,
        },
      ]),
    );
    await isShown(() => expect(panel.emitted('removed')).toHaveLength(1));
  });

  it('makes plain words of links that would lead to nothing', async () => {
    await show({ parent: named('Journal', 3), linkedFrom: [named('One', 4)], linkedFromInAll: 1 });
    await choose('Gone for good');
    await isShown(() => expect(readPageText()).not.toContain('Lead there at once'));
    await send();
    await isShown(() => expect(decided()[0]).toMatchObject({ standIn: { kind: 'gone' }, links: 'unlinked' }));
  });

  it('of a document leads nowhere that makes sense', async () => {
    await show({}, { kind: 'file', address: '/guide.pdf' });
    await send();
    await isShown(() => expect(decided()[0]).toMatchObject({ standIn: { kind: 'gone' } }));
  });

  it('asks anew where one page goes alone, and what is below it stays', async () => {
    await show();
    expect(readPageText()).toContain('With all 2 below it');
    await choose('This page alone');
    await isShown(() => expect(server.sentTo(removalsApi.previewRemove)).toHaveLength(2));
    expect(server.sentTo(removalsApi.previewRemove)[1]).toEqual({ thing: { ...node, alone: true } });
    await send();
    await isShown(() => expect(decided()[0]).toMatchObject({ thing: { alone: true } }));
  });

  it('waits for the page that is home from then on', async () => {
    await show({ roles: ['home'] });
    expect(readPageText()).toContain('The home page goes as well');
    expect(findButton('Remove')?.disabled).toBe(true);
    await send();
    expect(decided()).toEqual([]);
  });

  it('of a section says what is in it, and has no address to lead on', async () => {
    await show(
      {
        hasAddress: false,
        inside: {
          words: 'Open all week',
          links: [{ label: 'Tickets', to: '/tickets/' }],
          linksInAll: 1,
          pictures: [{ words: 'The lamp', address: null }],
          picturesInAll: 1,
          lost: [named('Tickets', 4)],
          lostInAll: 1,
        } as never,
      },
      { kind: 'section', page: id(2), section: { name: 'Opening hours', nth: 0 } },
    );
    expect(readPageText()).toContain('1 picture no longer shown here');
    expect(readPageText()).toContain('“Tickets” to /tickets/');
    expect(readPageText()).toContain('No other page links to “Tickets”');
    expect(readPageText()).not.toContain('Its address leads to');
    await send();
    await isShown(() => expect(decided()[0]).toMatchObject({ standIn: { kind: 'none' }, links: 'kept' }));
  });

  it('is left where it cannot be looked at, which is told', async () => {
    server.refuses(removalsApi.previewRemove, 'not-found', { what: 'page' });
    const panel = showScreen(RemovePanel, { props: { thing: node, pages: PAGES }, without: ['PagePicker'] });
    await isShown(() => expect(panel.emitted('leave')).toHaveLength(1));
    expect(useNotices().notice?.kind).toBe('problem');
  });

  it('keeps it, by a press', async () => {
    const panel = await show();
    await press('Keep it');
    expect(panel.emitted('leave')).toHaveLength(1);
    expect(decided()).toEqual([]);
  });
});
