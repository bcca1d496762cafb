/** Removed things in words. */
import type { RemovedRow } from '@fastigium/contracts/api/draft';
import { readDay } from '../../../logic/format.ts';
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { sayMenuPlace } from '../../../words/index.ts';
import { say } from '../words.ts';

/** `was 4th under Visit, main menu`. */
export function sayWhereItWas({ nth, under, menus }: Pick<RemovedRow, 'nth' | 'under' | 'menus'>): string {
  const names = menus
    .map((menu) => sayMenuPlace(menu).toLowerCase())
    .filter((name, index, all) => all.indexOf(name) === index);
  return [say('removal.wasUnder', { nth, isNoUnder: under === '', under }), ...names].join(', ');
}

export function sayKept({ keptUntil, held }: Pick<RemovalRow, 'keptUntil' | 'held'>): string {
  if (held) return say('removal.heldBy', { initials: held.by.initials });
  return keptUntil === null ? say('removal.withoutEnd') : say('removal.until', { keptUntil: readDay(keptUntil) });
}

/** How people put kinds side by side. */
export const KIND_WORDS: Readonly<Record<RemovalRow['kind'], string>> = {
  page: say('removal.page'),
  branch: say('removal.branch'),
  section: say('removal.section'),
  file: say('removal.file'),
  'menu item': say('removal.menuItem'),
  redirects: say('removal.redirects'),
  group: say('removal.group'),
  link: say('removal.outsideLink'),
};
