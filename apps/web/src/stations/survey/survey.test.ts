// @vitest-environment jsdom
/** The worklist of what the checks found, worked through as somebody does it before a release. Findings are invented. */
import { importsApi, type Survey } from '@fastigium/contracts/api/imports';
import { snagsApi, type Snag, type Snags } from '@fastigium/contracts/api/snags';
import { decision } from '@fastigium/contracts/messages/decision';
import { createRemedy, createCheckTitle } from '@fastigium/core/checks';

type CheckCode = Parameters<typeof createCheckTitle>[0];
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../testing/screen.ts';
import SurveyStation from './SurveyStation.vue';

const snag = (key: string, code: CheckCode, severity: Snag['severity'], more: Partial<Snag> = {}): Snag => ({
  key,
  code,
  severity,
  path: 'visit/index.html',
  page: SITE,
  subject: `Page of ${key}`,
  detail: `detail of ${key}`,
  hasPlace: false,
  mend: null,
  dismissed: null,
  ...more,
});
const untitled = snag('k1', 'title-missing', 'must', { mend: { label: 'Give it a title', asks: 'Its title' } });
const secret = snag('k2', 'file-secret', 'must', { path: 'backup.sql', page: null, subject: 'backup.sql' });
const heavy = snag('k3', 'picture-heavy', 'should');
const kindsOf = (...snags: readonly Snag[]): Snags['kinds'] =>
  snags.map(({ code, severity }) => ({
    code,
    severity,
    title: createCheckTitle(code as CheckCode),
    how: createRemedy(code as CheckCode),
    source: 'its source',
  }));
const found = (...snags: readonly Snag[]): Snags => ({
  version: 3,
  isCurrent: true,
  kinds: kindsOf(untitled, secret, heavy),
  snags: [...snags],
});
const survey: Survey = {
  fileName: 'moor.zip',
  crawledFrom: null,
  pages: [
    {
      id: SITE,
      sourcePath: 'visit/index.html',
      address: '/visit/',
      title: 'Visit',
      language: 'en',
      sizeBytes: 900,
      linksOut: 4,
      deadLinks: 0,
    },
  ],
  assets: [{ path: 'lamp.png', type: 'image/png', sizeBytes: 4000, uses: 2 }],
  links: { inside: 30, outside: 4, dead: [] },
  notes: [],
  totalBytes: 4900,
};
const counts = { must: 2, should: 1, dismissed: 0, checking: false, metadata: 0 };

let server: FakeServer;
let list: Snags;
beforeEach(() => {
  giveRoom();
  list = found(untitled, secret, heavy);
  server = new FakeServer();
  answerSite(server);
  server.answers(importsApi.survey, survey);
  server.answers(snagsApi.list, () => list);
});
afterEach(() => {
  vi.restoreAllMocks();
  document.body.innerHTML = '';
});
/** As the server says it as well, since a station reads it again. */
const station = (more: Parameters<typeof showScreen>[1] = {}) => {
  answerSite(server, more.overview);
  showScreen(SurveyStation, more);
};
const show = async (more: Parameters<typeof showScreen>[1] = {}) => {
  station({ overview: { snags: counts }, ...more });
  await isShown(() => expect(readPageText()).toContain('Page of k1'));
};

