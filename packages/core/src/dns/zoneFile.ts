/**
 * Zone files in and out, in the master file format of RFC 1035 section 5, with $TTL of RFC 2308
 * section 4. $INCLUDE would read other files and $GENERATE is one program's own; both are refused.
 */
import { resolveName, checkRecordName, isWithin, relativiseName, type DomainName } from './name.ts';
import type { ResourceRecord } from './record.ts';
import { zoneFault, type ZoneFault } from './messages.ts';
import { readData, RecordProblem, parseTtl, type Word } from './recordData.ts';

export interface ZoneProblem {
  /** From 1. */
  readonly line: number;
  readonly reason: ZoneFault;
}

export type ZoneReading =
  | { readonly ok: true; readonly origin: DomainName; readonly records: readonly ResourceRecord[] }
  | { readonly ok: false; readonly problems: readonly ZoneProblem[] };

interface Line {
  readonly number: number;
  /** The line began with white space: the owner is the one before. */
  readonly indented: boolean;
  readonly words: readonly Word[];
}

/** What a record gets when nothing says a TTL: an hour, common practice. */
const TTL_WHEN_NONE_SAID = 3600;
const MOST_PROBLEMS = 50;

/** Reads a zone whole or not at all; every problem is told with its line, up to fifty. */
export function readZone(text: string, zone: DomainName): ZoneReading {
  const problems: ZoneProblem[] = [];
  const records: ResourceRecord[] = [];
  const lineOf = new Map<ResourceRecord, number>();
  let origin = zone;
  let owner: DomainName | undefined;
  let defaultTtl: number | undefined;
  let lastTtl: number | undefined;

  for (const line of readLogicalLines(text, problems)) {
    try {
      const directive = line.words[0]?.text.toUpperCase();
      if (!line.indented && directive?.startsWith('$') === true && line.words[0]?.quoted === false) {
        const value = line.words[1]?.text ?? '';
        if (directive === '$ORIGIN') origin = resolveNameAt(value, origin);
        else if (directive === '$TTL') {
          defaultTtl = parseTtl(value);
          if (defaultTtl === undefined) throw new RecordProblem(zoneFault('no-ttl', { text: value }));
        } else
          throw new RecordProblem(
            directive === '$INCLUDE' ? zoneFault('include') : zoneFault('directive', { name: directive }),
          );
        continue;
      }
      const words = [...line.words];
      if (!line.indented) owner = resolveNameAt(words.shift()?.text ?? '', origin);
      if (owner === undefined) throw new RecordProblem(zoneFault('first-without-name'));
      let recordTtl: number | undefined;
      // TTL and class stand in either order (RFC 1035 section 5.1).
      for (let n = 0; n < 2; n += 1) {
        const word = words[0]?.text.toUpperCase() ?? '';
        if (recordTtl === undefined && parseTtl(word) !== undefined && words.length > 1)
          recordTtl = parseTtl(words.shift()?.text ?? '');
        else if (word === 'IN') words.shift();
        else if (word === 'CH' || word === 'HS' || word === 'CS')
          throw new RecordProblem(zoneFault('class-other', { class: word }));
      }
      const type = words.shift()?.text.toUpperCase();
      if (type === undefined || !/^[A-Z][A-Z0-9-]*$/.test(type))
        throw new RecordProblem(zoneFault('no-type', { text: type ?? '' }));
      const data = readData(type, words, origin);
      if (!isWithin(owner, zone)) throw new RecordProblem(zoneFault('outside-zone', { name: owner, zone }));
      const known =
        recordTtl ?? defaultTtl ?? lastTtl ?? (type === 'SOA' ? Number(data.split(' ').at(-1)) : TTL_WHEN_NONE_SAID);
      lastTtl = known;
      const record = { name: owner, type, ttlSeconds: known, data };
      records.push(record);
      lineOf.set(record, line.number);
    } catch (error) {
      if (!(error instanceof RecordProblem)) throw error;
      problems.push({ line: line.number, reason: error.fault });
    }
  }
  problems.push(...findConflicts(records).map(({ record, reason }) => ({ line: lineOf.get(record) ?? 0, reason })));
  if (records.length === 0 && problems.length === 0) problems.push({ line: 1, reason: zoneFault('no-record') });
  if (problems.length > 0)
    return { ok: false, problems: problems.sort((a, b) => a.line - b.line).slice(0, MOST_PROBLEMS) };
  return { ok: true, origin: zone, records: dropRepeated(records) };
}

function resolveNameAt(text: string, origin: DomainName): DomainName {
  const checked = checkRecordName(resolveName(text, origin));
  if (!checked.ok) throw new RecordProblem(zoneFault('no-name', { text, fault: checked.fault }));
  return checked.name;
}

