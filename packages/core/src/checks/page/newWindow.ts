import { mend } from '../messages.ts';
import { readAttribute, isHtml, collectText } from '../../html/index.ts';
import { anchorElement, findSpan, type PageCheck } from '../check.ts';

export const openerLink: PageCheck = {
  code: 'new-window-opener',
  severity: 'should',
  source: 'HTML standard, section 4.6.7.13',
  *find(page) {
    for (const element of page.elements) {
      if (
        (element.tagName !== 'a' && element.tagName !== 'area') ||
        !isHtml(element) ||
        readAttribute(element, 'target')?.toLowerCase() !== '_blank'
      )
        continue;
      // Within the site there is nobody to be wary of.
      if (
        !/^(https?:)?\/\//i.test(readAttribute(element, 'href') ?? '') ||
        /\bno(opener|referrer)\b/i.test(readAttribute(element, 'rel') ?? '')
      )
        continue;
      yield {
        detail: `${collectText(element)} ${readAttribute(element, 'href') ?? ''}`.trim(),
        ...findSpan(element),
        mend: {
          label: mend('add-noopener'),
          asks: undefined,
          work: () => {
            const place = anchorElement(page, element);
            return place && { kind: 'link', place, newWindow: true };
          },
        },
      };
    }
  },
};
