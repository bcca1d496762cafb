/** What one list or log says of old addresses, one row for each address however often and in however many spellings. */
import { splitHost, writeWithHost } from '../oldHost.ts';
import { judgeKind, type AddressKind, type Asked } from './kind.ts';

/** An old address as one list or log has it. */
export interface Sighting {
  /** Normal address. */
  readonly address: string;
  /** Where a host is named; it counts for old domains that are told apart. */
  readonly host?: string | undefined;
  readonly visits?: number | undefined;
  readonly lastSeenMs?: number | undefined;
  readonly status?: number | undefined;
  readonly title?: string | undefined;
  readonly text?: string | undefined;
  readonly headings?: readonly string[] | undefined;
  readonly language?: string | undefined;
  /** From a log: what was asked, for telling noise. */
  readonly asked?: Asked | undefined;
}

/** What the addresses are those of, and where they are from. */
export interface SightingContext {
  /** Old domains of the site that are told apart. */
  readonly domains: ReadonlySet<string>;
  /** Whose addresses those without a host are; undefined for the site itself. */
  readonly domain: string | undefined;
  /** From a sitemap, a search index, a crawl, a table or a person rather than from a log. */
  readonly isListed: boolean;
  /** Asked of the site as it is live now. */
  readonly isLive: boolean;
}

export interface GatheredAddress extends Sighting {
  readonly kind: AddressKind;
}

export interface GatheredAddresses {
  readonly rows: readonly GatheredAddress[];
  /** How many different addresses there were, those that were left out among them. */
  readonly read: number;
  readonly files: number;
  readonly noise: number;
  /** Noise beyond what is kept: the least visited. */
  readonly leftOut: number;
}

/** So much of what nobody ever followed a link to is kept, the most visited first: enough to see what it is. */
export const MOST_NOISE = 5000;

export function gatherSightings(sightings: Iterable<Sighting>, context: SightingContext): GatheredAddresses {
  const merged = mergeSightings(sightings, context);
  const rows: GatheredAddress[] = [];
  const noise: GatheredAddress[] = [];
  let files = 0;
  for (const sighting of merged.values()) {
    const { address } = splitHost(sighting.address);
    const kind = judgeKind(address, sighting.asked, context.isListed, context.isLive);
    if (kind.kind === 'file') files += 1;
    (kind.kind === 'noise' ? noise : rows).push({ ...sighting, kind });
  }
  // Visits of robots count here: they say what is asked for again and again.
  const kept = keepMostVisited(noise, ({ visits = 0, asked }) => visits + (asked?.robotVisits ?? 0));
  return {
    rows: [...rows, ...kept],
    read: merged.size,
    files,
    noise: noise.length,
    leftOut: noise.length - kept.length,
  };
}

/** As many of the noise as are kept, the first of those that are visited alike. */
export function keepMostVisited<T>(noise: readonly T[], countVisits: (each: T) => number): readonly T[] {
  return noise.length <= MOST_NOISE
    ? noise
    : [...noise].sort((a, b) => countVisits(b) - countVisits(a)).slice(0, MOST_NOISE);
}

/** Two spellings of one address were visited by the same people's links: their visits add up. */
function mergeSightings(
  sightings: Iterable<Sighting>,
  { domains, domain }: SightingContext,
): ReadonlyMap<string, Sighting> {
  const merged = new Map<string, Sighting>();
  for (const each of sightings) {
    const host = each.host ?? domain;
    const address = host !== undefined && domains.has(host) ? writeWithHost(host, each.address) : each.address;
    const known = merged.get(address);
    merged.set(address, known === undefined ? { ...each, address } : mergeTwo(known, { ...each, address }));
  }
  return merged;
}

function mergeTwo(known: Sighting, more: Sighting): Sighting {
  const said = Object.fromEntries(Object.entries(more).filter(([, value]) => value !== undefined)) as Sighting;
  const both = { ...known, ...said };
  if (known.visits === undefined && more.visits === undefined) return { ...both, ...mergeAsked(known, more) };
  return {
    ...both,
    ...mergeAsked(known, more),
    visits: (known.visits ?? 0) + (more.visits ?? 0),
    ...(known.lastSeenMs === undefined ? {} : { lastSeenMs: Math.max(known.lastSeenMs, more.lastSeenMs ?? 0) }),
  };
}

function mergeAsked({ asked: a }: Sighting, { asked: b }: Sighting): Pick<Sighting, 'asked'> {
  if (a === undefined || b === undefined) return {};
  return {
    asked: {
      visits: a.visits + b.visits,
      robotVisits: a.robotVisits + b.robotVisits,
      answered: a.answered + b.answered,
      referred: a.referred + b.referred,
    },
  };
}
