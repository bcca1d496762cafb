/**
 * What has to stand at the name servers for visitors to reach the host, held against what stands there.
 * Only names and types the site needs are ever proposed to change; everything else is kept as it is.
 */
import { judgeCaa, readCaa } from './caa.ts';
import { NEEDED_TYPES, recordNote, recordStep, type RecordNote, type RecordStep } from './messages.ts';
import { isWithin, relativiseName, type DomainName } from './name.ts';
import { isSameData, type RecordSet } from './record.ts';

/** Where the host wants visitors sent. */
export interface HostTargets {
  readonly ipv4: readonly string[];
  readonly ipv6: readonly string[];
  /** A name that always leads to the host, for a CNAME; undefined where the host offers none. */
  readonly edge: DomainName | undefined;
}

export interface Needs {
  readonly zone: DomainName;
  /** Every name of the site in this zone, the main one first. */
  readonly names: readonly DomainName[];
  readonly host: HostTargets;
  /** The certificate authority's CAA identity; undefined while none is to be asked. */
  readonly issuer: string | undefined;
}

export type RecordState = 'right' | 'missing' | 'wrong' | 'in-the-way' | 'kept' | 'unneeded';

export type NeededType = (typeof NEEDED_TYPES)[number];
const isNeeded = (type: string): type is NeededType => (NEEDED_TYPES as readonly string[]).includes(type);

export interface RecordRow {
  readonly name: DomainName;
  readonly type: string;
  /** Empty: asked, and there is none. */
  readonly answered: readonly string[];
  readonly answeredTtlSeconds: number | undefined;
  /** Undefined: leave as it is. Empty: must not be there. */
  readonly needed: readonly string[] | undefined;
  readonly state: RecordState;
  /** Why, where the state alone does not say it. */
  readonly note: RecordNote | undefined;
}

/** A TTL a change can live with and name servers are not troubled by: an hour, common practice, no source. */
export const NEW_RECORD_TTL_SECONDS = 3600;

const ADDRESS_TYPES = ['A', 'AAAA', 'CNAME'] as const;

/** Held against what the authority answered; sets that were asked and not there are simply absent. */
export function compareRecords(answered: readonly RecordSet[], needs: Needs): RecordRow[] {
  const find = (name: DomainName, type: string) => answered.find((set) => set.name === name && set.type === type);
  const rows: RecordRow[] = [];
  for (const name of needs.names) {
    const wanted = findWantedAt(name, answered, needs);
    // Nobody has said where visitors are to go: then what stands there stays.
    if (!wanted) continue;
    for (const type of ADDRESS_TYPES) {
      const now = find(name, type);
      const data = wanted.data[type] ?? [];
      if (data.length === 0 && !now) continue;
      const state =
        data.length === 0 ? 'in-the-way' : !now ? 'missing' : isSameData(now.data, data) ? 'right' : 'wrong';
      rows.push({
        name,
        type,
        answered: now?.data ?? [],
        answeredTtlSeconds: now?.ttlSeconds,
        needed: data,
        state,
        note:
          state === 'in-the-way'
            ? type === 'CNAME'
              ? recordNote('cname-stands-alone')
              : type === 'AAAA' && wanted.data.CNAME === undefined
                ? recordNote('ipv6-leads-elsewhere')
                : recordNote('nothing-beside-cname')
            : wanted.note,
      });
    }
  }
  rows.push(...listCaaRows(answered, needs));
  const shown = new Set(rows.map(({ name, type }) => `${name} ${type}`));
  for (const set of answered) {
    if (shown.has(`${set.name} ${set.type}`) || !isWithin(set.name, needs.zone)) continue;
    rows.push({
      name: set.name,
      type: set.type,
      answered: set.data,
      answeredTtlSeconds: set.ttlSeconds,
      needed: undefined,
      state: 'kept',
      note: undefined,
    });
  }
  return rows;
}

interface Wanted {
  readonly data: Partial<Record<(typeof ADDRESS_TYPES)[number], readonly string[]>>;
  readonly note: RecordNote | undefined;
}

