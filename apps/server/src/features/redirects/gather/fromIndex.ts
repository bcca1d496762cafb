/** A search index asked for all it has of one domain, page after page. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import type { Message } from '@fastigium/core/messages';
import { unread, type NotRead } from '@fastigium/core/redirects';
import { readFeedTemplate, fillTemplate, readIndexPage, type IndexPage } from '@fastigium/core/redirects/gather';
import type { JobRun } from '../../../jobs/queue.ts';
import type { Ask } from '../../imports/crawl/ask.ts';
import type { Sighting } from '@fastigium/core/redirects/gather';
import { progressStep } from '@fastigium/contracts/messages/progress';

/** Indexes give ten to a hundred at a time; nobody has to be asked for ever. */
const MOST_PAGES = 200;

export async function fromIndex(
  description: URL,
  domain: string | undefined,
  ask: Ask,
  job: Pick<JobRun, 'report'>,
): Promise<{ sightings: Sighting[]; notRead: NotRead[] }> {
  const nothing = (why: Message) => new DomainError('gather-nothing', { address: description.href, why });
  if (domain === undefined || domain === '') throw nothing(reason('say-domain'));
  const described = await askText(description, ask);
  const found = described === undefined ? undefined : readFeedTemplate(described);
  if (!found) throw nothing(reason('no-search-description'));
  const sightings: Sighting[] = [];
  const notRead: NotRead[] = [];
  const seen = new Set<string>();
  let next: URL | undefined = fillPageTemplate(
    found.template,
    {
      searchTerms: `site:${domain}`,
      count: '',
      startIndex: String(found.indexOffset),
      startPage: String(found.pageOffset),
      language: '*',
      inputEncoding: 'UTF-8',
      outputEncoding: 'UTF-8',
    },
    description,
    nothing,
  );
  for (let pages = 0; next !== undefined && pages < MOST_PAGES && !seen.has(next.href); pages += 1) {
    seen.add(next.href);
    const text = await askText(next, ask);
    const page: IndexPage | undefined = text === undefined ? undefined : readIndexPage(text);
    if (!page) throw nothing(reason('page-no-feed', { page: pages + 1 }));
    for (const { address: written, title, summary } of page.entries) {
      const parsed = parseAddress(written);
      if (parsed.ok)
        sightings.push({
          address: formatAddress(parsed.address),
          host: parsed.host,
          title: title || undefined,
          text: summary || undefined,
        });
      else
        notRead.push({
          line: sightings.length + notRead.length + 1,
          text: written.slice(0, 200),
          why: unread('no-address'),
        });
    }
    job.report({
      step: progressStep('asking-search-index'),
      done: sightings.length,
      total: page.total ?? 0,
      unit: 'addresses',
    });
    next =
      page.next !== undefined && page.entries.length > 0 && URL.canParse(page.next, next.href)
        ? new URL(page.next, next)
        : undefined;
    // RFC 5005, section 3: pages of one answer come from one server; another one is not asked.
    if (next && next.origin !== description.origin) next = undefined;
  }
  return { sightings, notRead };
}

function fillPageTemplate(
  template: string,
  values: Readonly<Record<string, string>>,
  base: URL,
  nothing: (why: Message) => DomainError,
): URL {
  try {
    return new URL(fillTemplate(template, values), base);
  } catch (error) {
    throw error instanceof RangeError
      ? nothing(reason('asks-unknown', { text: error.message }))
      : nothing(reason('address-unreadable'));
  }
}

async function askText(url: URL, ask: Ask): Promise<string | undefined> {
  const answer = await ask(url);
  return answer.ok && answer.status === 200 ? answer.body.toString('utf8') : undefined;
}
