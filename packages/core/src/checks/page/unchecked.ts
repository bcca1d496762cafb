import type { PageCheck } from '../check.ts';

/** What the checks themselves could not read; a page is published as it is all the same. */
export const uncheckedPage: PageCheck = {
  code: 'page-unchecked',
  severity: 'look',
  source: 'common practice',
  *find({ styles }) {
    if (styles().isPartial) yield { detail: 'its styles are nested too deeply to be read, so colours were not judged' };
  },
};
