import { computeContrastRatio, requireRatio, findSeenTexts, type Rgb } from '../../css/index.ts';
import { collectText } from '../../html/index.ts';
import { findSpan, type PageCheck } from '../check.ts';
import { snag } from '../messages.ts';

/** Colours are rounded to what a screen shows; a ratio that is short by less than that is not short. */
const TOLERANCE = 0.005;

export const lowContrast: PageCheck = {
  code: 'contrast-low',
  severity: 'should',
  source: 'WCAG 2.2, 1.4.3',
  *find({ document, styles }) {
    // One finding for each pair of colours: a page of faint paragraphs is one thing to mend.
    const seen = new Set<string>();
    for (const { element, colour, background, sizePx, isBold } of findSeenTexts(document, styles())) {
      const ratio = computeContrastRatio(colour, background);
      const least = requireRatio(sizePx, isBold);
      if (ratio + TOLERANCE >= least) continue;
      const key = `${formatHex(colour)} on ${formatHex(background)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      const text = collectText(element);
      yield {
        detail: snag('contrast', {
          colour: formatHex(colour),
          ground: formatHex(background),
          ratio: (Math.floor(ratio * 100) / 100).toFixed(2),
          least,
          text: text.length > 40 ? `${text.slice(0, 37)} …` : text,
        }),
        ...findSpan(element),
      };
    }
  },
};

function formatHex({ r, g, b }: Rgb): string {
  return `#${[r, g, b]
    .map((part) =>
      Math.round(part * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}
