import { mend, snag } from '../messages.ts';
import { declaresCharset } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

export const missingCharset: PageCheck = {
  code: 'charset-missing',
  severity: 'should',
  source: 'HTML standard, section 4.2.5.4',
  *find({ elements, document: { source } }) {
    if (
      source.encodingSource === 'bom' ||
      elements.some((element) => element.tagName === 'meta' && declaresCharset(element))
    )
      return;
    yield {
      detail: snag('read-as', { encoding: source.encoding }),
      mend: {
        label: mend('declare'),
        asks: undefined,
        work: () => ({ kind: 'head', line: 'charset', value: source.encoding }),
      },
    };
  },
};
