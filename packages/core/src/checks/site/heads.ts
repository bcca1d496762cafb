/** Checks of what was set for heads, page by page. */
import type { EffectiveLine } from '../../head/index.ts';
import type { Check } from '../check.ts';

export const headConflict: Check = {
  code: 'head-conflict', severity: 'look', title: 'Pages with a tag of their own where something else is set',
  how: 'The page’s own stands. Keep it, or use what is set here, under Metadata.', source: 'common practice',
};

export const canonicalGone: Check = {
  code: 'canonical-gone', severity: 'must', title: 'Canonical addresses at which there is no page',
  how: 'Search engines would leave the page out for one that is not there. Correct the address, or take it away.', source: 'RFC 6596, section 3',
};

export const HEAD_CHECKS = [headConflict, canonicalGone] as const;

/** What a conflict is, in words that tell it from others of the page. */
export function conflictWords({ name, own, conflict }: EffectiveLine): string {
  if (!conflict) return '';
  const short = (text: string) => (text.length > 80 ? `${text.slice(0, 79)}…` : text);
  return `${name.replace(/^(meta|link):/, '')}: “${short(own.join('”, “'))}” in the page, ${conflict.text === false ? 'left out' : `“${short(conflict.text)}”`} ${conflict.from === 'computed' ? 'as computed' : `for the ${conflict.from}`}`;
}
