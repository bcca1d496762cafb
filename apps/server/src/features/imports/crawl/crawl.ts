/** Going through a running site: every answer kept on disk, every link followed, nothing asked for twice. */
import { DomainError } from '@fastigium/contracts/errors';
import type { NoteCode } from '@fastigium/contracts/messages/importNote';
import {
  findAddressWithin,
  Frontier,
  isPageType,
  Names,
  type AnswerKind,
  type CrawlScope,
} from '@fastigium/core/crawl';
import { createHash } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { CrawlLimits, ImportLimits } from '../../../config/config.ts';
import type { WebAnswer, WebFailure } from '../../../adapters/web/fetcher.ts';
import { CRAWLER } from '../../../adapters/world/world.ts';
import type { JobRun } from '../../../jobs/queue.ts';
import type { Threads } from '../../../threads/pool.ts';
import type { Note } from '../source.ts';
import type { Ask } from './ask.ts';
import { judgeType } from './contentType.ts';
import { readSitemapAddresses } from './sitemaps.ts';
import { startAt } from './start.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

export interface CrawledFile {
  /** Path in the site. */
  readonly path: string;
  /** Absolute address it answered at. */
  readonly url: string;
  readonly kind: AnswerKind | 'other';
  readonly sizeBytes: number;
  /** Where its bytes lie. */
  readonly onDisk: string;
  /** Normal addresses inside the site it refers to. */
  readonly leadsTo: readonly string[];
}

export interface CrawledSite {
  readonly scope: CrawlScope;
  readonly files: readonly CrawledFile[];
  /** The file that each address of the site was kept as; several addresses may share one. */
  readonly fileOf: ReadonlyMap<string, string>;
  readonly notes: readonly Note[];
}

export interface CrawlOptions {
  readonly start: URL;
  readonly ask: Ask;
  readonly threads: Threads;
  readonly limits: CrawlLimits;
  readonly importLimits: ImportLimits;
  /** Folder for the answers; whoever made it takes it away. */
  readonly folder: string;
  readonly job: Pick<JobRun, 'signal' | 'report'>;
}

const AT_ONCE = 4;
const MOST_NOTES = 5000;

const FAILURE_NOTES: Readonly<Record<WebFailure['reason'], NoteCode>> = {
  private: 'crawl-private',
  'unknown-name': 'crawl-no-answer',
  unreachable: 'crawl-no-answer',
  broken: 'crawl-no-answer',
  certificate: 'crawl-no-answer',
  slow: 'crawl-slow',
  'too-large': 'too-large',
};

export async function crawl(options: CrawlOptions): Promise<CrawledSite> {
  const { ask, limits, importLimits, job } = options;
  const begunMs = performance.now();
  job.report({ step: progressStep('asking-for-robots'), done: 0, total: 0, unit: 'files' });
  const { scope, origin, address, robots } = await startAt(options.start, ask);
  const frontier = new Frontier({ robots, agent: CRAWLER, bound: Math.min(limits.addresses, importLimits.files) });
  const keeper = new Keeper(options, scope);
  frontier.add(address);
  frontier.add('/');
  for (const listed of await readSitemapAddresses(robots, scope, origin, ask)) frontier.add(listed);
  let asked = 0;

  const visit = async (next: string) => {
    const url = new URL(origin + next);
    const answer = await ask(url);
    const other = findSameElsewhere(scope, next, url, answer);
    const found = other ? await keeper.take(next, other, await ask(other)) : await keeper.take(next, url, answer);
    for (const each of found) frontier.add(each);
    asked += 1;
    job.report({ step: progressStep('crawling'), done: asked, total: frontier.known, unit: 'files' });
  };

  const inFlight = new Set<Promise<void>>();
  const failures: unknown[] = [];
  try {
    while (failures.length === 0) {
      job.signal.throwIfAborted();
      const isOver = keeper.bytes > importLimits.totalBytes || performance.now() - begunMs > limits.totalMs;
      const next = isOver ? undefined : frontier.next();
      if (next === undefined) {
        if (inFlight.size === 0) break;
        await Promise.race(inFlight);
        continue;
      }
      const work = visit(next)
        .catch((error: unknown) => void failures.push(error))
        .finally(() => inFlight.delete(work));
      inFlight.add(work);
      if (inFlight.size >= AT_ONCE) await Promise.race(inFlight);
    }
  } finally {
    await Promise.all(inFlight);
  }
  if (failures.length > 0) throw failures[0];
  for (let left = frontier.next(); left !== undefined; left = frontier.next()) keeper.note('crawl-bound', left);
  for (const [left, why] of frontier.left)
    keeper.note(why === 'robots' ? 'crawl-robots' : why === 'trap' ? 'crawl-trap' : 'crawl-bound', left);
  return keeper.settle();
}

