// @vitest-environment jsdom
/** The list of sites: opening one, deleting one with its name typed, and taking it back. */
import { sitesApi, type GoingSite, type SiteSummary } from '@fastigium/contracts/api/sites';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it } from 'vitest';
import { FakeServer } from '../testing/fakeServer.ts';
import { createOverview, showScreen, SITE } from '../testing/screen.ts';
import { useNotices } from '../stores/notices.ts';
import SiteChoice from './SiteChoice.vue';

const moor: SiteSummary = { ...createOverview(), liveRelease: 3, answersAt: 'www.moor.example' };
const heath: SiteSummary = { ...createOverview(), id: '00000000-0000-4000-8000-000000000002', name: 'Heath' };
const gone: GoingSite = {
  id: SITE,
  name: 'Moor',
  answersAt: 'www.moor.example',
  isLive: true,
  by: 'Ada Stone',
  deletedAt: '2026-11-30T10:00:00.000Z',
  goneAt: '2026-12-30T10:00:00.000Z',
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  server.answers(sitesApi.list, [heath, moor]);
  server.answers(sitesApi.going, []);
});

const show = async (role: 'owner' | 'editor' | 'client' = 'owner') => {
  const screen = showScreen(SiteChoice, { role, without: ['BringIn', 'AppLintel'] });
  await flushPromises();
  return screen;
};
type Screen = Awaited<ReturnType<typeof show>>;
const button = (screen: Screen, name: string) => {
  const found = screen.findAll('button').find((each) => (each.attributes('aria-label') ?? each.text()) === name);
  if (!found) throw new Error(`no button ${name}`);
  return found;
};

describe('the list of sites', () => {
  it('names each with what it is, and leads to it', async () => {
    const screen = await show();
    const rows = screen.findAll('a.site');
    expect(rows.map((row) => row.text())).toEqual([
      expect.stringMatching(/^Heath.*4 pages, 9 files.*not live yet/s),
      expect.stringMatching(/^Moor.*release 3 is live.*www\.moor\.example/s),
    ]);
    expect(rows[1]?.attributes('href')).toContain(SITE);
    expect(screen.text()).not.toContain('Deleted');
  });

  it('offers to delete to owners alone', async () => {
    expect((await show('editor')).findAll('button').map((each) => each.text())).not.toContain('Delete …');
    expect(server.sentTo(sitesApi.going)).toEqual([]);
  });

  it('deletes a site once its name is typed, and shows until when it can be taken back', async () => {
    const screen = await show();
    await button(screen, 'Delete Moor').trigger('click');
    const bench = () => screen.find('form');
    expect(screen.text()).toContain('What is live at www.moor.example stays there');
    const submit = () => bench().find('button[type=submit]');
    expect(submit().attributes('disabled')).toBeDefined();
    await bench().find('input').setValue('moor');
    expect(submit().attributes('disabled')).toBeDefined();
    await bench().find('input').setValue('Moor');
    expect(submit().attributes('disabled')).toBeUndefined();
    server.answers(sitesApi.delete, gone);
    server.answers(sitesApi.list, [heath]);
    server.answers(sitesApi.going, [gone]);
    await bench().trigger('submit');
    await flushPromises();
    expect(server.sentTo(sitesApi.delete)).toEqual([{ confirmed: 'Moor' }]);
    expect(useNotices().notice?.text).toContain('take it back until 30 Dec');
    expect(screen.find('.going').text()).toMatch(/Moor.*deleted by Ada Stone on 30 Nov.*gone for good on 30 Dec/s);
    expect(screen.findAll('a.site').length).toBe(1);
  });

  it('says what was refused and keeps what was typed', async () => {
    const screen = await show();
    await button(screen, 'Delete Moor').trigger('click');
    server.refuses(sitesApi.delete, 'publish-running', { person: 'Bran', number: 4 });
    await screen.find('form input').setValue('Moor');
    await screen.find('form').trigger('submit');
    await flushPromises();
    expect(screen.find('p.wrong').text()).toContain('Bran is publishing release 4');
    expect((screen.find('form input').element as HTMLInputElement).value).toBe('Moor');
    await button(screen, 'Keep it').trigger('click');
    expect(screen.find('form').exists()).toBe(false);
  });

  it('takes one back, and says its new name where its own is another’s', async () => {
    server.answers(sitesApi.list, [heath]);
    server.answers(sitesApi.going, [gone]);
    const screen = await show();
    server.answers(sitesApi.takeBack, { ...moor, name: 'Moor 2' });
    server.answers(sitesApi.list, [heath, { ...moor, name: 'Moor 2' }]);
    server.answers(sitesApi.going, []);
    await button(screen, 'Take back').trigger('click');
    await flushPromises();
    expect(useNotices().notice?.text).toContain('Moor is back as Moor 2');
    expect(screen.findAll('a.site').length).toBe(2);
    expect(screen.find('.going').exists()).toBe(false);
  });
});
