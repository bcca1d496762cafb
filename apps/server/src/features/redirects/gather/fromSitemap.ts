/** What a sitemap lists, or those that a site's robots.txt names where only the site is given. */
import { DomainError } from '@fastigium/contracts/errors';
import { readScope } from '@fastigium/core/crawl';
import type { NotRead } from '@fastigium/core/redirects';
import type { JobRun } from '../../../jobs/queue.ts';
import type { Ask } from '../../imports/crawl/ask.ts';
import { readListedSitemaps } from '../../imports/crawl/sitemaps.ts';
import { startAt } from '../../imports/crawl/start.ts';
import type { Sighting } from '@fastigium/core/redirects/gather';
import { progressStep } from '@fastigium/contracts/messages/progress';
import { reason } from '@fastigium/contracts/messages/reason';

export async function fromSitemap(
  url: URL,
  ask: Ask,
  job: Pick<JobRun, 'report'>,
): Promise<{ sightings: Sighting[]; notRead: NotRead[] }> {
  job.report({ step: progressStep('fetching-sitemap'), done: 0, total: 0, unit: 'addresses' });
  const isSite = url.pathname === '/';
  const addresses = isSite
    ? await askSite(url, ask)
    : await readListedSitemaps([url.href], readScope(url), url.origin, ask);
  if (addresses.length === 0)
    throw new DomainError('gather-nothing', {
      address: url.href,
      why: reason(isSite ? 'no-sitemap-of-site' : 'no-sitemap'),
    });
  return { sightings: addresses.map((address) => ({ address, host: url.host })), notRead: [] };
}

async function askSite(url: URL, ask: Ask): Promise<string[]> {
  const { robots, scope, origin } = await startAt(url, ask);
  return readListedSitemaps([...robots.sitemaps, '/sitemap.xml'], scope, origin, ask);
}