/** Where a redirect changes only the scheme or the `www.`, as old sites do for some of their pages. */
function findSameElsewhere(
  scope: CrawlScope,
  address: string,
  url: URL,
  answer: WebAnswer | WebFailure,
): URL | undefined {
  if (
    !answer.ok ||
    answer.status < 300 ||
    answer.status >= 400 ||
    answer.location === undefined ||
    !URL.canParse(answer.location, url.href)
  )
    return undefined;
  const target = new URL(answer.location, url);
  return target.origin !== url.origin && findAddressWithin(scope, target) === address ? target : undefined;
}

/** What came back, address by address. */
class Keeper {
  readonly #options: CrawlOptions;
  readonly #scope: CrawlScope;
  readonly #names = new Names();
  readonly #files: CrawledFile[] = [];
  readonly #fileOf = new Map<string, string>();
  readonly #sentOn = new Map<string, string>();
  /** Pages by the hash of what they hold: `/` and `/index.php` are one. */
  readonly #pages = new Map<string, string>();
  readonly #notes: Note[] = [];
  bytes = 0;

  constructor(options: CrawlOptions, scope: CrawlScope) {
    this.#options = options;
    this.#scope = scope;
  }

  note(code: NoteCode, path: string): void {
    if (this.#notes.length < MOST_NOTES) this.#notes.push({ code, path });
  }

  /** @returns the normal addresses to go on with */
  async take(address: string, url: URL, answer: WebAnswer | WebFailure): Promise<readonly string[]> {
    if (!answer.ok) {
      this.note(FAILURE_NOTES[answer.reason], address);
      return [];
    }
    if (answer.status >= 300 && answer.status < 400) return this.#takeRedirect(address, url, answer.location);
    if (answer.status !== 200) {
      this.note('crawl-error', `${address} (${answer.status})`);
      return [];
    }
    return this.#keep(address, url, answer);
  }

  #takeRedirect(address: string, url: URL, location: string | undefined): readonly string[] {
    const target = location !== undefined && URL.canParse(location, url.href) ? new URL(location, url) : undefined;
    const inside = target && findAddressWithin(this.#scope, target);
    if (inside === undefined) {
      this.note('crawl-elsewhere', target === undefined ? address : `${address} → ${target.href}`);
      return [];
    }
    if (inside === address) this.note('crawl-circle', address);
    else this.#sentOn.set(address, inside);
    return inside === address ? [] : [inside];
  }

  async #keep(address: string, url: URL, { body, type: declared, charset }: WebAnswer): Promise<readonly string[]> {
    const { threads, folder, job } = this.#options;
    const { type, lies } = await judgeType(body, declared, address);
    if (lies) this.note('crawl-type', address);
    const kind = isPageType(type) ? 'page' : type === 'text/css' ? 'style' : 'other';
    let bytes: Uint8Array = body;
    let links: readonly string[] = [];
    if (kind !== 'other' && body.length <= this.#options.importLimits.pageBytes) {
      const read = await threads.readAnswer({ bytes: body, kind, url: url.href, charset }, job.signal);
      ({ bytes, links } = read);
      if (read.recoded) this.note('crawl-recoded', address);
    }
    // No step waits between the look and the entry, so of two equal pages that come at once one is first.
    const hash = kind === 'page' ? createHash('sha256').update(bytes).digest('hex') : undefined;
    const same = hash === undefined ? undefined : this.#pages.get(hash);
    if (same !== undefined) {
      this.#fileOf.set(address, same);
      return [];
    }
    const path = this.#names.nameFor(address, type);
    if (hash !== undefined) this.#pages.set(hash, path);
    this.#fileOf.set(address, path);
    this.bytes += bytes.length;
    const leadsTo = [...new Set(links.flatMap((href) => findAddressWithin(this.#scope, new URL(href)) ?? []))];
    const onDisk = join(folder, String(this.#files.length));
    this.#files.push({ path, url: url.href, kind, sizeBytes: bytes.length, onDisk, leadsTo });
    await writeFile(onDisk, bytes);
    return leadsTo;
  }

  settle(): CrawledSite {
    if (!this.#files.some(({ kind }) => kind === 'page'))
      throw new DomainError('crawl-no-pages', { host: this.#options.start.host });
    for (const address of this.#sentOn.keys()) {
      const end = this.#endOf(address);
      if (end === undefined) this.note('crawl-circle', address);
      const file = end === undefined ? undefined : this.#fileOf.get(end);
      if (file !== undefined) this.#fileOf.set(address, file);
    }
    return { scope: this.#scope, files: this.#files, fileOf: this.#fileOf, notes: this.#notes };
  }

  /** Where a row of redirects ends; undefined where it does not. */
  #endOf(address: string): string | undefined {
    const seen = new Set<string>();
    let at = address;
    for (let next = this.#sentOn.get(at); next !== undefined; next = this.#sentOn.get(at)) {
      if (seen.has(at)) return undefined;
      seen.add(at);
      at = next;
    }
    return at;
  }
}
