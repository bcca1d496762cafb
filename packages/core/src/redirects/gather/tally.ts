/** Requests added up by address, in memory that does not grow with the log. */
import { formatAddress, parseAddress } from '../../address/index.ts';
import { decodeText } from '../../text/index.ts';
import { splitHost, writeWithHost } from '../oldHost.ts';
import type { LogRequest } from './accessLog.ts';
import { isNoise, judgeKind, type Asked } from './kind.ts';
import { ByteTable } from './byteTable.ts';
import { keepMostVisited, type GatheredAddress, type GatheredAddresses, type SightingContext } from './sightings.ts';

export interface Tallied extends Asked {
  /** Normal address; with its host where that is an old domain that is told apart. */
  readonly address: string;
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
export const MOST_ADDRESSES = 2_500_000;
/** Room is made down to this share, so that it is seldom made. */
const ROOM = 0.8;
/** A log has few browsers beside its requests; beyond so many they are asked about one by one. */
const MOST_AGENTS = 20_000;
/** Their versions stand last. */
const AGENT_LETTERS = 24;

/** Addresses that are normal as they stand: unreserved characters (RFC 3986, section 2.3), and no segment of dots. */
const PLAIN = /^\/(?:[\w~-][\w.~-]*\/)*(?:[\w~-][\w.~-]*)?(?:\?[\w.~=&/-]+)?$/;

export interface TallyOptions extends Pick<SightingContext, 'domains' | 'domain'> {
  /** Addresses that are held. */
  readonly most: number;
}

/** Where something stands among bytes. */
interface Place {
  readonly from: number;
  /** -1 where it is not there. */
  readonly to: number;
}

/** What a request says beside what it is for and by whom. */
interface Asking {
  readonly status: number;
  /** Milliseconds since 1970, UTC. */
  readonly atMs: number;
  /** Whether it came by a link. */
  readonly isReferred: boolean;
}

const encoder = new TextEncoder();

/** Where a number stands in the columns of one address. */
const COLUMNS = ['visits', 'robotVisits', 'answered', 'referred', 'status'] as const;
const [VISITS, ROBOT_VISITS, ANSWERED, REFERRED, STATUS] = [0, 1, 2, 3, 4];

export class Tally {
  readonly #options: TallyOptions;
  #addresses = new ByteTable();
  /** A row of COLUMNS for each address. */
  #counts = new Uint32Array(1024 * COLUMNS.length);
  #lastSeenMs = new Float64Array(1024);
  readonly #agents = new ByteTable(AGENT_LETTERS);
  readonly #robots: boolean[] = [];
  #dropped = 0;

  constructor({ domains = new Set(), domain, most = MOST_ADDRESSES }: Partial<TallyOptions> = {}) {
    this.#options = { domains, domain, most };
  }

  /** Addresses that were let go of to stay within bounds; one that came again counts again. */
  get dropped(): number {
    return this.#dropped;
  }

  /** Browsers and robots whose names are known again. */
  get agents(): number {
    return this.#agents.size;
  }

  /** Only what asks for something to look at counts: GET and HEAD (RFC 9110, section 9.3). */
  add({ method, target, status, atMs, referrer, agent }: LogRequest): void {
    if (method !== 'GET' && method !== 'HEAD') return;
    const address = this.#readAddress(target);
    if (address === undefined) return;
    const bytes = encoder.encode(address);
    const known = this.#addresses.find(bytes, 0, bytes.length);
    const isReferred = referrer !== undefined;
    this.#count(known < 0 ? this.#addRow(bytes) : known, { status, atMs, isReferred }, isRobot(agent));
  }

  /**
   * A request for something to look at, as it stands in a line.
   * @returns false, and counts nothing, where it has to be read apart
   */
  countPlain(text: Uint8Array, target: Place, agent: Place, asking: Asking): boolean {
    if (this.#options.domain !== undefined) return false;
    const known = agent.to < 0 ? -1 : this.#agents.find(text, agent.from, agent.to);
    const name = known >= 0 || agent.to < 0 ? undefined : decodeText(text.subarray(agent.from, agent.to), 'utf-8');
    // What is escaped in it means another letter.
    if (name?.includes('\\')) return false;
    let row = this.#addresses.find(text, target.from, target.to);
    if (row < 0) {
      const bytes = text.subarray(target.from, target.to);
      if (!PLAIN.test(decodeText(bytes, 'utf-8'))) return false;
      row = this.#addRow(bytes);
    }
    this.#count(
      row,
      asking,
      known < 0 ? this.#learnRobot(name, text.subarray(agent.from, agent.to)) : (this.#robots[known] ?? false),
    );
    return true;
  }

