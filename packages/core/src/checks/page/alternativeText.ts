import { attribute, isHtml } from '../../html/index.ts';
import { elementAnchor, spanOf, type PageCheck } from '../check.ts';

export const missingAlt: PageCheck = {
  code: 'alt-missing',
  severity: 'look',
  title: 'Pictures without words',
  how: 'Say in a few words what the picture shows; leave them empty where it is mere decoration.',
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
        detail: attribute(element, 'src') ?? attribute(element, 'srcset') ?? 'a picture without an address',
        ...spanOf(element),
        mend: {
          label: 'Set the words',
          asks: 'What the picture shows; empty for decoration',
          work: (alt) => {
            const place = elementAnchor(page, element);
            return place && { kind: 'attributes', place, set: { alt } };
          },
        },
      };
    }
  },
};