describe('the survey', () => {
  it('begins with what must be fixed, the first of it chosen, with how to mend it', async () => {
    await show();
    expect(readPageText()).toContain('Must be fixed 2');
    expect(readPageText()).toContain('Worth a look 1');
    expect(readPageText()).toContain('detail of k1');
    expect(readPageText()).not.toContain('detail of k3');
    expect(findButton('Give it a title Enter') ?? findButton('Give it a titleEnter')).toBeDefined();
  });

  it('mends one in a step, with the answer that was asked for', async () => {
    server.answers(snagsApi.mend, {
      version: 4,
      message: decision('title-set', { address: '/visit/', title: 'Visit' }),
      made: null,
    });
    await show();
    await write('Its title', 'Visit us');
    await send();
    await isShown(() => expect(useNotices().notice?.text).toBe('Title of /visit/ set to “Visit”'));
    expect(server.sentTo(snagsApi.mend)).toEqual([{ version: 3, answer: 'Visit us' }]);
  });

  it('goes on with the next once one is done', async () => {
    server.answers(snagsApi.dismiss, { done: true });
    await show();
    await write('Take it on your name, because', 'the client wants it so');
    list = found(secret, heavy);
    document.querySelectorAll('form')[1]?.dispatchEvent(new Event('submit', { cancelable: true }));
    await isShown(() => expect(server.sentTo(snagsApi.dismiss)).toEqual([{ reason: 'the client wants it so' }]));
    await isShown(() => expect(readPageText()).not.toContain('detail of k1'));
    expect(document.querySelector('aside, .bench')?.textContent ?? readPageText()).toContain('detail of k2');
  });

  it('keeps the reason that could not be kept, and says why', async () => {
    server.refuses(snagsApi.dismiss, 'database-away');
    await show();
    await write('Take it on your name, because', 'the client wants it so');
    document.querySelectorAll('form')[1]?.dispatchEvent(new Event('submit', { cancelable: true }));
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect([...document.querySelectorAll('input')].map(({ value }) => value)).toContain('the client wants it so');
  });

  it('takes no reason of two letters', async () => {
    await show();
    const letBe = () =>
      [...document.querySelectorAll('button')].find(({ textContent }) => /^Let it be/.test(textContent));
    await write('Take it on your name, because', 'ok');
    expect(letBe()?.disabled).toBe(true);
    await write('Take it on your name, because', 'why not');
    expect(letBe()?.disabled).toBe(false);
  });

  it('shows by whom and why one was let be, and counts it again', async () => {
    const by = { id: SITE, name: 'Ada Stone', initials: 'AS' };
    const dismissed = { by, at: '2026-11-29T08:00:00.000Z', reason: 'the client wants it so' };
    list = found({ ...untitled, dismissed });
    server.answers(snagsApi.recall, { done: true });
    station({ overview: { snags: { ...counts, must: 0, should: 0, dismissed: 1 } } });
    await isShown(() => expect(readPageText()).toContain('Let be 1'));
    [...document.querySelectorAll<HTMLElement>('[role=radio]')]
      .find(({ textContent }) => /Let be/.test(textContent))
      ?.click();
    await isShown(() => expect(readPageText()).toContain('Let be by Ada Stone'));
    expect(readPageText()).toContain('the client wants it so');
    await press('Count it again');
    await isShown(() => expect(useNotices().notice?.text).toBe('It counts again'));
  });

  it('offers no way to change anything to who only looks on', async () => {
    await show({ role: 'reviewer' });
    expect(document.querySelector('form')).toBeNull();
    expect(findButton('Newer export')).toBeUndefined();
    expect(readPageText()).toContain('How to mend it');
  });

  it('says what came in where there is nothing to mend', async () => {
    list = found();
    station({ overview: { snags: { ...counts, must: 0, should: 0 } } });
    await isShown(() => expect(readPageText()).toContain('from “moor.zip”, kept byte for byte'));
    expect(readPageText()).toContain('Links inside the site30');
    expect(readPageText()).toContain('Pictures1');
  });

  it('says why nothing came in, and asks for another file', async () => {
    station({
      overview: {
        files: 0,
        lastImport: {
          id: SITE,
          fileName: 'moor.rar',
          state: 'failed',
          createdAt: '2026-11-29T08:00:00.000Z',
          error: { code: 'archive-unreadable', details: {} },
        } as never,
      },
      without: ['BringIn'],
    });
    await isShown(() => expect(readPageText()).toContain('Nothing came in from moor.rar'));
    expect(document.querySelector('[role=alert]')?.textContent).not.toBe('');
    expect(server.asked).toEqual([]);
  });

  it('warns of what goes for good within a week', async () => {
    await show({
      overview: { snags: counts, removals: { all: 2, pages: 2, sweptSoon: 2, firstSweep: '2026-12-04T00:00:00.000Z' } },
    });
    expect(readPageText()).toContain('2 removed things go for good within a week, the first on 4 Dec');
  });
});
