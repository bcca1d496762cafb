/** Resource records as people read and compare them: the data in normalised presentation form. */
import type { DomainName } from './name.ts';

export interface ResourceRecord {
  readonly name: DomainName;
  /** `A`, `MX`, or `TYPE123` (RFC 3597) for one that has no name here. */
  readonly type: string;
  readonly ttlSeconds: number;
  /** As in a zone file, names absolute with their final dot: `10 mail.lanternmoor.example.` */
  readonly data: string;
}

/** RFC 2181 section 8: a TTL is an unsigned number of 31 bits. */
export const MOST_TTL_SECONDS = 2 ** 31 - 1;

export interface RecordSet {
  readonly name: DomainName;
  readonly type: string;
  readonly ttlSeconds: number;
  readonly data: readonly string[];
}

/** Records of one name and type together, in the order of their first record; the TTL is the least of them (RFC 2181 section 5.2). */
export function groupRecordSets(records: readonly ResourceRecord[]): RecordSet[] {
  const sets = new Map<string, { name: string; type: string; ttlSeconds: number; data: string[] }>();
  for (const { name, type, ttlSeconds, data } of records) {
    const key = `${name} ${type}`;
    const set = sets.get(key);
    if (!set) {
      sets.set(key, { name, type, ttlSeconds, data: [data] });
      continue;
    }
    set.ttlSeconds = Math.min(set.ttlSeconds, ttlSeconds);
    if (!set.data.includes(data)) set.data.push(data);
  }
  return [...sets.values()];
}

export function isSameData(a: readonly string[], b: readonly string[]): boolean {
  return a.length === b.length && a.every((value) => b.includes(value));
}
