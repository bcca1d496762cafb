import { mend, question, snag } from '../messages.ts';
import { attribute, firstElement } from '../../html/index.ts';
import { spanOf, type PageCheck } from '../check.ts';

export const missingLanguage: PageCheck = {
  code: 'language-missing',
  severity: 'look',
  source: 'WCAG 2.2, 3.1.1; HTML standard, section 3.2.6.2',
  *find({ document }) {
    const html = firstElement(document, 'html');
    if (html && (attribute(html, 'lang') ?? '').trim() === '') {
      yield {
        detail: snag('no-language'),
        ...(html.sourceCodeLocation?.startTag ? spanOf(html) : {}),
        mend: {
          label: mend('declare'),
          asks: question('language'),
          work: (value) => ({ kind: 'head', line: 'language', value }),
        },
      };
    }
  },
};
