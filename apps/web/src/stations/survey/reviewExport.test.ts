// @vitest-environment jsdom
/** A newer export before it is applied: what it changes, and the choice where it meets what was decided here. */
import { importsApi, type ImportReview } from '@fastigium/contracts/api/imports';
import { touch } from '@fastigium/contracts/messages/touch';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import ReviewExport from './ReviewExport.vue';

const own = touch('text', { before: 'Open daily', after: 'Open all week' });
const review: ImportReview = {
  import: SITE,
  fileName: 'newer.zip',
  version: 3,
  added: [{ path: 'news/index.html', title: 'News' }],
  changed: [],
  dropped: [{ path: 'old.html', title: 'Old', isHome: false, linksIn: 2 }],
  moved: [{ from: 'a.html', to: 'b.html', title: 'A', alike: 0.914 }],
  unchanged: 1,
  files: { added: 0, changed: 1, dropped: 0 },
  conflicts: [
    {
      key: 'touch:4',
      page: SITE,
      title: 'Visit',
      pages: 3,
      kind: 'touch',
      message: own,
      before: 'Open daily',
      theirs: 'Open at night',
      ours: own,
    },
  ],
  waiting: [{ key: 'touch:5', message: touch('on-dropped-page', { touch: touch('css-set') }) }],
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  server.answers(importsApi.review, review);
  answerSite(server);
});
afterEach(() => {
  document.body.innerHTML = '';
});
const text = () => document.body.textContent.replace(/\s+/g, ' ');
const press = (name: string | RegExp) => {
  const found = [...document.querySelectorAll<HTMLElement>('button, [role=radio]')].find(({ textContent }) =>
    typeof name === 'string' ? textContent.trim() === name : name.test(textContent),
  );
  if (!found) throw new Error(`there is no ${String(name)} to press`);
  found.click();
};

describe('a newer export', () => {
  it('says what it adds, moves and drops, and of how many pages a conflict is', async () => {
    showScreen(ReviewExport);
    await isShown(() => expect(text()).toContain('Newer export: newer.zip'));
    expect(text()).toContain('1 page is byte for byte as before');
    expect(text()).toContain('/a.html → /b.html');
    expect(text()).toContain('% alike');
    expect(text()).toContain('2 pages led here');
    expect(text()).toContain('Visit and 2 more');
    expect(text()).toContain('“Open daily” becomes “Open all week”');
    expect(text()).toContain('Style rules of its own, on a page that is dropped');
  });

  it('says which conflicts are not decided, and sends what was chosen', async () => {
    server.answers(importsApi.apply, { version: 4 } as never);
    showScreen(ReviewExport);
    await isShown(() => expect(text()).toContain('1 conflict not decided: these touches will wait'));
    press('Take the export’s');
    await isShown(() => expect(text()).not.toContain('not decided'));
    press('Apply it');
    await isShown(() => expect(server.sentTo(importsApi.apply)).toHaveLength(1));
    expect(server.sentTo(importsApi.apply)[0]).toMatchObject({ choices: { 'touch:4': 'theirs' } });
  });

  it('offers nothing to who only looks on', async () => {
    showScreen(ReviewExport, { role: 'reviewer' });
    await isShown(() => expect(text()).toContain('Newer export'));
    expect(document.querySelectorAll('button')).toHaveLength(0);
  });

  it('says in words why it could not be applied', async () => {
    server.refuses(importsApi.apply, 'draft-stale');
    showScreen(ReviewExport);
    await isShown(() => expect(text()).toContain('Apply it'));
    press('Apply it');
    await isShown(() => expect(useNotices().notice?.text).toContain('changed this site while you were working'));
  });
});
