// @vitest-environment jsdom
/** Bringing in old addresses, as somebody does it who has them in a file, in a mail, or on a site that is still there. */
import { redirectsApi, type Gathered, type Gathering } from '@fastigium/contracts/api/redirects';
import { jobsApi, type Job } from '@fastigium/contracts/api/jobs';
import { progressStep } from '@fastigium/contracts/messages/progress';
import { reason } from '@fastigium/contracts/messages/reason';
import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, write } from '../../testing/page.ts';
import { isShown, showScreen, SITE } from '../../testing/screen.ts';
import GatherBench from './GatherBench.vue';

const taken: Gathered = {
  state: 'taken',
  source: 'pasted',
  name: 'Pasted',
  read: 12,
  fresh: 7,
  files: 0,
  noise: 0,
  leftOut: 0,
  notRead: 0,
  problems: [],
};
const table: Gathered = {
  state: 'columns',
  hasNames: true,
  rows: [
    ['Page', 'Hits'],
    ['/old', '9'],
  ],
  columns: { address: 0 },
};
const before: Gathering = {
  id: SITE,
  source: 'log',
  name: 'access.log',
  by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
  at: '2026-11-29T08:00:00.000Z',
  read: 1200,
  fresh: 30,
  files: 4,
  noise: 9,
  leftOut: 0,
  job: null,
  notRead: 1,
  problems: [{ line: 4, text: 'GET what', why: reason('no-address-column') }],
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  server.answers(redirectsApi.oldDomains, ['old-shop.example']);
  server.answers(redirectsApi.gatherings, { done: [before], searchIndex: 'https://search.example/opensearch.xml' });
});
afterEach(() => {
  document.body.innerHTML = '';
});

const createGatherJob = (): Job => ({
  id: SITE,
  site: SITE,
  kind: 'gather',
  state: 'running',
  progress: { step: progressStep('keeping-addresses'), done: 20_000, total: 50_000, unit: 'addresses' },
  error: null,
  retry: null,
  createdAt: before.at,
  endedAt: null,
});

let screen: VueWrapper;
async function show() {
  screen = showScreen(GatherBench, { props: { tick: 0 } });
  await isShown(() => expect(readPageText()).toContain('Tell apart no longer'));
}
const paste = async (text: string) => {
  const area = document.querySelector('textarea');
  if (!area) throw new Error('there is nowhere to paste');
  area.value = text;
  area.dispatchEvent(new Event('input', { bubbles: true }));
  await nextTick();
};
const choose = async (label: string, value: string) => {
  const select = [...document.querySelectorAll('select')].find((each) =>
    (each.getAttribute('aria-label') ?? each.closest('label')?.textContent ?? '').includes(label),
  );
  if (!select) throw new Error(`there is no ${label}`);
  select.value = value;
  select.dispatchEvent(new Event('change', { bubbles: true }));
  await nextTick();
};
const give = (...names: string[]) => {
  const input = document.querySelector<HTMLInputElement>('input[type=file]');
  if (!input) throw new Error('there is nowhere to put files');
  Object.defineProperty(input, 'files', { configurable: true, value: names.map((name) => new File(['x'], name)) });
  input.dispatchEvent(new Event('change', { bubbles: true }));
};
const filesSent = () =>
  server.asked
    .filter(({ endpoint }) => endpoint === redirectsApi.file)
    .map(({ search }) => Object.fromEntries(new URLSearchParams(search)));

