import { isHeading, isHtml, collectText } from '../../html/index.ts';
import { findSpan, type PageCheck } from '../check.ts';
import { snag } from '../messages.ts';

export const headingOrder: PageCheck = {
  code: 'heading-order',
  severity: 'should',
  source: 'WCAG 2.2, 1.3.1 with technique H42; HTML standard, section 4.3.11',
  *find({ elements }) {
    let before = 0;
    for (const element of elements) {
      if (!isHtml(element) || !isHeading(element.tagName)) continue;
      const level = Number(element.tagName[1]);
      if (level > before + 1)
        yield {
          detail:
            before === 0
              ? snag('heading-first', { level, text: collectText(element) })
              : snag('heading-after', { level, before, text: collectText(element) }),
          ...findSpan(element),
        };
      before = level;
    }
  },
};
