/** What is otherwise with an address than was published: messages that end a sentence about the address. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

const CLOSED = ['password', 'nobody', 'over'] as const;

export const finding = defineMessages('finding', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  'no-answer': { reason: 'text' },
  redirected: { to: 'text', status: 'number' },
  'redirected-nowhere': { status: 'number' },
  status: { status: 'number' },
  differs: {},
  'differs-in-size': { size: 'number', published: 'number' },
  'no-type': {},
  type: { given: 'text', published: 'text' },
  charset: { given: 'text', published: 'text' },
  'kept-long': { time: 'seconds' },
  'no-validator': {},
  'sent-again': { status: 'number' },
  'found-nowhere': { status: 'number' },
  'not-own-error-page': {},
  'hsts-missing': {},
  'hsts-differs': { sent: 'text', set: 'number' },
  'powered-by': { header: 'text' },
  'server-version': { header: 'text' },
  'no-https': { reason: 'part' },
  'certificate-other-names': { names: 'series' },
  'certificate-over': {},
  'certificate-untrusted': {},
  'certificate-ends': { days: 'number' },
  open: { although: CLOSED },
  'closed-otherwise': { status: 'number', expected: 'number', although: CLOSED },
  'no-challenge': {},
  /** `way`: what leads elsewhere; `end`: what is there instead of the home page. */
  'way-home': { way: 'message', leads: 'text', end: 'message', more: 'number' },
  'way-logo': {},
  'way-named': { label: 'text' },
  'end-elsewhere': { to: 'text' },
  'end-other-page': { home: 'text' },
  'end-too-many': { count: 'number' },
  'redirect-otherwise': { difference: 'message' },
  'no-release': {},
  'other-release': {},
});
export type FindingMessage = MessageOf<typeof finding>;
