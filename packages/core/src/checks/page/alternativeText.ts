import { mend, question, snag } from '../messages.ts';
import { attribute, isHtml } from '../../html/index.ts';
import { elementAnchor, spanOf, type PageCheck } from '../check.ts';

export const missingAlt: PageCheck = {
  code: 'alt-missing',
  severity: 'look',
  source: 'WCAG 2.2, 1.1.1; HTML standard, section 4.8.4.4',
  *find(page) {
    for (const element of page.elements) {
      if (element.tagName !== 'img' || !isHtml(element) || attribute(element, 'alt') !== undefined) continue;
      if (
        attribute(element, 'role') === 'presentation' ||
        attribute(element, 'aria-hidden') === 'true' ||
        attribute(element, 'aria-label') !== undefined
      )
        continue;
      yield {
        detail: attribute(element, 'src') ?? attribute(element, 'srcset') ?? snag('picture-without-address'),
        ...spanOf(element),
        mend: {
          label: mend('set-words'),
          asks: question('picture'),
          work: (alt) => {
            const place = elementAnchor(page, element);
            return place && { kind: 'attributes', place, set: { alt } };
          },
        },
      };
    }
  },
};
