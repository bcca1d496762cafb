/** What the form of a redirect holds. */
import type { RedirectRow, Suggestion } from '@fastigium/contracts/api/redirects';
import { readTypedTarget, type LeadingTarget } from '../pickedTarget.ts';
import { say } from '../words.ts';

export type ChosenStatus = 301 | 302 | 307 | 308 | 410;

/** RFC 9110 sections 15.4 and 15.5.11, in plain words. */
export const STATUS_OPTIONS: readonly { value: ChosenStatus; label: string; hint: string }[] = [
  { value: 301, label: '301', hint: say('target.movedForGoodSearchEngines') },
  { value: 302, label: '302', hint: say('target.elsewhereForNowTheOld') },
  { value: 307, label: '307', hint: say('target.forNowFormsAreSent') },
  { value: 308, label: '308', hint: say('target.forGoodFormsAreSent') },
  { value: 410, label: '410', hint: say('target.goneForGoodSearchEngines') },
];

export function readTarget(row: RedirectRow | undefined): LeadingTarget | undefined {
  if (row?.to == null || row.origin === 'page') return undefined;
  if (row.target) return row.target;
  return row.toPage === null ? readTypedTarget(row.to) : { kind: 'page', page: row.toPage };
}

export function findSuggestedTarget(suggestion: Suggestion | null | undefined): LeadingTarget | undefined {
  if (!suggestion) return undefined;
  return suggestion.page === null
    ? { kind: 'address', address: suggestion.address }
    : { kind: 'page', page: suggestion.page };
}
