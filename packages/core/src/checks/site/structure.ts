/** Checks of what was decided here: menus and listings. */
import type { Check } from '../check.ts';

export const menuDiffers: Check = {
  code: 'menu-differs',
  severity: 'should',
  source: 'WCAG 2.2, 3.2.3',
};

export const listingContent: Check = {
  code: 'listing-content',
  severity: 'should',
  source: 'common practice',
};

export const listingUnreached: Check = {
  code: 'listing-unreached',
  severity: 'should',
  source: 'common practice',
};
