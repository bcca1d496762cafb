import { readAttribute } from '../../html/index.ts';
import { findSpan, type CheckedPage, type PageCheck } from '../check.ts';

export function isShutToSearch({ elements }: Pick<CheckedPage, 'elements'>): boolean {
  return elements.some(
    (element) =>
      element.tagName === 'meta' &&
      /^robots$/i.test(readAttribute(element, 'name') ?? '') &&
      /\b(noindex|none)\b/i.test(readAttribute(element, 'content') ?? ''),
  );
}

export const shutPage: PageCheck = {
  code: 'page-shut',
  severity: 'should',
  source: 'RFC 9309, section 1; common practice for the robots meta tag',
  *find({ elements, path }) {
    // The page for what is not found is shut on purpose.
    if (path.endsWith('404.html')) return;
    const element = elements.find((each) => isShutToSearch({ elements: [each] }));
    if (element) yield { detail: readAttribute(element, 'content') ?? '', ...findSpan(element) };
  },
};
