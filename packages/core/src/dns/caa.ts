/** Which authority may issue for a name: CAA records, RFC 8659. */
import { recordNote, type RecordNote } from './messages.ts';
import type { DomainName } from './name.ts';
import type { RecordSet } from './record.ts';

export interface CaaVerdict {
  readonly allows: boolean;
  /** The name whose CAA set decided; undefined when no name up to the root has one. */
  readonly decidedAt: DomainName | undefined;
  readonly why: RecordNote;
}

/**
 * Climbs from the name to the root; the first name with CAA records decides alone (section 3). An unknown
 * property marked critical forbids (section 4.1); `issue ";"` names nobody (section 4.2).
 */
export function judgeCaa(name: DomainName, sets: readonly RecordSet[], issuer: string): CaaVerdict {
  for (let at: string = name; at !== ''; at = at.includes('.') ? at.slice(at.indexOf('.') + 1) : '') {
    const set = sets.find((candidate) => candidate.type === 'CAA' && candidate.name === at);
    if (!set || set.data.length === 0) continue;
    const properties = set.data.map(readCaa);
    const strange = properties.find(
      ({ critical, tag }) => critical && !['issue', 'issuewild', 'iodef', 'contactemail', 'contactphone'].includes(tag),
    );
    if (strange)
      return {
        allows: false,
        decidedAt: at,
        why: recordNote('caa-critical', { tag: strange.tag }),
      };
    const issue = properties.filter(({ tag }) => tag === 'issue');
    if (issue.length === 0) return { allows: true, decidedAt: at, why: recordNote('caa-names-none') };
    const named = issue
      .map(({ value }) => (value.split(';')[0] ?? '').trim().toLowerCase())
      .filter((value) => value !== '');
    if (named.includes(issuer)) return { allows: true, decidedAt: at, why: recordNote('caa-names', { issuer }) };
    return {
      allows: false,
      decidedAt: at,
      why: named.length === 0 ? recordNote('caa-lets-nobody') : recordNote('caa-names-others', { issuers: named }),
    };
  }
  return { allows: true, decidedAt: undefined, why: recordNote('caa-none') };
}

interface Caa {
  readonly critical: boolean;
  readonly tag: string;
  readonly value: string;
}

export function readCaa(data: string): Caa {
  const match = /^(\d+) (\S+) "(.*)"$/.exec(data);
  return {
    critical: (Number(match?.[1] ?? 0) & 128) !== 0,
    tag: (match?.[2] ?? '').toLowerCase(),
    value: match?.[3] ?? '',
  };
}
