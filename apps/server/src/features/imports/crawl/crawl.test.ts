/** Going through a site whose pages answer now with the `www.` and now by https; everything else is held against real servers. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { WebAnswer } from '../../../adapters/web/fetcher.ts';
import { IMPORT_LIMITS } from '../../../config/config.ts';
import { startThreads, type Threads } from '../../../threads/pool.ts';
import { crawl } from './crawl.ts';

let threads: Threads;
let folder: string;
beforeAll(async () => {
  threads = startThreads(1, inject('workerFile'));
  folder = await mkdtemp(join(tmpdir(), 'fastigium-crawl-test-'));
});
afterAll(async () => {
  await threads.close();
  await rm(folder, { recursive: true, force: true });
});

const answer = (more: Partial<WebAnswer>): WebAnswer => ({
  ok: true,
  status: 200,
  type: 'text/html',
  charset: 'utf-8',
  location: undefined,
  retryAfterSeconds: undefined,
  body: Buffer.alloc(0),
  ...more,
});
const page = (words: string) => answer({ body: Buffer.from(`<!DOCTYPE html><title>${words}</title>${words}`) });

describe('a site that answers at several of its names', () => {
  it('is followed from http to https and to the www., page by page, and stays one site', async () => {
    const asked: string[] = [];
    const site: Record<string, WebAnswer> = {
      'http://old.example/': answer({ status: 301, location: 'http://www.old.example/' }),
      'http://www.old.example/': page(
        'Home <a href="/members/">members</a> <a href="https://old.example/shop">shop</a> <a href="http://old.example/round">round</a>',
      ),
      'http://www.old.example/members/': answer({ status: 302, location: 'https://www.old.example/members/' }),
      'https://www.old.example/members/': page('Members'),
      'http://www.old.example/shop': answer({ status: 301, location: 'https://old.example/shop' }),
      'https://old.example/shop': page('Shop'),
      'http://www.old.example/round': answer({ status: 301, location: 'https://www.old.example/round' }),
      'https://www.old.example/round': answer({ status: 301, location: 'http://www.old.example/round' }),
    };
    const crawled = await crawl({
      start: new URL('http://old.example/'),
      threads,
      folder,
      importLimits: IMPORT_LIMITS,
      limits: { addresses: 50, totalMs: 60_000, perSecond: 1000, answerMs: 1000 },
      ask: (url) => {
        asked.push(url.href);
        return Promise.resolve(site[url.href] ?? answer({ status: 404 }));
      },
      job: { signal: new AbortController().signal, report: () => {} },
    });
    expect(crawled.files.map(({ path }) => path).sort()).toEqual(['index.html', 'members/index.html', 'shop.html']);
    expect(crawled.notes).toEqual([{ code: 'crawl-circle', path: '/round' }]);
    expect(asked.every((url) => /^https?:\/\/(www\.)?old\.example\//.test(url))).toBe(true);
  });
});
