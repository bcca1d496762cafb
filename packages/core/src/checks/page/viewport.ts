import { mend, snag } from '../messages.ts';
import { readAttribute } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

export const missingViewport: PageCheck = {
  code: 'viewport-missing',
  severity: 'should',
  source: 'CSS Viewport Module 1, section 3',
  *find({ elements }) {
    if (
      elements.some(
        (element) => element.tagName === 'meta' && readAttribute(element, 'name')?.toLowerCase() === 'viewport',
      )
    )
      return;
    yield {
      detail: snag('no-viewport'),
      mend: {
        label: mend('declare'),
        asks: undefined,
        work: () => ({ kind: 'head', line: 'viewport', value: 'width=device-width, initial-scale=1' }),
      },
    };
  },
};
