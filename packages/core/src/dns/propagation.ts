/**
 * When a change reaches everyone. A resolver that answers with the old record and a TTL may go on doing
 * so exactly that long (RFC 1035 section 3.2.1, RFC 2181 section 8); one that answers "there is none"
 * as long as the zone's negative TTL (RFC 2308 section 5). Resolvers nobody asked are bounded by the
 * largest TTL the old answer was ever handed out with.
 */
import { isSameData } from './record.ts';

export interface Sighting {
  readonly resolver: string;
  readonly name: string;
  readonly type: string;
  readonly atMs: number;
  readonly kind: 'data' | 'none' | 'failed';
  readonly data: readonly string[];
  /** What is left of the answer's time; for "there is none" the negative TTL. */
  readonly ttlSeconds: number;
}

export interface WatchedSet {
  readonly name: string;
  readonly type: string;
  /** Empty: it should not be there. */
  readonly wanted: readonly string[];
}

export type SpreadState = 'new' | 'old' | 'silent';

export interface SetSpread {
  readonly name: string;
  readonly type: string;
  readonly state: SpreadState;
  readonly data: readonly string[];
  /** The last moment at which this resolver may still give the old answer. */
  readonly oldUntilMs: number | undefined;
}

export interface ResolverSpread {
  readonly resolver: string;
  readonly state: SpreadState;
  readonly oldUntilMs: number | undefined;
  readonly sets: readonly SetSpread[];
}

export interface Spread {
  /** Since when the authority gives every new answer, as first seen; undefined while it does not. */
  readonly authorityNewSinceMs: number | undefined;
  readonly resolvers: readonly ResolverSpread[];
  /** When the last old answer is gone everywhere; undefined while the authority itself still has old ones. */
  readonly everyoneByMs: number | undefined;
}

/** The negative TTL of a zone: the lesser of its SOA's TTL and MINIMUM field (RFC 2308 section 5). */
export function reckonNegativeTtlSeconds(soaTtlSeconds: number, soaData: string): number {
  const minimum = Number(soaData.trim().split(/\s+/).at(-1));
  return Math.min(soaTtlSeconds, Number.isFinite(minimum) ? minimum : soaTtlSeconds);
}

export function reckonSpread(input: {
  readonly watched: readonly WatchedSet[];
  readonly authority: readonly Sighting[];
  readonly resolvers: readonly string[];
  readonly sightings: readonly Sighting[];
}): Spread {
  const { watched, authority, resolvers, sightings } = input;
  const changes = watched.map((set) => judgeAuthorityChange(set, authority));
  const resolverSpreads = resolvers.map((resolver) => spreadAt(resolver, watched, changes, sightings));
  // Of nothing watched nothing is known; "all of it is new" would be true of nothing.
  const isNew = watched.length > 0 && changes.every(({ newSinceMs }) => newSinceMs !== undefined);
  if (!isNew) return { authorityNewSinceMs: undefined, resolvers: resolverSpreads, everyoneByMs: undefined };
  const bounds = [
    ...resolverSpreads.map(({ oldUntilMs }) => oldUntilMs ?? 0),
    ...changes.map(({ boundMs }) => boundMs ?? 0),
  ];
  const newSinceMs = Math.max(0, ...changes.map((change) => change.newSinceMs ?? 0));
  return {
    authorityNewSinceMs: newSinceMs,
    resolvers: resolverSpreads,
    everyoneByMs: Math.max(newSinceMs, ...bounds),
  };
}

interface AuthorityChange {
  readonly newSinceMs: number | undefined;
  /** Nobody can hold the old answer longer; undefined where no old answer was ever seen. */
  readonly boundMs: number | undefined;
}

/** Between the last old answer and the first new one lies the change; the later of the two is safe to reckon with. */
function judgeAuthorityChange(set: WatchedSet, authority: readonly Sighting[]): AuthorityChange {
  const seen = filterSightings(set, authority)
    .filter(({ kind }) => kind !== 'failed')
    .sort((a, b) => a.atMs - b.atMs);
  const last = seen.at(-1);
  if (!last || !isWanted(set, last)) return { newSinceMs: undefined, boundMs: undefined };
  let firstNew = last;
  let lastOld: Sighting | undefined;
  for (let at = seen.length - 1; at >= 0; at -= 1) {
    const sighting = seen[at] as Sighting;
    if (isWanted(set, sighting)) firstNew = sighting;
    else {
      lastOld = sighting;
      break;
    }
  }
  if (!lastOld) return { newSinceMs: firstNew.atMs, boundMs: undefined };
  // An older look may have seen a larger TTL, and an answer given just after it may still be out.
  const longest = Math.max(
    ...seen
      .filter((sighting) => !isWanted(set, sighting) && sighting.atMs + sighting.ttlSeconds * 1000 > lastOld.atMs)
      .map(({ ttlSeconds }) => ttlSeconds),
  );
  return { newSinceMs: firstNew.atMs, boundMs: firstNew.atMs + longest * 1000 };
}

function spreadAt(
  resolver: string,
  watched: readonly WatchedSet[],
  changes: readonly AuthorityChange[],
  sightings: readonly Sighting[],
): ResolverSpread {
  const sets = watched.map((set, index): SetSpread => {
    const mine = filterSightings(set, sightings)
      .filter((sighting) => sighting.resolver === resolver)
      .sort((a, b) => a.atMs - b.atMs);
    const latest = mine.at(-1);
    const known = mine.filter(({ kind }) => kind !== 'failed').at(-1);
    const bound = changes[index]?.boundMs;
    if (!latest || latest.kind === 'failed' || !known)
      return {
        name: set.name,
        type: set.type,
        state: 'silent',
        data: [],
        oldUntilMs: known && !isWanted(set, known) ? known.atMs + known.ttlSeconds * 1000 : bound,
      };
    if (isWanted(set, latest))
      return { name: set.name, type: set.type, state: 'new', data: latest.data, oldUntilMs: undefined };
    return {
      name: set.name,
      type: set.type,
      state: 'old',
      data: latest.data,
      oldUntilMs: latest.atMs + latest.ttlSeconds * 1000,
    };
  });
  const state = sets.some((set) => set.state === 'old')
    ? 'old'
    : sets.length === 0 || sets.some((set) => set.state === 'silent')
      ? 'silent'
      : 'new';
  const until = sets.map(({ oldUntilMs }) => oldUntilMs).filter((ms) => ms !== undefined);
  return { resolver, state, oldUntilMs: until.length > 0 ? Math.max(...until) : undefined, sets };
}

const filterSightings = (set: WatchedSet, sightings: readonly Sighting[]): Sighting[] =>
  sightings.filter(({ name, type }) => name === set.name && type === set.type);

function isWanted(set: WatchedSet, sighting: Sighting): boolean {
  return sighting.kind === 'none' ? set.wanted.length === 0 : isSameData(sighting.data, set.wanted);
}
