/**
 * Domain names in their ASCII form, without the final dot, lower case; the root is ''.
 *
 * Sources: RFC 1035 sections 2.3.1 and 2.3.4 (labels of at most 63 octets, 255 on the wire with length
 * octets and the root, which leaves 253 characters of text), RFC 1123 section 2.1 (a label may start
 * with a digit), RFC 4343 (letters compare without case).
 */
import { nameFault, type NameFault } from './messages.ts';

export type DomainName = string;

export type NameCheck =
  { readonly ok: true; readonly name: DomainName } | { readonly ok: false; readonly fault: NameFault };

const MOST_LABEL = 63;
const MOST_NAME = 253;

/**
 * Checks a name of a host, as it is typed: letters, digits and hyphens in every label. Names of records
 * may hold more (`_dmarc`); {@link checkRecordName} reads those.
 */
export function checkHostName(text: string): NameCheck {
  const checked = checkLengths(text);
  if (!checked.ok) return checked;
  for (const label of splitLabels(checked.name)) {
    const strange = /[^a-z0-9-]/.exec(label);
    if (strange) return { ok: false, fault: nameFault('letter', { letter: strange[0] }) };
    if (label.startsWith('-') || label.endsWith('-')) return { ok: false, fault: nameFault('hyphen', { part: label }) };
  }
  // RFC 1123 section 2.1: a last label of digits only would read as an IPv4 address.
  if (/(^|\.)\d+$/.test(checked.name)) return { ok: false, fault: nameFault('numeric') };
  return checked;
}

/** Checks the owner name of a record: underscores (RFC 8552), a leading `*` (RFC 4592) and a dot written `\\.` are allowed. */
export function checkRecordName(text: string): NameCheck {
  const checked = checkLengths(text);
  if (!checked.ok) return checked;
  for (const [index, label] of splitLabels(checked.name).entries()) {
    if (label === '*' && index === 0) continue;
    const strange = /[^a-z0-9_/-]/.exec(label.replaceAll('\\.', ''));
    if (strange) return { ok: false, fault: nameFault('letter', { letter: strange[0] }) };
  }
  return checked;
}

/** A dot inside a label is written `\\.` (RFC 1035 section 5.1), as in a mailbox of a SOA record. */
const splitLabels = (name: string): string[] => name.split(/(?<!\\)\./);

const shortenName = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);

function checkLengths(text: string): NameCheck {
  const name = text.replace(/\.$/, '').toLowerCase();
  if (name === '') return { ok: false, fault: nameFault('empty') };
  for (const label of splitLabels(name)) {
    if (label === '') return { ok: false, fault: nameFault('label-empty') };
    if (label.length > MOST_LABEL) return { ok: false, fault: nameFault('label-long', { part: shortenName(label) }) };
  }
  if (name.length > MOST_NAME) return { ok: false, fault: nameFault('name-long', { name: shortenName(name) }) };
  return { ok: true, name };
}

export function isWithin(name: DomainName, zone: DomainName): boolean {
  return name === zone || name.endsWith(`.${zone}`);
}

/** How a name is written inside its zone: `@` for the apex, `www` below it. */
export function relativiseName(name: DomainName, zone: DomainName): string {
  if (name === zone) return '@';
  return isWithin(name, zone) ? name.slice(0, -(zone.length + 1)) : `${name}.`;
}

/** A name as it stands in a zone file or in a record's data, made absolute against the origin. */
export function resolveName(text: string, origin: DomainName): DomainName {
  if (text === '@') return origin;
  const lower = text.toLowerCase();
  if (lower.endsWith('.')) return lower.slice(0, -1);
  return origin === '' ? lower : `${lower}.${origin}`;
}
