import { declaresCharset } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

export const missingCharset: PageCheck = {
  code: 'charset-missing',
  severity: 'look',
  title: 'Pages that do not say their character set',
  how: 'Declare it; otherwise letters beyond plain English depend on the visitor’s browser.',
  source: 'HTML standard, section 4.2.5.4',
  *find({ elements, document: { source } }) {
    if (
      source.encodingSource === 'bom' ||
      elements.some((element) => element.tagName === 'meta' && declaresCharset(element))
    )
      return;
    yield {
      detail: `read as ${source.encoding}`,
      mend: {
        label: 'Declare it',
        asks: undefined,
        work: () => ({ kind: 'head', line: 'charset', value: source.encoding }),
      },
    };
  },
};
