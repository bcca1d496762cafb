import type { PageCheck } from '../check.ts';
import { snag } from '../messages.ts';

/** What the checks themselves could not read; a page is published as it is all the same. */
export const uncheckedPage: PageCheck = {
  code: 'page-unchecked',
  severity: 'should',
  source: 'common practice',
  *find({ styles }) {
    if (styles().isPartial) yield { detail: snag('styles-nested') };
  },
};
