import { mend, snag } from '../messages.ts';
import { COMMON_LIMITS, headingOf, suggestTitle, titleWidthPx } from '../../head/index.ts';
import { firstElement, textOf } from '../../html/index.ts';
import { spanOf, type PageCheck } from '../check.ts';

export const missingTitle: PageCheck = {
  code: 'title-missing',
  severity: 'look',
  source: 'HTML standard, section 4.2.2; WCAG 2.2, 2.4.2',
  *find({ document }) {
    const title = firstElement(document, 'title');
    if (title && textOf(title) !== '') return;
    const heading = suggestTitle(headingOf(document));
    yield {
      detail: snag(title ? 'title-empty' : 'no-title'),
      ...(title ? spanOf(title) : {}),
      ...(heading === ''
        ? {}
        : {
            mend: {
              label: mend('take-heading'),
              asks: undefined,
              work: () => ({ kind: 'line', name: 'title', text: heading }),
            },
          }),
    };
  },
};

export const longTitle: PageCheck = {
  code: 'title-long',
  severity: 'look',
  source: 'common practice',
  *find({ document }) {
    const title = firstElement(document, 'title');
    const text = title ? textOf(title) : '';
    const widthPx = Math.round(titleWidthPx(text));
    if (title && widthPx > COMMON_LIMITS.titlePx)
      yield { detail: snag('title-wide', { width: widthPx, text: text.slice(0, 60) }), ...spanOf(title) };
  },
};
