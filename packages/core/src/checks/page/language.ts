import { attribute, firstElement } from '../../html/index.ts';
import { spanOf, type PageCheck } from '../check.ts';

export const missingLanguage: PageCheck = {
  code: 'language-missing',
  severity: 'look',
  title: 'Pages that do not say their language',
  how: 'Declare the language, so that screen readers speak it and browsers offer to translate it.',
  source: 'WCAG 2.2, 3.1.1; HTML standard, section 3.2.6.2',
  *find({ document }) {
    const html = firstElement(document, 'html');
    if (html && (attribute(html, 'lang') ?? '').trim() === '') {
      yield {
        detail: 'no language',
        ...(html.sourceCodeLocation?.startTag ? spanOf(html) : {}),
        mend: {
          label: 'Declare it',
          asks: 'Language, as a tag like en or cy',
          work: (value) => ({ kind: 'head', line: 'language', value }),
        },
      };
    }
  },
};
