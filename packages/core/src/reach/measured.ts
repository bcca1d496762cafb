/** What was measured of each step of the move. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const measured = defineMessages('measured', {
  'nothing-to-fix': {},
  'to-fix': { count: 'number' },
  'no-old-addresses': {},
  settled: { settled: 'number', all: 'number' },
  'not-published': {},
  published: { release: 'number', verdict: ['unasked', 'right', 'wrong'] },
  'no-domain': {},
  domain: { name: 'text' },
  'no-answer': {},
  kept: { time: 'seconds' },
  'records-not-looked-at': {},
  'records-as-needed': {},
  'records-to-change': { count: 'number' },
  'servers-give-old': {},
  resolvers: { fresh: 'number', all: 'number' },
  'certificate-served': { https: ['yes', 'no'] },
  certificate: { state: ['none', 'waiting', 'ordering', 'wrong', 'expired'] },
  'not-asked': {},
  'answers-so': {},
  'answers-not-so': {},
  lost: { count: 'number' },
  'log-not-read': {},
  'nothing-lost': {},
  'not-before-last-answer': {},
  'last-answer-over': {},
  'answers-still-kept': {},
});
export type Measured = MessageOf<typeof measured>;
