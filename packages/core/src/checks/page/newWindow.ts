import { mend } from '../messages.ts';
import { attribute, isHtml, textOf } from '../../html/index.ts';
import { elementAnchor, spanOf, type PageCheck } from '../check.ts';

export const openerLink: PageCheck = {
  code: 'new-window-opener',
  severity: 'look',
  source: 'HTML standard, section 4.6.7.13',
  *find(page) {
    for (const element of page.elements) {
      if (
        (element.tagName !== 'a' && element.tagName !== 'area') ||
        !isHtml(element) ||
        attribute(element, 'target')?.toLowerCase() !== '_blank'
      )
        continue;
      // Within the site there is nobody to be wary of.
      if (
        !/^(https?:)?\/\//i.test(attribute(element, 'href') ?? '') ||
        /\bno(opener|referrer)\b/i.test(attribute(element, 'rel') ?? '')
      )
        continue;
      yield {
        detail: `${textOf(element)} ${attribute(element, 'href') ?? ''}`.trim(),
        ...spanOf(element),
        mend: {
          label: mend('add-noopener'),
          asks: undefined,
          work: () => {
            const place = elementAnchor(page, element);
            return place && { kind: 'link', place, newWindow: true };
          },
        },
      };
    }
  },
};
