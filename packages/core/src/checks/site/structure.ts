/** Checks of what was decided here: menus and listings. */
import type { Check } from '../check.ts';

export const menuDiffers: Check = {
  code: 'menu-differs',
  severity: 'look',
  title: 'Pages where a menu differs',
  how: 'Write the menu into these pages too, under Menus, or leave them as they are.',
  source: 'WCAG 2.2, 3.2.3',
};

export const listingContent: Check = {
  code: 'listing-content',
  severity: 'look',
  title: 'Listing pages with other content',
  how: 'Leave the other sections out, or move them to a page of their own: on the further pages of the listing they are repeated.',
  source: 'common practice',
};

export const listingUnreached: Check = {
  code: 'listing-unreached',
  severity: 'look',
  title: 'Listing pages nothing leads to',
  how: 'Add the page to the main menu.',
  source: 'common practice',
};
