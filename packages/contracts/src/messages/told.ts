/** What others are told of a site, by webhook. */
import { defineMessages } from '@fastigium/core/messages';

export const told = defineMessages('told', {
  'release-live': { number: 'number', by: 'text' },
  'release-failed': { number: 'number', reason: 'part' },
  away: { problem: 'part' },
  back: {},
  alert: { alert: 'message' },
  'found-otherwise': { count: 'number', findings: 'clauses' },
  finding: { address: 'text', finding: 'message' },
  try: {},
});
