import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { say } from '../words.ts';

/** Why an address is set apart, by the rule that did it. */
export const NOISE_WORDS: Readonly<Record<NonNullable<RedirectRow['noise']>, string>> = {
  probe: say('noise.probe'),
  'never answered': say('noise.neverAnswered'),
  'only robots': say('noise.onlyRobots'),
  'part of a page': say('noise.partOfAPage'),
  endless: say('noise.endless'),
};
