/** A crawled site as the source of an import: its links lead to its files as each is read. */
import { readFile } from 'node:fs/promises';
import type { Threads } from '../../../threads/pool.ts';
import { checkSitePath } from '../../shared/sitePaths.ts';
import type { ImportSource, Note, SourceEntry } from '../source.ts';
import type { CrawledFile, CrawledSite } from './crawl.ts';

export function createCrawlSource(site: CrawledSite, threads: Threads): ImportSource {
  const entries: SourceEntry[] = [];
  const notes: Note[] = [...site.notes];
  for (const file of site.files) {
    const verdict = checkSitePath(file.path);
    if (!verdict.ok) notes.push({ code: verdict.note, path: file.path });
    else
      entries.push({
        path: verdict.path,
        declaredBytes: file.sizeBytes,
        read: (signal) => readCrawled(file, site, threads, signal),
      });
  }
  return { entries: entries.sort((a, b) => (a.path < b.path ? -1 : 1)), notes, close: () => {} };
}

async function readCrawled(
  file: CrawledFile,
  site: CrawledSite,
  threads: Threads,
  signal: AbortSignal,
): Promise<Buffer> {
  const bytes = await readFile(file.onDisk, { signal });
  if (file.kind === 'other' || file.leadsTo.length === 0) return bytes;
  const files = file.leadsTo.flatMap((address) => {
    const to = site.fileOf.get(address);
    return to === undefined ? [] : [[address, to] as const];
  });
  return Buffer.from(
    await threads.relink({ bytes, kind: file.kind, url: file.url, file: file.path, scope: site.scope, files }, signal),
  );
}
