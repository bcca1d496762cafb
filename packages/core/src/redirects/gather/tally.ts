/** Requests added up by address, in memory that does not grow with the log. */
import { formatAddress, parseAddress } from '../../address/index.ts';
import type { LogRequest } from './accessLog.ts';
import type { Asked } from './kind.ts';

export interface Tallied extends Asked {
  readonly address: string;
  /** As the log names it, where it does. */
  readonly host: string | undefined;
  readonly lastSeenMs: number;
  /** Of the last request. */
  readonly status: number;
}

/** Most programs that come by themselves say so by one of these (common practice, no source). */
const ROBOT =
  /bot\b|bot[/;]|crawl|spider|slurp|archiver|monitor|check|scan|curl|wget|python|java\/|go-http|libwww|httpclient|headless|preview|feed|fetch/i;

/** @param agent the User-Agent header; who sends none is taken for a person */
export const isRobot = (agent: string | undefined): boolean => agent !== undefined && ROBOT.test(agent);

/** Far beyond the addresses of any site; what was asked for once and failed goes first. */
const MOST_ADDRESSES = 400_000;

type Entry = { -readonly [K in keyof Tallied]: Tallied[K] };

export class Tally {
  readonly #entries = new Map<string, Entry>();
  #dropped = 0;

  /** Addresses that were let go of to stay within bounds. */
  get dropped(): number {
    return this.#dropped;
  }

  /** Only what asks for something to look at counts: GET and HEAD (RFC 9110, section 9.3). */
  add({ method, target, status, atMs, referrer, agent }: LogRequest): void {
    if (method !== 'GET' && method !== 'HEAD') return;
    const parsed = parseAddress(target);
    if (!parsed.ok) return;
    const address = formatAddress(parsed.address);
    const key = parsed.host === undefined ? address : `//${parsed.host}${address}`;
    let entry = this.#entries.get(key);
    if (!entry) {
      if (this.#entries.size >= MOST_ADDRESSES) this.#makeRoom();
      entry = {
        address,
        host: parsed.host,
        visits: 0,
        robotVisits: 0,
        answered: 0,
        referred: 0,
        lastSeenMs: atMs,
        status,
      };
      this.#entries.set(key, entry);
    }
    if (isRobot(agent)) entry.robotVisits += 1;
    else entry.visits += 1;
    if (status >= 200 && status < 400) entry.answered += 1;
    if (referrer !== undefined) entry.referred += 1;
    if (atMs >= entry.lastSeenMs) Object.assign(entry, { lastSeenMs: atMs, status });
  }

  all(): IterableIterator<Tallied> {
    return this.#entries.values();
  }

  #makeRoom(): void {
    for (const isLess of [
      (entry: Entry) => entry.answered === 0 && entry.visits + entry.robotVisits === 1,
      (entry: Entry) => entry.visits + entry.robotVisits <= 2,
      (entry: Entry) => entry.visits < 10,
    ]) {
      for (const [key, entry] of this.#entries)
        if (isLess(entry)) {
          this.#entries.delete(key);
          this.#dropped += 1;
        }
      if (this.#entries.size < MOST_ADDRESSES * 0.8) return;
    }
  }
}
