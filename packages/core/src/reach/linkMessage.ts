/** How each link of the chain stands, in a few words, and what that means for visitors. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const LINK_NAMES = {
  registration: 'registration',
  'name-servers': 'nameServers',
  records: 'records',
  certificate: 'certificate',
  host: 'host',
} as const;
const LINK = ['registration', 'nameServers', 'records', 'certificate', 'host'] as const;

export const link = defineMessages('link', {
  'not-known': {},
  'waits-for': { link: LINK },
  'nobody-holds-it': {},
  held: {},
  'held-until': { day: 'day' },
  'ran-out': { day: 'day' },
  'none-named': {},
  'none-answers': {},
  'some-answer': { answering: 'number', all: 'number' },
  'they-differ': {},
  'answer-alike': { names: 'series' },
  'host-not-known': {},
  'some-right': { right: 'number', all: 'number' },
  'reaching-everyone': {},
  'all-right': { all: 'number' },
  'none-served': {},
  'of-another-name': {},
  'not-trusted': {},
  'days-left': { days: 'number' },
  'does-not-answer': {},
  'answers-status': { status: 'text' },
  'nothing-published': {},
  'answers-in': { ms: 'number' },
  'leads-on-in': { ms: 'number' },
  'leads-nowhere': {},
  'leads-elsewhere': {},
});
export type LinkMessage = MessageOf<typeof link>;

export const meaning = defineMessages('meaning', {
  'registry-silent': { reason: 'part' },
  'not-registered': {},
  'registered-without-end': {},
  'registration-over': {},
  'registration-ends-soon': {},
  registered: {},
  'no-name-servers': {},
  'name-servers-silent': { reason: 'part' },
  'some-silent': { silent: 'clauses' },
  'server-silent': { name: 'text', reason: 'part' },
  'zones-differ': {},
  'zones-alike': {},
  'records-not-known': {},
  'host-not-said': {},
  'records-wrong': {},
  'records-spreading': {},
  'records-right': {},
  'certificate-comes': { reason: 'part' },
  'certificate-of-host': { reason: 'part' },
  'certificate-over': {},
  'certificate-of-others': { covered: 'series', uncovered: 'series' },
  'certificate-not-trusted': {},
  'certificate-due': {},
  'certificate-valid': { covered: 'series' },
  'host-silent': { reason: 'part' },
  'host-fails': {},
  'nothing-there': {},
  'host-answers': {},
  'sends-on': { main: 'text' },
  'sends-nowhere': { main: 'text' },
  'sends-elsewhere': { main: 'text', there: 'text' },
});
export type MeaningMessage = MessageOf<typeof meaning>;

/** How the whole address of a site stands. */
export const standing = defineMessages('standing', {
  'not-looked-at': {},
  'all-right': {},
  'at-link': { link: LINK, words: 'message' },
  'of-domain': { domain: 'text', standing: 'message' },
});
export type StandingMessage = MessageOf<typeof standing>;
