/** Where a crawl begins: the address a person typed, followed to where the site really answers, and its robots.txt. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { findAddressWithin, readScope, type CrawlScope } from '@fastigium/core/crawl';
import { isAllowed, parseRobots, findRobotsRule, type Robots } from '@fastigium/core/robots';
import { CRAWLER } from '../../../adapters/world/world.ts';
import type { WebFailure } from '../../../adapters/web/fetcher.ts';
import type { Ask } from './ask.ts';

export interface CrawlStart {
  readonly scope: CrawlScope;
  /** Scheme and host the site answers at. */
  readonly origin: string;
  /** Normal address of the first page. */
  readonly address: string;
  readonly robots: Robots;
}

// RFC 9309 section 2.3.1.2: at least five redirects are followed.
const MOST_HOPS = 5;

/** Reads `old-site.example`, `http://www.old-site.example/start`. Throws `crawl-address`. */
export function readStart(typed: string): URL {
  const text = typed.trim();
  const whole = /^[a-z][a-z0-9+.-]*:\/\//i.test(text) ? text : `http://${text}`;
  const url = URL.canParse(whole) ? new URL(whole) : undefined;
  if (
    !url ||
    (url.protocol !== 'http:' && url.protocol !== 'https:') ||
    url.username !== '' ||
    url.password !== '' ||
    !/[.:]|^localhost$/.test(url.hostname)
  )
    throw new DomainError('crawl-address', { address: text });
  url.hash = '';
  return url;
}

/** Throws a DomainError that says why the site cannot be crawled. */
export async function startAt(typed: URL, ask: Ask): Promise<CrawlStart> {
  const scope = readScope(typed);
  let url = typed;
  for (let hop = 0; hop <= MOST_HOPS; hop += 1) {
    const address = findAddressWithin(scope, url);
    if (address === undefined) throw new DomainError('crawl-elsewhere', { address: typed.href, target: url.href });
    const robots = await readRobots(url, ask);
    if (!isAllowed(robots, CRAWLER, address))
      throw new DomainError('crawl-shut', {
        host: url.host,
        line: findRobotsRule(robots, CRAWLER, address)?.line ?? 0,
      });
    const answer = await ask(url);
    if (!answer.ok) throw describeRefusal(url, answer);
    if (answer.status >= 300 && answer.status < 400 && answer.location !== undefined) {
      url = readTarget(answer.location, url);
      continue;
    }
    if (answer.status >= 400)
      throw new DomainError('crawl-unreachable', {
        address: url.href,
        detail: reason('answers-status', { status: answer.status }),
      });
    return { scope, origin: url.origin, address, robots };
  }
  throw new DomainError('crawl-unreachable', { address: typed.href, detail: reason('in-a-circle') });
}

/** RFC 9309 section 2.3.1: a robots.txt that is not there shuts nothing, one that cannot be reached shuts all. */
async function readRobots(site: URL, ask: Ask): Promise<Robots> {
  let url = new URL('/robots.txt', site);
  for (let hop = 0; hop <= MOST_HOPS; hop += 1) {
    const answer = await ask(url);
    if (!answer.ok) {
      if (answer.reason === 'private' || answer.reason === 'unknown-name') throw describeRefusal(url, answer);
      throw new DomainError('crawl-robots-unreachable', { host: site.host, detail: answer.detail });
    }
    if (answer.status >= 300 && answer.status < 400 && answer.location !== undefined)
      url = readTarget(answer.location, url);
    else if (answer.status >= 500)
      throw new DomainError('crawl-robots-unreachable', {
        host: site.host,
        detail: reason('answers-status', { status: answer.status }),
      });
    else return parseRobots(answer.status >= 200 && answer.status < 300 ? answer.body.toString('utf8') : '');
  }
  return parseRobots('');
}

function readTarget(location: string, from: URL): URL {
  if (!URL.canParse(location, from.href))
    throw new DomainError('crawl-unreachable', {
      address: from.href,
      detail: reason('sends-nowhere'),
    });
  return new URL(location, from);
}

function describeRefusal(url: URL, { reason: why, detail }: WebFailure): DomainError {
  return why === 'private'
    ? new DomainError('crawl-private', { host: url.host, detail })
    : new DomainError('crawl-unreachable', { address: url.href, detail });
}
