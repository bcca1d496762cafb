import { attribute } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

export const missingViewport: PageCheck = {
  code: 'viewport-missing',
  severity: 'look',
  title: 'Pages that phones show tiny',
  how: 'Declare the viewport; without it phones show the page as if on a wide screen.',
  source: 'CSS Viewport Module 1, section 3',
  *find({ elements }) {
    if (
      elements.some((element) => element.tagName === 'meta' && attribute(element, 'name')?.toLowerCase() === 'viewport')
    )
      return;
    yield {
      detail: 'no viewport',
      mend: {
        label: 'Declare it',
        asks: undefined,
        work: () => ({ kind: 'head', line: 'viewport', value: 'width=device-width, initial-scale=1' }),
      },
    };
  },
};
