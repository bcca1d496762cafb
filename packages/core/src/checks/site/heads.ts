/** Checks of what was set for heads, page by page. */
import type { EffectiveLine } from '../../head/index.ts';
import type { PictureSize } from '../../picture/index.ts';
import type { Check } from '../check.ts';
import { snag, type SnagMessage } from '../messages.ts';

export const headConflict: Check = {
  code: 'head-conflict',
  severity: 'should',
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
  severity: 'should',
  source: 'Open Graph protocol; common practice',
};

/** @returns the size in pixels where the picture is too small; undefined where it is large enough, or none of the site's */
export function shareSmallness(size: PictureSize | undefined): { width: number; height: number } | undefined {
  return size && (size.widthPx < SHARE_PX.widthPx || size.heightPx < SHARE_PX.heightPx)
    ? { width: size.widthPx, height: size.heightPx }
    : undefined;
}

export const sitemapShut: Check = {
  code: 'sitemap-shut',
  severity: 'should',
  source: 'RFC 9309, section 2.2.2; common practice',
};

export const HEAD_CHECKS = [headConflict, canonicalGone, sitemapShut, smallSharePicture] as const;

/** What a conflict is, as it is told from others of the page; undefined where there is none. */
export function describeConflict({ name, own: ownText, conflict }: EffectiveLine): SnagMessage | undefined {
  if (!conflict) return undefined;
  const short = (text: string) => (text.length > 80 ? `${text.slice(0, 79)}…` : text);
  return snag('conflict', {
    line: name.replace(/^(meta|link):/, ''),
    own: short(ownText.join('”, “')),
    set: conflict.text === false ? '' : short(conflict.text),
    isOut: conflict.text === false ? 'yes' : 'no',
    from: conflict.from,
  });
}