describe('old addresses that are brought in', () => {
  it('says what came so far, and which lines could not be read', async () => {
    await show();
    expect(readPageText()).toContain('1,200 read, 30 new, by Ada Stone');
    expect(readPageText()).toContain('1 line not taken');
    expect(readPageText()).toContain('Line 4: GET what');
  });

  it('takes what is pasted, as addresses of the old domain they are of, and tells how many were new', async () => {
    server.answers(redirectsApi.paste, taken);
    await show();
    expect(findButton('Take them')?.disabled).toBe(true);
    await choose('Addresses without a domain', 'old-shop.example');
    await paste('/visit.php?id=3');
    await press('Take them');
    await isShown(() => expect(useNotices().notice?.text).toBe('12 old addresses read, 7 of them new.'));
    expect(server.sentTo(redirectsApi.paste)).toEqual([{ text: '/visit.php?id=3', domain: 'old-shop.example' }]);
    expect(document.querySelector('textarea')?.value).toBe('');
  });

  it('keeps what was pasted where it cannot be taken, and says why', async () => {
    server.refuses(redirectsApi.paste, 'database-away');
    await show();
    await paste('/visit.php?id=3');
    await press('Take them');
    await isShown(() => expect(document.querySelector('[role=alert]')).not.toBeNull());
    expect(document.querySelector('textarea')?.value).toBe('/visit.php?id=3');
    await isShown(() => expect(findButton('Take them')?.disabled).toBe(false));
  });

  it('asks once what the columns of a table hold, and then goes on with the other files', async () => {
    let asked = 0;
    server.answers(redirectsApi.file, () => ((asked += 1) === 1 ? table : taken));
    await show();
    give('report.csv', 'access.log');
    await isShown(() => expect(readPageText()).toContain('report.csv'));
    await isShown(() => expect(findButton('Take it')).toBeDefined());
    expect(filesSent()).toEqual([{ fileName: 'report.csv' }]);
    await choose('What column 2 holds', 'address');
    expect(findButton('Take it')?.disabled).toBe(true);
    await choose('What column 2 holds', 'visits');
    await press('Take it');
    await isShown(() => expect(filesSent()).toHaveLength(3));
    expect(filesSent().slice(1)).toEqual([
      { fileName: 'report.csv', columns: '{"address":0,"visits":1}', hasNames: 'yes' },
      { fileName: 'access.log' },
    ]);
  });

  it('leaves a table that is none after all, and still takes the files behind it', async () => {
    let asked = 0;
    server.answers(redirectsApi.file, () => ((asked += 1) === 1 ? table : taken));
    await show();
    give('report.csv', 'access.log');
    await isShown(() => expect(findButton('Leave it')).toBeDefined());
    await press('Leave it');
    await isShown(() => expect(filesSent().map(({ fileName }) => fileName)).toEqual(['report.csv', 'access.log']));
  });

  it('waits for the job of what is large, and tells then how many were new', async () => {
    server.answers(redirectsApi.paste, { state: 'taking', job: SITE });
    await show();
    await paste('/visit.php?id=3');
    await press('Take them');
    await isShown(() => expect(document.querySelector('textarea')?.value).toBe(''));
    expect(useNotices().notice).toBeUndefined();
    // What others brought in meanwhile is none of it.
    server.answers(redirectsApi.gatherings, { done: [before], searchIndex: null });
    await screen.setProps({ tick: 1 });
    expect(useNotices().notice).toBeUndefined();
    const kept = { ...before, read: 2_000_000, fresh: 400_000, leftOut: 1_600_000, job: SITE };
    server.answers(redirectsApi.gatherings, { done: [kept, before], searchIndex: null });
    await screen.setProps({ tick: 2 });
    await isShown(() => expect(useNotices().notice?.text).toBe('2,000,000 old addresses read, 400,000 of them new.'));
    expect(readPageText()).toContain('1,600,000 more counted and not kept');
  });

  it('shows how far a large one is, and stops it', async () => {
    const job = createGatherJob();
    server.answers(jobsApi.cancel, { done: true });
    await show();
    useSite().jobs = new Map([[job.id, job]]);
    await isShown(() => expect(readPageText()).toContain('Keeping the addresses'));
    expect(readPageText()).toContain('20,000 of 50,000 addresses');
    expect(findButton('Ask')?.disabled).toBe(true);
    await press('Cancel; nothing of it is kept');
    await isShown(() => expect(server.asked.some(({ endpoint }) => endpoint === jobsApi.cancel)).toBe(true));
  });

  it('asks a search index for a domain, at the address that is known of it', async () => {
    server.answers(redirectsApi.fetched, { job: SITE });
    await show();
    document.querySelectorAll<HTMLElement>('[role=radio]')[1]?.click();
    await isShown(() => expect(findField('Address').value).toBe('https://search.example/opensearch.xml'));
    expect(findButton('Ask')?.disabled).toBe(true);
    await write('Domain to list', 'old-shop.example');
    await press('Ask');
    await isShown(() =>
      expect(server.sentTo(redirectsApi.fetched)).toEqual([
        { source: 'index', address: 'https://search.example/opensearch.xml', domain: 'old-shop.example' },
      ]),
    );
  });

  it('says why nobody could be asked', async () => {
    server.refuses(redirectsApi.fetched, 'name-nowhere', { host: 'old-site.example' });
    await show();
    await write('Address', 'old-site.example');
    await press('Ask');
    await isShown(() => expect(document.querySelector('[role=alert]')?.textContent).toContain('old-site.example'));
    expect(findField('Address').value).toBe('old-site.example');
  });

  it('tells another old domain apart, and one no longer', async () => {
    let domains = ['old-shop.example'];
    server.answers(redirectsApi.oldDomains, () => domains);
    server.answers(redirectsApi.addOldDomain, () => {
      domains = [...domains, 'second.example'];
      return { host: 'second.example' };
    });
    server.answers(redirectsApi.removeOldDomain, () => {
      domains = domains.slice(1);
      return { done: true as const };
    });
    await show();
    await write('Domain to tell apart', 'second.example');
    await press('Add');
    await isShown(() => expect(readPageText()).toContain('second.example'));
    expect(findField('Domain to tell apart').value).toBe('');
    await press('Tell apart no longer');
    await isShown(() => expect(readPageText()).not.toContain('old-shop.example'));
  });
});
