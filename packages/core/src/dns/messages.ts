/** What is said of records: why one has to be so, what is to be done, what becomes of mail, and what resolvers answer. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

/** The types a site may need at its name servers. */
export const NEEDED_TYPES = ['A', 'AAAA', 'CNAME', 'CAA'] as const;

/** Why a record has to be as it is needed, where its state alone does not say it. */
export const recordNote = defineMessages('record-note', {
  'cname-stands-alone': {},
  'ipv6-leads-elsewhere': {},
  'nothing-beside-cname': {},
  'addresses-instead': { beside: 'list' },
  'caa-critical': { tag: 'text' },
  'caa-names-none': {},
  'caa-names': { issuer: 'text' },
  'caa-lets-nobody': {},
  'caa-names-others': { issuers: 'series' },
  'caa-none': {},
});
export type RecordNote = MessageOf<typeof recordNote>;

export const recordStep = defineMessages('record-step', {
  add: { type: NEEDED_TYPES, at: 'text' },
  replace: { type: NEEDED_TYPES, at: 'text' },
  remove: { type: NEEDED_TYPES, at: 'text' },
});
export type RecordStep = MessageOf<typeof recordStep>;

export const mail = defineMessages('mail', {
  'goes-to-address': { zone: 'text' },
  'no-mx': { zone: 'text' },
  'null-mx': { zone: 'text' },
  'server-would-move': { servers: 'list', zone: 'text' },
  stays: { servers: 'list', where: ['inside', 'outside'] },
});
export type MailMessage = MessageOf<typeof mail>;

/** What a resolver answers for one name and type. */
export const resolved = defineMessages('resolved', {
  data: { type: 'text', name: 'text', data: 'series' },
  none: { type: 'text', name: 'text' },
  silent: { type: 'text', name: 'text' },
});
export type Resolved = MessageOf<typeof resolved>;

/** Why a text is no name. */
export const nameFault = defineMessages('name-fault', {
  empty: {},
  'label-empty': {},
  'label-long': { part: 'text' },
  'name-long': { name: 'text' },
  letter: { letter: 'text' },
  hyphen: { part: 'text' },
  numeric: {},
  spaces: {},
  pictures: {},
  'scripts-mixed': { scripts: 'list' },
  'not-allowed': {},
  nowhere: { ending: 'text' },
});
export type NameFault = MessageOf<typeof nameFault>;

/** Why a line of a zone file cannot be taken. */
export const zoneFault = defineMessages('zone-fault', {
  'no-ttl': { text: 'text' },
  include: {},
  directive: { name: 'text' },
  'first-without-name': {},
  'class-other': { class: 'text' },
  'no-type': { text: 'text' },
  'outside-zone': { name: 'text', zone: 'text' },
  'no-record': {},
  'beside-cname': { name: 'text', type: 'text' },
  'cnames-two': { name: 'text' },
  'soas-two': {},
  'quote-open': {},
  'parenthesis-open': {},
  'parenthesis-without': {},
  'no-name': { text: 'text', fault: 'message' },
  'name-missing': {},
  'no-data': { type: 'text' },
  'no-number': { what: ['preference', 'service', 'flags', 'serial'], most: 'number', text: 'text' },
  'values-other': { type: 'text', count: 'number', given: 'number' },
  'no-ipv4': { text: 'text' },
  'no-ipv6': { text: 'text' },
  'no-tag': { text: 'text' },
  'no-time': { text: 'text' },
  'txt-empty': {},
  'string-long': {},
  'not-sent': { type: 'text' },
});
export type ZoneFault = MessageOf<typeof zoneFault>;
