import type { planLack } from '@fastigium/core/hosting';
import type { certificate, host, nameFound } from '@fastigium/contracts/messages/address';
import type { mail, nameFault, recordNote, recordStep, resolved, zoneFault } from '@fastigium/core/dns';
import type { nameScore } from '@fastigium/core/domain/messages';
import type { CatalogueOf } from '../catalogue.ts';

export const recordNoteWords: CatalogueOf<typeof recordNote> = {
  'cname-stands-alone': 'a CNAME may have no other record beside it',
  'ipv6-leads-elsewhere': 'visitors on IPv6 would go to another host',
  'nothing-beside-cname': 'nothing may stand beside a CNAME',
  'addresses-instead': 'addresses instead of a CNAME, which could not stand beside {beside}',
  'caa-critical': 'a critical property “{tag}” that no authority here knows',
  'caa-names-none': 'names no authority',
  'caa-names': 'names {issuer}',
  'caa-lets-nobody': 'lets nobody issue',
  'caa-names-others': 'names only {issuers}',
  'caa-none': 'no CAA record, so any authority may issue',
};

const RECORD = '{type, select, A {A} AAAA {AAAA} CNAME {CNAME} other {CAA}}';

export const recordStepWords: CatalogueOf<typeof recordStep> = {
  add: `Add {type, select, A {an A record} AAAA {an AAAA record} CNAME {a CNAME record} other {a CAA record}} at {at}`,
  replace: `Replace the {type, select, CAA {CAA records} A {A record} AAAA {AAAA record} other {CNAME record}} of {at}`,
  remove: `Remove the ${RECORD} record of {at}`,
};

export const mailWords: CatalogueOf<typeof mail> = {
  'goes-to-address':
    '{zone} has no MX record. If mail is read there at all, it goes to the address of {zone} and would now reach the web host, which takes none.',
  'no-mx': '{zone} takes no mail: it has no MX record.',
  'null-mx': '{zone} says that it takes no mail (RFC 7505).',
  'server-would-move':
    'Mail goes to {servers}, whose own address would change: mail would reach the web host, which takes none. Give the mail server a name of its own (mail.{zone}) with its present address and point the MX record there first.',
  stays: 'Mail stays as it is: it goes to {servers}{where, select, inside {, whose address is not touched} other {}}.',
};

export const resolvedWords: CatalogueOf<typeof resolved> = {
  data: '{type} {name}: {data}',
  none: '{type} {name}: none',
  silent: '{type} {name}: no answer',
};

export const nameScoreWords: CatalogueOf<typeof nameScore> = {
  short: 'short: {letters, plural, one {# letter} other {# letters}}',
  'middle-length': '{letters, plural, one {# letter} other {# letters}}, still easy to type',
  long: 'long: {letters, plural, one {# letter} other {# letters}}',
  'easy-to-say': '{syllables, plural, one {# syllable} other {# syllables}}, easy to say',
  'long-to-say': '{syllables, plural, one {# syllable} other {# syllables}} to say',
  'hard-to-spell': '“{letters}” is hard to spell from hearing',
  'three-in-a-row': '“{letters}”: three of one letter in a row get mistyped',
  hyphens: '{count, plural, one {a hyphen has} other {# hyphens have}} to be said aloud',
  digits: 'digits: is it 4 or four?',
  'says-nothing': 'says neither what nor where the site is',
  'says-what': 'says what it is: {words}',
  'long-ending': 'an ending of {parts, plural, one {# part} other {# parts}} to remember: .{ending}',
  'looks-like': '“{letter}” looks like “{other}”',
  'runs-together': '“{letters}” can be read as another letter in small type',
};

export const certificateWords: CatalogueOf<typeof certificate> = {
  'being-ordered': 'being ordered',
  'order-failed': 'ordering failed; tried again by itself',
  'none-served': 'none served yet',
  'new-being-ordered': 'a new one is being ordered',
  'ran-out': 'it has run out',
  'not-trusted': 'served, but not trusted',
  'other-names': 'served, but for other names',
  served: 'served and trusted',
};

