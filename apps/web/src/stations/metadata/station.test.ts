// @vitest-environment jsdom
/** Metadata page by page, for the whole site, and by languages. Pages are invented. */
import { metadataApi, type Metadata } from '@fastigium/contracts/api/metadata';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { chooseOption, readPageText, write } from '../../testing/page.ts';
import { createMetadataRow } from '../../testing/rows.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import MetadataStation from './MetadataStation.vue';

const id = (last: number): string => SITE.slice(0, -1) + last;
const row = (last: number, title: string, description: string, language = 'en') =>
  createMetadataRow(id(last), title, description, {
    address: `/${title.toLowerCase()}/`,
    language: { text: language, from: 'imported' },
  });
const METADATA: Metadata = {
  version: 3,
  origin: 'https://moor.example',
  basePath: '',
  siteName: 'Moor',
  rows: [
    row(1, 'Visit', 'How to find the moor, and when it is open to anybody who comes by.'),
    row(2, 'Press', ''),
    row(3, 'Ymweld', 'Sut i gyrraedd y rhos.', 'cy'),
  ],
  settings: [],
  languages: ['cy', 'en'],
  groups: [
    [
      { id: id(1), language: 'en' },
      { id: id(3), language: 'cy' },
    ],
  ],
  icons: [],
  files: { robots: null, security: null, hasImportedSitemap: false },
  proof: null,
};

let server: FakeServer;
beforeEach(() => {
  giveRoom();
  server = new FakeServer();
  answerSite(server);
  server.answers(metadataApi.table, METADATA);
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});
const show = () => showScreen(MetadataStation, { without: ['PageHeadBench', 'SettingBench', 'IconsPanel'] });
const listed = () =>
  [...document.querySelectorAll('[role="option"], [role="row"]')].map((each) =>
    each.textContent.replace(/\s+/g, ' ').trim(),
  );

describe('the metadata of a site', () => {
  it('stands page by page at first, with what is missing said', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/press/'));
    expect(listed().join()).toContain('missing');
    expect(readPageText()).toContain('All pages (3)');
  });

  it('is searched by what stands in titles and descriptions', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/press/'));
    await write('Search pages', 'rhos');
    await isShown(() => expect(listed().join()).not.toContain('/press/'));
    expect(listed().join()).toContain('/ymweld/');
  });

  it('shows pages that say the same in several languages beside one another', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/press/'));
    await chooseOption('Languages');
    await isShown(() => expect(readPageText()).toContain('Welsh'));
    const together = listed().find((each) => each.includes('Visit'));
    expect(together).toContain('Ymweld');
  });

  it('shows what holds for the whole site, and comes back', async () => {
    show();
    await isShown(() => expect(listed().join()).toContain('/press/'));
    await chooseOption('Whole site');
    await isShown(() => expect(listed().join()).not.toContain('/press/'));
    await isShown(() => expect(readPageText()).toContain('For the whole site'));
    await chooseOption('Page by page');
    await isShown(() => expect(listed().join()).toContain('/press/'));
  });
});
