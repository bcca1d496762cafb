import { mend, snag } from '../messages.ts';
import { COMMON_LIMITS, readHeading, suggestTitle, measureTitlePx } from '../../head/index.ts';
import { findFirstElement, collectText } from '../../html/index.ts';
import { findSpan, type PageCheck } from '../check.ts';

export const missingTitle: PageCheck = {
  code: 'title-missing',
  severity: 'should',
  source: 'HTML standard, section 4.2.2; WCAG 2.2, 2.4.2',
  *find({ document }) {
    const title = findFirstElement(document, 'title');
    if (title && collectText(title) !== '') return;
    const heading = suggestTitle(readHeading(document));
    yield {
      detail: snag(title ? 'title-empty' : 'no-title'),
      ...(title ? findSpan(title) : {}),
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
  severity: 'should',
  source: 'common practice',
  *find({ document }) {
    const title = findFirstElement(document, 'title');
    const text = title ? collectText(title) : '';
    const widthPx = Math.round(measureTitlePx(text));
    if (title && widthPx > COMMON_LIMITS.titlePx)
      yield { detail: snag('title-wide', { width: widthPx, text: text.slice(0, 60) }), ...findSpan(title) };
  },
};
