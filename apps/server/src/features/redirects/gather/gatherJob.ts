/** Old addresses that take a while: a large file that was brought in, or what is fetched from outside. */
import { FETCHED } from '@fastigium/contracts/api/redirects';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { z } from 'zod';
import type { Deps } from '../../../deps.ts';
import { enqueue, type JobHandler, type JobRun } from '../../../jobs/queue.ts';
import { createAsk } from '../../imports/crawl/ask.ts';
import { readStart } from '../../imports/crawl/start.ts';
import { suggestSoon } from '../../shared/suggestSoon.ts';
import { broughtFile, gatherFile } from './file.ts';
import { fromCrawl } from './fromCrawl.ts';
import { fromIndex } from './fromIndex.ts';
import { fromSitemap } from './fromSitemap.ts';
import { takeGathering } from './take.ts';

const keptFile = broughtFile.extend({ source: z.literal('file'), kept: z.uuid() });
const fetched = z.object({
  source: z.enum(FETCHED),
  address: z.string(),
  domain: z.string().optional(),
  by: z.uuid(),
});
const body = z.discriminatedUnion('source', [keptFile, fetched]);

export async function takeFetched(
  deps: Deps,
  request: { site: string; by: string; source: (typeof FETCHED)[number]; address: string; domain?: string | undefined },
): Promise<{ job: string }> {
  const start = readStart(request.address);
  const { site, by, source, domain } = request;
  return deps.db.transaction(async (tx) => ({
    job: await enqueue(tx, { kind: 'gather', site, body: { source, address: start.href, domain, by }, by }),
  }));
}

export function gatherJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const asked = body.parse(job.body);
      if (asked.source !== 'file') return fetchThem(deps, job, asked);
      await gatherFile(deps, asked, deps.keptUploads.find(asked.kept), job);
      await deps.keptUploads.drop(asked.kept);
    },
    async undo(job) {
      const asked = body.parse(job.body);
      if (asked.source === 'file') await deps.keptUploads.drop(asked.kept);
    },
  };
}

async function fetchThem(
  deps: Deps,
  job: JobRun,
  { source, address, domain, by }: z.infer<typeof fetched>,
): Promise<void> {
  const url = new URL(address);
  const ask = createAsk(deps.world.fetch, deps.config.crawl, deps.config.limits.fileBytes, job.signal);
  const { sightings, notRead } =
    source === 'crawl'
      ? await fromCrawl(deps, url, ask, job)
      : source === 'index'
        ? await fromIndex(url, domain, ask, job)
        : await fromSitemap(url, ask, job);
  if (sightings.length === 0)
    throw new DomainError('gather-nothing', { address: url.href, why: reason('none-listed') });
  await deps.db.transaction(async (tx) => {
    await takeGathering(
      tx,
      {
        site: job.site,
        by,
        source,
        name: source === 'index' ? `${url.host}: ${domain ?? ''}` : url.href,
        job: job.id,
      },
      sightings,
      notRead,
    );
    await suggestSoon(tx, job.site, by);
  });
}
