/** What somebody should know of a live site today. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

const YES_NO = ['yes', 'no'] as const;

export const alert = defineMessages('alert', {
  away: { problem: 'part' },
  drift: { since: 'day', address: 'text', finding: 'message', more: 'number' },
  'certificate-over': { name: 'text' },
  'certificate-ends': { name: 'text', day: 'day', renewsItself: YES_NO },
  'registration-over': { name: 'text' },
  'registration-ends': { name: 'text', day: 'day' },
  'came-down': { day: 'day' },
  'comes-down': { day: 'day' },
  spike: { address: 'text', more: 'number' },
  log: { problem: 'part' },
});
export type AlertMessage = MessageOf<typeof alert>;

/** Why a look at the live site counts as it being away; what its line or its certificate says is a text of its own. */
export const outage = defineMessages('outage', {
  'answers-status': { status: 'number' },
  'home-not-found': {},
  'no-answer': {},
});
export type OutageMessage = MessageOf<typeof outage>;
