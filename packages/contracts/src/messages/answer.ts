/** What came back from the world where it is no plain record, and why nothing did. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const answer = defineMessages('answer', {
  // Nobody was asked.
  'private-network': {},
  'is-private': { host: 'text', address: 'text' },
  'no-resolver': {},
  'no-registry': {},
  'not-asked': {},
  'host-without-address': {},
  'address-unknown': { host: 'text' },
  'address-not-known': {},
  'address-not-known-since': { why: 'part' },
  'name-without-address': {},

  // Nothing came back, or not the whole.
  'too-late': { seconds: 'number' },
  'whole-too-late': { seconds: 'number' },
  'nobody-listens': {},
  'connection-refused': {},
  'closed-early': {},
  'line-broken': {},
  'line-broken-within': {},
  'no-way-there': {},
  'too-large': { most: 'bytes' },
  faulty: { code: 'text' },
  'no-certificate': {},

  // What came was no answer to the question.
  'no-dns': {},
  'a-question': {},
  'other-number': {},
  'other-question': {},
  'no-question': {},

  // An answer that says nothing (RFC 1035, section 4.1.1).
  refused: {},
  'not-found-out': {},
  'not-understood': {},
  'not-done': {},
  'other-code': { code: 'text' },
  'without-zone': {},
  'key-unknown': {},

  // An answer.
  none: {},
  'none-kept': { seconds: 'number', isTcp: ['no', 'yes'] },
  'records-kept': { records: 'text', seconds: 'number', isTcp: ['no', 'yes'] },
  'not-registered': {},
  held: { until: 'text', servers: 'text', isKnown: ['none', 'until', 'servers', 'both'] },
  certificate: { names: 'text', issuer: 'text', until: 'text' },
  status: { status: 'number', more: 'text' },
  'status-to': { status: 'number', location: 'text', more: 'text' },
});
export type AnswerMessage = MessageOf<typeof answer>;