  #count(row: number, { status, atMs, isReferred }: Asking, isOfRobot: boolean): void {
    const [counts, at] = [this.#counts, row * COLUMNS.length];
    const column = at + (isOfRobot ? ROBOT_VISITS : VISITS);
    counts[column] = (counts[column] ?? 0) + 1;
    if (status >= 200 && status < 400) counts[at + ANSWERED] = (counts[at + ANSWERED] ?? 0) + 1;
    if (isReferred) counts[at + REFERRED] = (counts[at + REFERRED] ?? 0) + 1;
    if (atMs >= (this.#lastSeenMs[row] ?? 0)) {
      this.#lastSeenMs[row] = atMs;
      counts[at + STATUS] = status;
    }
  }

  *all(): Generator<Tallied> {
    for (let row = 0; row < this.#addresses.size; row += 1) yield this.#read(row);
  }

  /** What a log has to say of old addresses: noise is counted, and the most visited of it kept. */
  gather(): GatheredAddresses {
    const rows: GatheredAddress[] = [];
    const noise: number[] = [];
    let files = 0;
    for (let row = 0; row < this.#addresses.size; row += 1) {
      const asked = this.#read(row);
      // Nearly all that is noise is told by its figures alone.
      const kind = isNoise(asked) ? undefined : judgeAsked(asked);
      if (kind === undefined || kind.kind === 'noise') noise.push(row);
      else {
        if (kind.kind === 'file') files += 1;
        rows.push({ ...writeSighting(asked), kind });
      }
    }
    const kept = keepMostVisited(noise, (row) => this.#readCount(row, VISITS) + this.#readCount(row, ROBOT_VISITS));
    for (const row of kept) {
      const asked = this.#read(row);
      rows.push({ ...writeSighting(asked), kind: judgeAsked(asked) });
    }
    return {
      rows,
      read: this.#addresses.size + this.#dropped,
      files,
      noise: noise.length + this.#dropped,
      leftOut: noise.length - kept.length + this.#dropped,
    };
  }

  #readCount(row: number, column: number): number {
    return this.#counts[row * COLUMNS.length + column] ?? 0;
  }

  #read(row: number): Tallied {
    return {
      address: decodeText(this.#addresses.at(row), 'utf-8'),
      visits: this.#readCount(row, VISITS),
      robotVisits: this.#readCount(row, ROBOT_VISITS),
      answered: this.#readCount(row, ANSWERED),
      referred: this.#readCount(row, REFERRED),
      lastSeenMs: this.#lastSeenMs[row] ?? 0,
      status: this.#readCount(row, STATUS),
    };
  }

  #addRow(address: Uint8Array): number {
    if (this.#addresses.size >= this.#options.most) this.#makeRoom();
    const row = this.#addresses.add(address);
    if (row >= this.#lastSeenMs.length) this.#grow();
    this.#counts.fill(0, row * COLUMNS.length, (row + 1) * COLUMNS.length);
    this.#lastSeenMs[row] = 0;
    return row;
  }

  #readAddress(target: string): string | undefined {
    const { domains, domain } = this.#options;
    const parsed = parseAddress(target);
    if (!parsed.ok) return undefined;
    const host = parsed.host ?? domain;
    const address = formatAddress(parsed.address);
    return host !== undefined && domains.has(host) ? writeWithHost(host, address) : address;
  }

  #grow(): void {
    const [counts, lastSeenMs] = [this.#counts, this.#lastSeenMs];
    this.#counts = new Uint32Array(counts.length * 2);
    this.#counts.set(counts);
    this.#lastSeenMs = new Float64Array(lastSeenMs.length * 2);
    this.#lastSeenMs.set(lastSeenMs);
  }

  /** @param bytes by which it is known again: what is no UTF-8 has others than its text */
  #learnRobot(agent: string | undefined, bytes: Uint8Array): boolean {
    const is = isRobot(agent);
    if (agent !== undefined && this.#agents.size < MOST_AGENTS) this.#robots[this.#agents.add(bytes)] = is;
    return is;
  }

  #makeRoom(): void {
    const most = this.#options.most * ROOM;
    let left = this.#addresses.size;
    const isOut = new Uint8Array(left);
    for (const isLess of [
      ({ answered, visits, robotVisits }: Tallied) => answered === 0 && visits + robotVisits === 1,
      ({ visits, robotVisits }: Tallied) => visits + robotVisits <= 2,
      ({ visits }: Tallied) => visits < 10,
      () => true,
    ])
      for (let row = 0; row < this.#addresses.size && left >= most; row += 1)
        if (isOut[row] === 0 && isLess(this.#read(row))) {
          isOut[row] = 1;
          left -= 1;
        }
    this.#dropped += this.#addresses.size - left;
    this.#keepOnly((row) => isOut[row] === 0);
  }

  #keepOnly(isKept: (row: number) => boolean): void {
    const addresses = new ByteTable();
    for (let row = 0; row < this.#addresses.size; row += 1) {
      if (!isKept(row)) continue;
      const to = addresses.add(this.#addresses.at(row));
      this.#counts.copyWithin(to * COLUMNS.length, row * COLUMNS.length, (row + 1) * COLUMNS.length);
      this.#lastSeenMs[to] = this.#lastSeenMs[row] ?? 0;
    }
    this.#addresses = addresses;
  }
}

/** An address is judged by itself, whatever its domain is called. */
const judgeAsked = (asked: Tallied) => judgeKind(splitHost(asked.address).address, asked, false);

const writeSighting = (asked: Tallied) => ({
  address: asked.address,
  visits: asked.visits,
  lastSeenMs: asked.lastSeenMs,
  status: asked.status,
});
