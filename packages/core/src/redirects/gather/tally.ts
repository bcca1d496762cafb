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
export const MOST_ADDRESSES = 500_000;
/** A log has few browsers beside its requests; beyond so many they are asked about one by one. */
const MOST_AGENTS = 20_000;
/** Room is made down to this share, so that it is seldom made. */
const ROOM = 0.8;

type Entry = { -readonly [K in keyof Tallied]: Tallied[K] };

export class Tally {
  readonly #entries = new Map<string, Entry>();
  readonly #robots = new Map<string, boolean>();
  readonly #most: number;
  #dropped = 0;

  /** @param most addresses that are held */
  constructor(most = MOST_ADDRESSES) {
    this.#most = most;
  }

  /** Addresses that were let go of to stay within bounds; one that came again counts again. */
  get dropped(): number {
    return this.#dropped;
  }

  /** Only what asks for something to look at counts: GET and HEAD (RFC 9110, section 9.3). */
  add({ method, target, status, atMs, referrer, agent }: LogRequest): void {
    if (method !== 'GET' && method !== 'HEAD') return;
    // Most ask in the letters of the normal address, which needs no reading.
    const entry = this.#entries.get(target) ?? this.#findOrAdd(target, atMs, status);
    if (!entry) return;
    if (this.#isRobot(agent)) entry.robotVisits += 1;
    else entry.visits += 1;
    if (status >= 200 && status < 400) entry.answered += 1;
    if (referrer !== undefined) entry.referred += 1;
    if (atMs >= entry.lastSeenMs) [entry.lastSeenMs, entry.status] = [atMs, status];
  }

  #findOrAdd(target: string, atMs: number, status: number): Entry | undefined {
    const parsed = parseAddress(target);
    if (!parsed.ok) return undefined;
    const address = formatAddress(parsed.address);
    const key = parsed.host === undefined ? address : `//${parsed.host}${address}`;
    const known = this.#entries.get(key);
    if (known) return known;
    if (this.#entries.size >= this.#most) this.#makeRoom();
    const entry: Entry = {
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
    return entry;
  }

  #isRobot(agent: string | undefined): boolean {
    if (agent === undefined) return false;
    let is = this.#robots.get(agent);
    if (is === undefined) {
      is = isRobot(agent);
      // A copy: what was cut out of a longer text keeps all of it in memory.
      if (this.#robots.size < MOST_AGENTS) this.#robots.set(JSON.parse(JSON.stringify(agent)) as string, is);
    }
    return is;
  }

  all(): IterableIterator<Tallied> {
    return this.#entries.values();
  }

  #makeRoom(): void {
    for (const isLess of [
      (entry: Entry) => entry.answered === 0 && entry.visits + entry.robotVisits === 1,
      (entry: Entry) => entry.visits + entry.robotVisits <= 2,
      (entry: Entry) => entry.visits < 10,
      () => true,
    ]) {
      for (const [key, entry] of this.#entries) {
        if (this.#entries.size < this.#most * ROOM) return;
        if (isLess(entry)) {
          this.#entries.delete(key);
          this.#dropped += 1;
        }
      }
    }
  }
}