export const hostWords: CatalogueOf<typeof host> = {
  none: 'no host yet',
  plan: '{host}, plan “{plan}”',
  'no-plan': '{host}, no plan chosen',
  folder: 'the folder {folder}',
  sftp: '{user}@{server}:{folder}',
};

export const nameFoundWords: CatalogueOf<typeof nameFound> = {
  free: 'free',
  held: 'somebody holds it',
  'held-until': 'held until {day}',
  'not-sold': 'not registered, but names under this ending are not sold here',
  'registry-silent': 'the registry does not answer ({reason})',
};

/** Each ends a sentence that begins with the name. */
export const nameFaultWords: CatalogueOf<typeof nameFault> = {
  empty: 'there is no name',
  'label-empty': 'two dots stand next to each other, or one stands first',
  'label-long': 'a part between two dots is longer than 63 characters: {part}',
  'name-long': 'it is longer than 253 characters in all: {name}',
  letter: 'a domain name cannot hold this character: {letter}',
  hyphen: 'a part starts or ends with a hyphen: {part}',
  numeric: 'the last part is a number, so it would be read as an IP address',
  spaces: 'a domain name holds no spaces',
  pictures: 'pictures such as emoji are no letters; registries do not take them (RFC 5892)',
  'scripts-mixed': 'it mixes {scripts} letters in one word, as names made to deceive do; registries refuse it',
  'not-allowed': 'it is not a name that UTS 46 allows',
  nowhere: '.{ending} is reserved and never leads anywhere on the internet',
};

/** Each stands behind the number of its line. */
export const zoneFaultWords: CatalogueOf<typeof zoneFault> = {
  'no-ttl': '“{text}” is not a TTL',
  include: 'other files cannot be read from here; paste their lines in place of $INCLUDE',
  directive: '{name} is not part of RFC 1035; write its records out',
  'first-without-name': 'the first record has no name',
  'class-other': 'class {class} is not the internet’s',
  'no-type': '“{text}” is not a record type',
  'outside-zone': '{name} is not in the zone {zone}',
  'no-record': 'there is no record in it',
  'beside-cname': '{type} beside a CNAME: {name} may hold nothing else',
  'cnames-two': '{name} has two different CNAMEs',
  'soas-two': 'a zone has one SOA',
  'quote-open': 'a quote that does not end',
  'parenthesis-open': 'an opening parenthesis that is never closed',
  'parenthesis-without': 'a closing parenthesis without an opening one',
  'no-name': '“{text}” is not a name: {fault}',
  'name-missing': 'a name is missing',
  'no-data': 'a {type} record without data',
  'no-number':
    '{what, select, preference {a mail preference} service {priority, weight and port each} flags {CAA flags} other {a serial}} is a number from 0 to {most}, not “{text}”',
  'values-other':
    '{type} takes {count, plural, one {# value} other {# values}}, there {given, plural, one {is #} other {are #}}',
  'no-ipv4': '“{text}” is not an IPv4 address',
  'no-ipv6': '“{text}” is not an IPv6 address',
  'no-tag': '“{text}” is not a CAA tag',
  'no-time': '“{text}” is not a time in seconds',
  'txt-empty': 'a TXT record without text',
  'string-long': 'one string of a TXT record is longer than 255 octets; split it into several',
  'not-sent': '{type} records cannot be sent from here',
};

export const planLackWords: CatalogueOf<typeof planLack> = {
  'site-of-its-own': 'takes no site of its own',
  storage: 'too little storage for the live release and the next one',
  files: 'at most {most, plural, one {# file} other {# files}}, two releases have {needed, number}',
  'own-domain': 'no domain of one’s own',
  certificate: 'no certificate',
  password: 'no password for visitors',
  backups: 'no backups',
};
