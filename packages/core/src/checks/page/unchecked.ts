import type { PageCheck } from '../check.ts';

/** What the checks themselves could not read; a page is published as it is all the same. */
export const uncheckedPage: PageCheck = {
  code: 'page-unchecked',
  severity: 'look',
  title: 'Pages that could be checked only in part',
  how: 'Look at the page in a browser. Its markup or its styles stand in one another deeper than any tool writes them; something may have gone wrong when the site was made.',
  source: 'common practice',
  *find({ styles }) {
    if (styles().isPartial) yield { detail: 'its styles are nested too deeply to be read, so colours were not judged' };
  },
};
