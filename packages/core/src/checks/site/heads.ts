/** Checks of what was set for heads, page by page. */
import type { EffectiveLine } from '../../head/index.ts';
import type { PictureSize } from '../../picture/index.ts';
import type { Check } from '../check.ts';

export const headConflict: Check = {
  code: 'head-conflict',
  severity: 'look',
  source: 'common practice',
};

export const canonicalGone: Check = {
  code: 'canonical-gone',
  severity: 'must',
  source: 'RFC 6596, section 3',
};

/** Smaller ones are shown small or not at all (common practice). */
const SHARE_PX = { widthPx: 1200, heightPx: 630 } as const;

export const smallSharePicture: Check = {
  code: 'share-picture-small',
  severity: 'look',
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
  source: 'RFC 9309, section 2.2.2; common practice',
};

export const HEAD_CHECKS = [headConflict, canonicalGone, sitemapShut, smallSharePicture] as const;

/** What a conflict is, in words that tell it from others of the page. */
export function conflictWords({ name, own, conflict }: EffectiveLine): string {
  if (!conflict) return '';
  const short = (text: string) => (text.length > 80 ? `${text.slice(0, 79)}…` : text);
  return `${name.replace(/^(meta|link):/, '')}: “${short(own.join('”, “'))}” in the page, ${conflict.text === false ? 'left out' : `“${short(conflict.text)}”`} ${conflict.from === 'computed' ? 'as computed' : `for the ${conflict.from}`}`;
}
