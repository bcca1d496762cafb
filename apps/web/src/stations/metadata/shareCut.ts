/** What is lost of a picture when it is cut to the proportions of a share card. */
import { say } from './words.ts';

/** 1200 by 630 (common practice). */
const SHARE = { widthPx: 1200, heightPx: 630 } as const;

export function cut(widthPx: number, heightPx: number): { readonly isSmall: boolean; readonly words: string } {
  const [wanted, is] = [SHARE.widthPx / SHARE.heightPx, widthPx / heightPx];
  const lost = Math.round((1 - (is > wanted ? wanted / is : is / wanted)) * 100);
  return {
    isSmall: widthPx < SHARE.widthPx || heightPx < SHARE.heightPx,
    words: lost < 3 ? say('shareCut.shownWhole') : say('shareCut.cutOffAboveAndBelow', { lost, hasIs: is > wanted }),
  };
}
