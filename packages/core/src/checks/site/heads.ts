/** Checks of what was set for heads, page by page. */
import type { EffectiveLine } from '../../head/index.ts';
import type { PictureSize } from '../../picture/index.ts';
import type { Check } from '../check.ts';

export const headConflict: Check = {
  code: 'head-conflict',
  severity: 'look',
  title: 'Pages with a tag of their own where something else is set',
  how: 'The page’s own stands. Keep it, or use what is set here, under Metadata.',
  source: 'common practice',
};

export const canonicalGone: Check = {
  code: 'canonical-gone',
  severity: 'must',
  title: 'Canonical addresses at which there is no page',
  how: 'Search engines would leave the page out for one that is not there. Correct the address, or take it away.',
  source: 'RFC 6596, section 3',
};

/** Smaller ones are shown small or not at all (common practice). */
const SHARE_PX = { widthPx: 1200, heightPx: 630 } as const;

export const smallSharePicture: Check = {
  code: 'share-picture-small',
  severity: 'look',
  title: 'Share pictures that are too small',
  how: `Take a picture of at least ${SHARE_PX.widthPx} by ${SHARE_PX.heightPx} pixels, or it is shown small beside the text.`,
  source: 'Open Graph protocol; common practice',
};

/** @returns the size in words where the picture is too small; undefined where it is large enough, or none of the site's */
export function shareSmallness(size: PictureSize | undefined): string | undefined {
  return size && (size.widthPx < SHARE_PX.widthPx || size.heightPx < SHARE_PX.heightPx)
    ? `${size.widthPx} by ${size.heightPx} pixels`
    : undefined;
}

export const sitemapShut: Check = {
  code: 'sitemap-shut',
  severity: 'look',
  title: 'Pages the sitemap lists and robots.txt keeps out',
  how: 'Let crawlers ask for the page in robots.txt, or keep it out of search: then the sitemap leaves it out.',
  source: 'RFC 9309, section 2.2.2; common practice',
};

export const HEAD_CHECKS = [headConflict, canonicalGone, sitemapShut, smallSharePicture] as const;

/** What a conflict is, in words that tell it from others of the page. */
export function conflictWords({ name, own, conflict }: EffectiveLine): string {
  if (!conflict) return '';
  const short = (text: string) => (text.length > 80 ? `${text.slice(0, 79)}…` : text);
  return `${name.replace(/^(meta|link):/, '')}: “${short(own.join('”, “'))}” in the page, ${conflict.text === false ? 'left out' : `“${short(conflict.text)}”`} ${conflict.from === 'computed' ? 'as computed' : `for the ${conflict.from}`}`;
}
