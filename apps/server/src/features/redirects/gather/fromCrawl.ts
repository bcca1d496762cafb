/** The old site gone through, for the addresses it answers at and what stands there; nothing of it is imported. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unread, type NotRead } from '@fastigium/core/redirects';
import type { Sighting } from '@fastigium/core/redirects/gather';
import type { Deps } from '../../../deps.ts';
import type { JobRun } from '../../../jobs/queue.ts';
import type { Ask } from '../../imports/crawl/ask.ts';
import { crawl, type CrawledFile } from '../../imports/crawl/crawl.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const AT_ONCE = 50;

export async function fromCrawl(
  deps: Deps,
  start: URL,
  ask: Ask,
  job: JobRun,
): Promise<{ sightings: Sighting[]; notRead: NotRead[] }> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-gather-'));
  try {
    const site = await crawl({
      start,
      ask,
      threads: deps.threads,
      limits: deps.config.crawl,
      importLimits: deps.config.limits,
      folder,
      job,
    });
    const pages = site.files.filter(({ kind }) => kind === 'page');
    const read = new Map<string, Omit<Sighting, 'address'>>();
    for (let from = 0; from < pages.length; from += AT_ONCE) {
      for (const [path, what] of await readCrawled(deps, pages.slice(from, from + AT_ONCE), job.signal))
        read.set(path, what);
      job.report({
        step: progressStep('reading-old-pages'),
        done: Math.min(from + AT_ONCE, pages.length),
        total: pages.length,
        unit: 'pages',
      });
    }
    const left = site.notes.filter(({ code }) => code === 'crawl-error' || code === 'crawl-no-answer');
    return {
      sightings: [...site.fileOf].map(([address, file]) => ({ address, status: 200, ...read.get(file) })),
      notRead: left.map(({ path }, at) => ({
        line: at + 1,
        text: path,
        why: unread('link-dead'),
      })),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function readCrawled(
  deps: Deps,
  files: readonly CrawledFile[],
  signal: AbortSignal,
): Promise<[string, Omit<Sighting, 'address'>][]> {
  const bytes = await Promise.all(
    files.map(async ({ path, onDisk }) => ({ path, bytes: await readFile(onDisk, { signal }), kind: 'page' as const })),
  );
  const read = await deps.threads.read(bytes, signal);
  return files.flatMap(({ path }, at) => {
    const reading = read[at]?.reading;
    return reading
      ? [
          [
            path,
            {
              title: reading.title,
              text: reading.text,
              headings: reading.headings.map(({ text }) => text).slice(0, 20),
              language: reading.language,
            },
          ],
        ]
      : [];
  });
}