/** What RFC 1034 section 3.6.2 and RFC 2181 section 10.1 forbid: another record beside a CNAME, and so one at the apex. */
export function findConflicts(records: readonly ResourceRecord[]): { record: ResourceRecord; reason: ZoneFault }[] {
  const cnames = new Map<string, ResourceRecord>();
  for (const record of records)
    if (record.type === 'CNAME' && !cnames.has(record.name)) cnames.set(record.name, record);
  const out: { record: ResourceRecord; reason: ZoneFault }[] = [];
  for (const record of records) {
    const cname = cnames.get(record.name);
    if (!cname || record === cname || (record.type === 'CNAME' && record.data === cname.data)) continue;
    // RFC 4034 section 3: signatures and denials of existence may stand beside a CNAME.
    if (record.type === 'RRSIG' || record.type === 'NSEC') continue;
    out.push({
      record,
      reason:
        record.type === 'CNAME'
          ? zoneFault('cnames-two', { name: record.name })
          : zoneFault('beside-cname', { name: record.name, type: record.type }),
    });
  }
  const soas = records.filter(({ type }) => type === 'SOA');
  if (soas[1]) out.push({ record: soas[1], reason: zoneFault('soas-two') });
  return out;
}

function dropRepeated(records: readonly ResourceRecord[]): ResourceRecord[] {
  const seen = new Set<string>();
  return records.filter(({ name, type, data }) => {
    const key = `${name} ${type} ${data}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** Logical lines: comments gone, parentheses joined, quotes and escapes understood. */
function* readLogicalLines(text: string, problems: ZoneProblem[]): Generator<Line> {
  let words: Word[] = [];
  let started = 1;
  let indented = false;
  let depth = 0;
  let number = 1;
  let fresh = true;
  for (let at = 0; at <= text.length;) {
    const letter = text[at] ?? '\n';
    if (fresh && depth === 0) {
      started = number;
      indented = letter === ' ' || letter === '\t';
    }
    fresh = false;
    if (letter === '\n') {
      if (depth === 0) {
        if (words.length > 0) yield { number: started, indented, words };
        words = [];
        fresh = true;
      }
      number += 1;
      at += 1;
    } else if (letter === ';') {
      while (at < text.length && text[at] !== '\n') at += 1;
    } else if (letter === '(' || letter === ')') {
      depth += letter === '(' ? 1 : -1;
      if (depth < 0) {
        problems.push({ line: number, reason: zoneFault('parenthesis-without') });
        depth = 0;
      }
      at += 1;
    } else if (letter === '"') {
      const end = endOfQuote(text, at + 1);
      if (end === undefined) {
        problems.push({ line: number, reason: zoneFault('quote-open') });
        while (at < text.length && text[at] !== '\n') at += 1;
        continue;
      }
      words.push({ text: text.slice(at + 1, end), quoted: true });
      at = end + 1;
    } else if (/\s/.test(letter)) {
      at += 1;
    } else {
      let end = at;
      while (end < text.length && !/[\s;()"]/.test(text[end] ?? '')) end += text[end] === '\\' ? 2 : 1;
      words.push({ text: text.slice(at, end), quoted: false });
      at = end;
    }
  }
  if (depth > 0) problems.push({ line: started, reason: zoneFault('parenthesis-open') });
}

function endOfQuote(text: string, from: number): number | undefined {
  for (let at = from; at < text.length; at += 1) {
    if (text[at] === '\\') at += 1;
    else if (text[at] === '"') return at;
    else if (text[at] === '\n') return undefined;
  }
  return undefined;
}

/** Writes a zone: origin and TTL, SOA and NS first, then the apex, then names in their order. */
export function writeZone(zone: DomainName, records: readonly ResourceRecord[]): string {
  const counts = new Map<number, number>();
  for (const { ttlSeconds } of records) counts.set(ttlSeconds, (counts.get(ttlSeconds) ?? 0) + 1);
  const common = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? TTL_WHEN_NONE_SAID;
  const first = (record: ResourceRecord) =>
    record.type === 'SOA' ? 0 : record.type === 'NS' && record.name === zone ? 1 : record.name === zone ? 2 : 3;
  const order = [...records].sort(
    (a, b) => first(a) - first(b) || compare(sortKey(a.name), sortKey(b.name)) || compare(a.type, b.type),
  );
  const width = Math.max(8, ...order.map(({ name }) => relativiseName(name, zone).length)) + 1;
  const rows = order.map(
    ({ name, type, ttlSeconds, data }) =>
      `${relativiseName(name, zone).padEnd(width)}${ttlSeconds === common ? '' : `${ttlSeconds} `}IN ${type.padEnd(5)} ${data}`,
  );
  return `$ORIGIN ${zone}.\n$TTL ${common}\n${rows.join('\n')}\n`;
}

const sortKey = (name: DomainName): string => name.split('.').reverse().join('.');
const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
