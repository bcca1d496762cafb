/** What an access log says of a live site, counted by hour and by address, in memory that does not grow with the log. */
import { judgeAdmission, isRestricted, OPEN_TO_ALL, type SiteAccess } from '../access/index.ts';
import { formatAddress, parseAddress } from '../address/index.ts';
import { formatIsoDay } from '../reach/index.ts';
import { isRobot, type LogRequest } from '../redirects/gather/index.ts';

/** How a request ended: RFC 9110 section 15, told as visitors meet it. */
export const OUTCOMES = ['found', 'redirected', 'lost', 'gone', 'failed'] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** By people, except `robots`. */
export type HourCount = { readonly hourMs: number; readonly robots: number } & Readonly<Record<Outcome, number>>;

export interface AddressCount {
  /** `2026-11-26`, in UTC. */
  readonly day: string;
  /** Normal address; with its host, `//old.example/a`, where the log names one. */
  readonly address: string;
  readonly outcome: Exclude<Outcome, 'found'>;
  readonly visits: number;
  readonly robotVisits: number;
  readonly lastMs: number;
  /** The last address a visitor of it came from. */
  readonly referrer: string | undefined;
}

/** What Fastigium itself says it is when it asks; such requests are no visits. */
export const OWN_AGENT = 'Fastigium';

/** Far beyond the dead links of any site; further ones count by hour only. */
const MOST_ADDRESSES = 50_000;
const HOUR_MS = 3_600_000;

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

export class LogCounts {
  readonly #hours = new Map<number, Mutable<HourCount>>();
  readonly #addresses = new Map<string, Mutable<AddressCount>>();

  readonly #access: SiteAccess;

  /** @param access who may visit by the live release: whoever is kept out as it says met no failing host */
  constructor(access: SiteAccess = OPEN_TO_ALL) {
    this.#access = access;
  }

  /** Only what asks for something to look at counts: GET and HEAD (RFC 9110 section 9.3). */
  add({ method, target, status, atMs, referrer, agent }: LogRequest): void {
    if ((method !== 'GET' && method !== 'HEAD') || agent === OWN_AGENT) return;
    const outcome = judgeOutcome(status);
    if (outcome === undefined || this.#isKeptOut(status, target, atMs)) return;
    const robot = isRobot(agent);
    const hour = this.#hour(Math.floor(atMs / HOUR_MS) * HOUR_MS);
    if (robot) hour.robots += 1;
    else hour[outcome] += 1;
    if (outcome === 'found') return;
    const parsed = parseAddress(target);
    if (!parsed.ok) return;
    const address = formatAddress(parsed.address);
    const entry = this.#address(
      formatIsoDay(atMs),
      parsed.host === undefined ? address : `//${parsed.host}${address}`,
      outcome,
      atMs,
    );
    if (!entry) return;
    if (robot) entry.robotVisits += 1;
    else entry.visits += 1;
    if (!robot && referrer !== undefined) entry.referrer = referrer.slice(0, 2000);
    entry.lastMs = Math.max(entry.lastMs, atMs);
  }

  #isKeptOut(status: number, target: string, atMs: number): boolean {
    if ((status !== 503 && status !== 410) || !isRestricted(this.#access)) return false;
    const parsed = parseAddress(target);
    const admitted = parsed.ok
      ? judgeAdmission(this.#access, { path: parsed.address.path, file: undefined }, atMs).kind
      : 'everyone';
    return (status === 503 && admitted === 'nobody') || (status === 410 && admitted === 'over');
  }

  hours(): HourCount[] {
    return [...this.#hours.values()].sort((a, b) => a.hourMs - b.hourMs);
  }

  addresses(): AddressCount[] {
    return [...this.#addresses.values()];
  }

  #hour(hourMs: number): Mutable<HourCount> {
    let entry = this.#hours.get(hourMs);
    if (!entry)
      this.#hours.set(hourMs, (entry = { hourMs, robots: 0, found: 0, redirected: 0, lost: 0, gone: 0, failed: 0 }));
    return entry;
  }

  #address(
    day: string,
    address: string,
    outcome: AddressCount['outcome'],
    atMs: number,
  ): Mutable<AddressCount> | undefined {
    const key = `${day} ${outcome} ${address}`;
    let entry = this.#addresses.get(key);
    if (!entry && this.#addresses.size < MOST_ADDRESSES)
      this.#addresses.set(
        key,
        (entry = { day, address, outcome, visits: 0, robotVisits: 0, lastMs: atMs, referrer: undefined }),
      );
    return entry;
  }
}

/** Undefined for what says nothing of the site: an answer to a wrong request, or one that is still to come. */
export function judgeOutcome(status: number): Outcome | undefined {
  if (status >= 500) return 'failed';
  if (status === 404) return 'lost';
  if (status === 410) return 'gone';
  if (status === 304 || (status >= 200 && status < 300)) return 'found';
  return status >= 300 && status < 400 ? 'redirected' : undefined;
}
