import { readAttribute, isHtml, collectText } from '../../html/index.ts';
import { findSpan, type PageCheck } from '../check.ts';
import { snag } from '../messages.ts';

export const emptyLink: PageCheck = {
  code: 'link-empty',
  severity: 'should',
  source: 'HTML standard, section 4.6.2',
  *find({ elements }) {
    for (const element of elements) {
      if (element.tagName !== 'a' || !isHtml(element)) continue;
      const href = readAttribute(element, 'href')?.trim();
      if (href === undefined || (href !== '' && href !== '#' && !/^javascript:\s*(void\b.*|;|)$/i.test(href))) continue;
      // A lone "#" with a script of its own on it is a button in all but name.
      if (
        href === '#' &&
        element.attrs.some(
          ({ name }) =>
            name.startsWith('on') || name === 'role' || name.startsWith('data-') || name === 'aria-controls',
        )
      )
        continue;
      yield { detail: collectText(element) || snag('link-without-words'), ...findSpan(element, 'href') };
    }
  },
};
