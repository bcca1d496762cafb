/** Old addresses fetched from outside: a sitemap, a search index, or the old site itself. */
import { FETCHED } from '@fastigium/contracts/api/redirects';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { z } from 'zod';
import type { Deps } from '../../../deps.ts';
import { enqueue, type JobHandler } from '../../../jobs/queue.ts';
import { createAsk } from '../../imports/crawl/ask.ts';
import { readStart } from '../../imports/crawl/start.ts';
import { suggestSoon } from '../../shared/suggestSoon.ts';
import { fromCrawl } from './fromCrawl.ts';
import { fromIndex } from './fromIndex.ts';
import { fromSitemap } from './fromSitemap.ts';
import { takeGathering } from './take.ts';

const body = z.object({ source: z.enum(FETCHED), address: z.string(), domain: z.string().optional(), by: z.uuid() });

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
      const { source, address, domain, by } = body.parse(job.body);
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
          { site: job.site, by, source, name: source === 'index' ? `${url.host}: ${domain ?? ''}` : url.href },
          sightings,
          notRead,
        );
        await suggestSoon(tx, job.site, by);
      });
    },
  };
}
