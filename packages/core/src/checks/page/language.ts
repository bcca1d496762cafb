import { mend, question, snag } from '../messages.ts';
import { readAttribute, findFirstElement } from '../../html/index.ts';
import { findSpan, type PageCheck } from '../check.ts';

export const missingLanguage: PageCheck = {
  code: 'language-missing',
  severity: 'should',
  source: 'WCAG 2.2, 3.1.1; HTML standard, section 3.2.6.2',
  *find({ document }) {
    const html = findFirstElement(document, 'html');
    if (html && (readAttribute(html, 'lang') ?? '').trim() === '') {
      yield {
        detail: snag('no-language'),
        ...(html.sourceCodeLocation?.startTag ? findSpan(html) : {}),
        mend: {
          label: mend('declare'),
          asks: question('language'),
          work: (value) => ({ kind: 'head', line: 'language', value }),
        },
      };
    }
  },
};
