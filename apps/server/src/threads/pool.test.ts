/** Tasks that take too long end with their thread, and with nobody else's. */
import { afterEach, expect, inject, it } from 'vitest';
import { startThreads, type Threads } from './pool.ts';

let threads: Threads | undefined;
afterEach(async () => threads?.close());

const page = (html: string) => ({ path: 'index.html', kind: 'page' as const, bytes: new TextEncoder().encode(html) });
/** More than any thread reads in a few seconds. */
const endless = () => Array.from({ length: 400 }, () => page(`<title>x</title>${'<p><b>word</b> '.repeat(20_000)}`));
const SECONDS = 1 / 60;

it('a task that takes too long is ended, and the next ones are done', async () => {
  threads = startThreads(1, inject('workerFile'), 6 * SECONDS);
  const first = threads.read(endless());
  const second = threads.read([page('<title>Small</title>')]);
  await expect(first).rejects.toMatchObject({ code: 'work-too-long' });
  // It waited longer than any task may take, which is none of its own time.
  expect((await second)[0]?.reading?.title).toBe('Small');
});

it('one that is cancelled is not said to have taken too long', async () => {
  threads = startThreads(1, inject('workerFile'));
  const cancel = new AbortController();
  const running = threads.read(endless(), cancel.signal);
  const waiting = threads.read([page('x')], cancel.signal);
  cancel.abort(new Error('not wanted any more'));
  for (const ended of await Promise.allSettled([running, waiting])) {
    expect(ended.status).toBe('rejected');
    expect(ended).not.toMatchObject({ reason: { code: 'work-too-long' } });
  }
  expect((await threads.read([page('<title>Next</title>')]))[0]?.reading?.title).toBe('Next');
});
