/** Crawls a site and reads what came back; the addresses it answered at are kept, since visitors know them. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { findAddressOfFile, splitAddress } from '@fastigium/core/address';
import type { Deps } from '../../../deps.ts';
import type { JobRun } from '../../../jobs/queue.ts';
import { readImport } from '../readImport.ts';
import { createAsk } from './ask.ts';
import { crawl, type CrawledSite } from './crawl.ts';
import { createCrawlSource } from './crawlSource.ts';

export async function readCrawl(deps: Deps, importId: string, start: URL, job: JobRun): Promise<void> {
  const { limits: importLimits, crawl: limits } = deps.config;
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-crawl-'));
  try {
    const ask = createAsk(deps.world.fetch, limits, importLimits.fileBytes, job.signal);
    const site = await crawl({ start, ask, threads: deps.threads, limits, importLimits, folder, job });
    await readImport(deps, importId, createCrawlSource(site, deps.threads), job);
    await keepAddresses(deps, importId, site);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function keepAddresses(deps: Deps, importId: string, { fileOf }: CrawledSite): Promise<void> {
  // With another query a file answers all the same.
  const former = [...fileOf].filter(([address, file]) => splitAddress(address).path !== findAddressOfFile(file));
  await deps.db.run(
    `insert into crawled_address (import_id, address, path) select $1, c.address, c.path from unnest($2::text[], $3::text[]) as c(address, path)
       join source_file f on f.import_id = $1 and f.path = c.path`,
    [importId, former.map(([address]) => address), former.map(([, file]) => file)],
  );
}
