/**
 * What an authoritative server says: RFC 1034 section 4.3.2, with the SOA in negative answers (RFC 2308
 * section 3) and CNAMEs followed inside what it serves.
 */
import { isWithin, reckonNegativeTtlSeconds, type DomainName, type ResourceRecord } from '@fastigium/core/dns';
import { RCODES, type ServerReply } from '@fastigium/wire';

export interface ServedZone {
  readonly name: DomainName;
  readonly records: readonly ResourceRecord[];
}

const MOST_CNAMES = 8;

export function answerWithAuthority(
  question: { name: DomainName; type: string },
  zoneOf: (name: DomainName) => ServedZone | undefined,
): ServerReply {
  const answers: ResourceRecord[] = [];
  let name = question.name;
  let zone = zoneOf(name);
  if (!zone)
    return { rcode: RCODES.REFUSED, authoritative: false, recursionAvailable: false, answers: [], authorities: [] };
  for (let hops = 0; ; hops += 1) {
    const here = zone.records.filter((record) => record.name === name);
    const wanted = question.type === 'ANY' ? here : here.filter(({ type }) => type === question.type);
    if (wanted.length > 0)
      return {
        rcode: RCODES.NOERROR,
        authoritative: true,
        recursionAvailable: false,
        answers: [...answers, ...wanted],
        authorities: [],
      };
    const cname = here.find(({ type }) => type === 'CNAME');
    if (!cname) {
      // A name with others below it exists, without records (an empty non-terminal, RFC 8020).
      const exists =
        here.length > 0 || zone.records.some((record) => record.name !== name && isWithin(record.name, name));
      return {
        rcode: exists ? RCODES.NOERROR : RCODES.NXDOMAIN,
        authoritative: true,
        recursionAvailable: false,
        answers,
        authorities: answerNegative(zone),
      };
    }
    answers.push(cname);
    name = cname.data.replace(/\.$/, '');
    const next = zoneOf(name);
    // What lies elsewhere is the resolver's to ask for.
    if (!next || hops >= MOST_CNAMES)
      return { rcode: RCODES.NOERROR, authoritative: true, recursionAvailable: false, answers, authorities: [] };
    zone = next;
  }
}

function answerNegative(zone: ServedZone): ResourceRecord[] {
  const soa = zone.records.find(({ type }) => type === 'SOA');
  return soa ? [{ ...soa, ttlSeconds: reckonNegativeTtlSeconds(soa.ttlSeconds, soa.data) }] : [];
}
