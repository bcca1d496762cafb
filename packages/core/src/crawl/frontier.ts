/** What a crawl still has to ask for, and what it will not: a queue in the order of finding, bounded. */
import { splitAddress } from '../address/index.ts';
import { isAllowed, type Robots } from '../robots/index.ts';

/** Why an address is not asked for. */
export type NotAsked = 'robots' | 'trap' | 'bound';

export interface FrontierOptions {
  readonly robots: Robots;
  /** Product token, RFC 9309 section 2.2.1. */
  readonly agent: string;
  /** Most addresses to ask for. */
  readonly bound: number;
}

/** Common practice, no source: deeper, longer or more varied than this is made by a script without end. */
const MOST_SEGMENTS = 24;
const MOST_LETTERS = 1024;
const MOST_REPEATS = 3;
const MOST_QUERIES = 500;
/** More would tell nobody anything. */
const MOST_NAMED = 1000;

export class Frontier {
  readonly #options: FrontierOptions;
  readonly #seen = new Set<string>();
  readonly #queries = new Map<string, number>();
  readonly #left = new Map<string, NotAsked>();
  #queue: string[] = [];
  #at = 0;

  constructor(options: FrontierOptions) {
    this.#options = options;
  }

  /** Takes in a normal address; one that is known already changes nothing. */
  add(address: string): void {
    if (this.#seen.has(address)) return;
    const why = this.#whyNot(address);
    if (why === undefined) {
      this.#seen.add(address);
      this.#queue.push(address);
      return;
    }
    // Remembered only as far as it is named, so that an endless row cannot fill the memory.
    if (this.#left.size < MOST_NAMED) this.#left.set(address, why);
  }

  /** The next address to ask for; undefined while there is none. */
  next(): string | undefined {
    const address = this.#queue[this.#at];
    if (address === undefined) return undefined;
    this.#at += 1;
    if (this.#at > 1024) {
      this.#queue = this.#queue.slice(this.#at);
      this.#at = 0;
    }
    return address;
  }

  /** Addresses taken in so far, asked for or not yet. */
  get known(): number {
    return this.#seen.size;
  }

  /** What was not asked for, and why; the first thousand. */
  get left(): ReadonlyMap<string, NotAsked> {
    return this.#left;
  }

  #whyNot(address: string): NotAsked | undefined {
    const { robots, agent, bound } = this.#options;
    if (!isAllowed(robots, agent, address)) return 'robots';
    if (isEndless(address)) return 'trap';
    const { path, query } = splitAddress(address);
    if (query !== undefined) {
      const variants = (this.#queries.get(path) ?? 0) + 1;
      if (variants > MOST_QUERIES) return 'trap';
      if (this.#seen.size < bound) this.#queries.set(path, variants);
    }
    return this.#seen.size >= bound ? 'bound' : undefined;
  }
}

function isEndless(address: string): boolean {
  if (address.length > MOST_LETTERS) return true;
  const segments = splitAddress(address)
    .path.split('/')
    .filter((segment) => segment !== '');
  if (segments.length > MOST_SEGMENTS) return true;
  const counts = new Map<string, number>();
  return segments.some((segment) => {
    const count = (counts.get(segment) ?? 0) + 1;
    counts.set(segment, count);
    return count > MOST_REPEATS;
  });
}