/**
 * At the apex the addresses themselves, since SOA and NS stand there and a CNAME may have nothing beside
 * it (RFC 1034 section 3.6.2). Below it a CNAME to the host's name, which lets the host move without
 * asking anyone, unless other data stands there.
 */
function findWantedAt(name: DomainName, answered: readonly RecordSet[], { zone, host }: Needs): Wanted | undefined {
  const beside = answered.filter(
    (set) => set.name === name && !(ADDRESS_TYPES as readonly string[]).includes(set.type),
  );
  const addresses = { A: host.ipv4, AAAA: host.ipv6 };
  const known = host.ipv4.length > 0 || host.ipv6.length > 0;
  if (name === zone || host.edge === undefined) return known ? { data: addresses, note: undefined } : undefined;
  if (beside.length > 0)
    return !known
      ? undefined
      : {
          data: addresses,
          note: recordNote('addresses-instead', { beside: beside.map(({ type }) => type) }),
        };
  return { data: { CNAME: [`${host.edge}.`] }, note: undefined };
}

function listCaaRows(answered: readonly RecordSet[], { names, issuer, zone }: Needs): RecordRow[] {
  if (issuer === undefined) return [];
  const rows = new Map<DomainName, RecordRow>();
  for (const name of names) {
    const verdict = judgeCaa(name, answered, issuer);
    const at = verdict.decidedAt;
    if (at === undefined || rows.has(at)) continue;
    const set = answered.find((candidate) => candidate.type === 'CAA' && candidate.name === at);
    if (!set) continue;
    // What names other authorities stays: they may be needed for mail or another site.
    const kept = set.data.filter((data) => {
      const caa = readCaa(data);
      return !(caa.tag === 'issue' && caa.value.trim() === ';');
    });
    const needed = verdict.allows ? set.data : [...kept, `0 issue "${issuer}"`];
    rows.set(at, {
      name: at,
      type: 'CAA',
      answered: set.data,
      answeredTtlSeconds: set.ttlSeconds,
      needed,
      state: verdict.allows ? 'right' : 'wrong',
      note: verdict.why,
    });
  }
  if (rows.size === 0) {
    rows.set(zone, {
      name: zone,
      type: 'CAA',
      answered: [],
      answeredTtlSeconds: undefined,
      needed: undefined,
      state: 'unneeded',
      note: recordNote('caa-none'),
    });
  }
  return [...rows.values()];
}

export interface RecordChange {
  readonly kind: 'add' | 'replace' | 'remove';
  readonly name: DomainName;
  readonly type: NeededType;
  readonly from: readonly string[];
  readonly to: readonly string[];
  readonly ttlSeconds: number;
}

/** What to do at the name servers, in an order that is right at every step: what is in the way goes first. */
export function listRecordChanges(rows: readonly RecordRow[]): RecordChange[] {
  const order: Readonly<Record<string, number>> = { 'in-the-way': 0, wrong: 1, missing: 2 };
  return rows
    .filter(({ state }) => state in order)
    .sort((a, b) => (order[a.state] ?? 3) - (order[b.state] ?? 3))
    .flatMap(({ state, name, type, answered, needed, answeredTtlSeconds }): RecordChange[] =>
      isNeeded(type)
        ? [
            {
              kind: state === 'in-the-way' ? 'remove' : state === 'wrong' ? 'replace' : 'add',
              name,
              type,
              from: answered,
              to: needed ?? [],
              ttlSeconds: answeredTtlSeconds ?? NEW_RECORD_TTL_SECONDS,
            },
          ]
        : [],
    );
}

/** The zone as it will be: the changes made, everything else as it is. */
export function applyChanges(sets: readonly RecordSet[], changes: readonly RecordChange[]): RecordSet[] {
  const out = sets.filter((set) => !changes.some((change) => change.name === set.name && change.type === set.type));
  for (const change of changes)
    if (change.to.length > 0)
      out.push({ name: change.name, type: change.type, ttlSeconds: change.ttlSeconds, data: change.to });
  return out;
}

export const stepOf = ({ kind, name, type }: RecordChange, zone: DomainName): RecordStep =>
  recordStep(kind, { type, at: relativiseName(name, zone) });
