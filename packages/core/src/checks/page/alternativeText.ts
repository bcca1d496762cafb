import { mend, question, snag } from '../messages.ts';
import { readAttribute, isHtml } from '../../html/index.ts';
import { anchorElement, findSpan, type PageCheck } from '../check.ts';

export const missingAlt: PageCheck = {
  code: 'alt-missing',
  severity: 'should',
  source: 'WCAG 2.2, 1.1.1; HTML standard, section 4.8.4.4',
  *find(page) {
    for (const element of page.elements) {
      if (element.tagName !== 'img' || !isHtml(element) || readAttribute(element, 'alt') !== undefined) continue;
      if (
        readAttribute(element, 'role') === 'presentation' ||
        readAttribute(element, 'aria-hidden') === 'true' ||
        readAttribute(element, 'aria-label') !== undefined
      )
        continue;
      yield {
        detail: readAttribute(element, 'src') ?? readAttribute(element, 'srcset') ?? snag('picture-without-address'),
        ...findSpan(element),
        mend: {
          label: mend('set-words'),
          asks: question('picture'),
          work: (alt) => {
            const place = anchorElement(page, element);
            return place && { kind: 'attributes', place, set: { alt } };
          },
        },
      };
    }
  },
};
