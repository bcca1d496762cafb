// @vitest-environment jsdom
/** Bringing in a site: as files, or by the address it answers at; and what is kept where that goes wrong. */
import { importsApi } from '@fastigium/contracts/api/imports';
import { sitesApi } from '@fastigium/contracts/api/sites';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, write } from '../../testing/page.ts';
import { isShown, createOverview, showScreen, SITE } from '../../testing/screen.ts';
import BringIn from './BringIn.vue';

interface Upload {
  readonly url: string;
  readonly size: number;
}

/** jsdom's XMLHttpRequest would ask a real server. */
function answerUploads(answers: readonly (readonly [status: number, body: unknown])[]): Upload[] {
  const uploads: Upload[] = [];
  const left = [...answers];
  vi.stubGlobal(
    'XMLHttpRequest',
    class {
      upload: { onprogress?: (event: object) => void } = {};
      status = 0;
      responseText = '';
      onload = () => {};
      onerror = () => {};
      #url = '';
      open(_method: string, url: string) {
        this.#url = url;
      }
      setRequestHeader() {}
      abort() {}
      send(body: Blob) {
        uploads.push({ url: this.#url, size: body.size });
        this.upload.onprogress?.({ loaded: body.size, total: body.size });
        const next = left.shift();
        if (!next) return this.onerror();
        [this.status, this.responseText] = [next[0], JSON.stringify(next[1])];
        return this.onload();
      }
    },
  );
  return uploads;
}
const begun = [202, { import: SITE, job: SITE }] as const;

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  server.answers(sitesApi.create, createOverview());
});
afterEach(() => {
  document.body.innerHTML = '';
});
const give = (name: string, bytes = 10) => {
  const input = document.querySelector<HTMLInputElement>('[data-testid=zip]');
  if (!input) throw new Error('there is nowhere to put an archive');
  // Of a file that was chosen alone; jsdom knows no such property.
  const file = Object.assign(new File(['x'.repeat(bytes)], name), { webkitRelativePath: '' });
  Object.defineProperty(input, 'files', { configurable: true, value: [file] });
  input.dispatchEvent(new Event('change', { bubbles: true }));
};
const created = () => server.sentTo(sitesApi.create).map(({ name }) => name);

describe('a site that is brought in', () => {
  it('is called by its archive, and goes up as it is', async () => {
    const uploads = answerUploads([begun]);
    const form = showScreen(BringIn);
    expect(findButton('Bring it in')?.disabled).toBe(true);
    give('lantern_moor-final.zip', 2048);
    await isShown(() => expect(findField('Name of the site').value).toBe('lantern moor final'));
    await press('Bring it in');
    await isShown(() => expect(form.emitted('started')).toEqual([[SITE]]));
    expect(created()).toEqual(['lantern moor final']);
    expect(uploads).toEqual([{ url: `/api/sites/${SITE}/imports?fileName=lantern_moor-final.zip`, size: 2048 }]);
  });

  it('keeps a name that somebody gave it', async () => {
    answerUploads([begun]);
    showScreen(BringIn);
    await write('Name of the site', 'Lantern Moor');
    give('export.zip');
    await isShown(() => expect(findButton('Bring it in')?.disabled).toBe(false));
    expect(findField('Name of the site').value).toBe('Lantern Moor');
  });

  it('is tried again after a broken line without a second site being made', async () => {
    const uploads = answerUploads([
      [413, { error: { code: 'upload-too-large', message: 'It is too large.', details: { limit: '1 GB' } } }],
      begun,
    ]);
    const form = showScreen(BringIn);
    give('export.zip');
    await isShown(() => expect(findButton('Bring it in')?.disabled).toBe(false));
    await press('Bring it in');
    await isShown(() => expect(document.querySelector('p.wrong')).not.toBeNull());
    expect(form.emitted('started')).toBeUndefined();
    await press('Bring it in');
    await isShown(() => expect(form.emitted('started')).toEqual([[SITE]]));
    expect(created()).toHaveLength(1);
    expect(uploads).toHaveLength(2);
  });

  it('says what broke off, and that nothing came in', async () => {
    answerUploads([]);
    showScreen(BringIn);
    give('export.zip');
    await isShown(() => expect(findButton('Bring it in')?.disabled).toBe(false));
    await press('Bring it in');
    await isShown(() => expect(document.querySelector('p.wrong')?.textContent).toContain('broke off'));
    expect(readPageText()).toContain('export.zip');
  });

  it('is crawled by its address, and called by its host as long as nobody says otherwise', async () => {
    server.answers(importsApi.crawl, { import: SITE, job: SITE });
    const form = showScreen(BringIn);
    document.querySelectorAll<HTMLElement>('[role=radio]')[1]?.click();
    await isShown(() => expect(findButton('Crawl it')?.disabled).toBe(true));
    await write('Address of the running site', 'https://www.old-site.example/start/');
    await isShown(() => expect(findField('Name of the site').value).toBe('old-site.example'));
    await write('Name of the site', 'Old site');
    await write('Address of the running site', 'https://older.example/');
    expect(findField('Name of the site').value).toBe('Old site');
    await press('Crawl it');
    await isShown(() => expect(form.emitted('started')).toEqual([[SITE]]));
    expect(server.sentTo(importsApi.crawl)).toEqual([{ address: 'https://older.example/' }]);
  });

  it('as a newer export goes into its site, and can be left', async () => {
    answerUploads([begun]);
    const form = showScreen(BringIn, { props: { site: createOverview().id, newer: true } });
    expect(readPageText()).toContain('Bring in a newer export');
    give('newer.zip');
    await isShown(() => expect(findButton('Bring it in')?.disabled).toBe(false));
    await press('Bring it in');
    await isShown(() => expect(form.emitted('started')).toEqual([[SITE]]));
    expect(created()).toEqual([]);
    await press('Leave it');
    expect(form.emitted('leave')).toHaveLength(1);
  });
});
