import { linkPlaces } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

export const officeDocument: PageCheck = {
  code: 'office-document',
  severity: 'should',
  source: 'common practice',
  *find({ document }) {
    for (const { hrefs, element, start, end } of linkPlaces(document)) {
      if (element !== 'a' && element !== 'area') continue;
      for (const href of hrefs)
        if (/\.(docx?|xlsx?|pptx?|odt|ods|odp|rtf|pages|numbers|key)(?=$|[?#])/i.test(href))
          yield { detail: href, start, end };
    }
  },
};
