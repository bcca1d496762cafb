import { mend, snag } from '../messages.ts';
import { COMMON_LIMITS, leadOf, countLetters, suggestDescription } from '../../head/index.ts';
import { readAttribute, fold, type Element } from '../../html/index.ts';
import { findSpan, type CheckedPage, type PageCheck } from '../check.ts';

function findDescription({ elements }: CheckedPage): { element: Element; text: string } | undefined {
  const element = elements.find(
    (each) => each.tagName === 'meta' && readAttribute(each, 'name')?.toLowerCase() === 'description',
  );
  return element && { element, text: fold(readAttribute(element, 'content') ?? '') };
}

export const missingDescription: PageCheck = {
  code: 'description-missing',
  severity: 'should',
  source: 'HTML standard, section 4.2.5.1; common practice',
  *find(page) {
    const found = findDescription(page);
    if (found && found.text !== '') return;
    const suggestion = suggestDescription(leadOf(page.document));
    yield {
      detail: snag(found ? 'description-empty' : 'no-description'),
      ...(found ? findSpan(found.element) : {}),
      ...(suggestion === ''
        ? {}
        : {
            mend: {
              label: mend('take-paragraph'),
              asks: undefined,
              work: () => ({ kind: 'line', name: 'meta:description', text: suggestion }),
            },
          }),
    };
  },
};

export const longDescription: PageCheck = {
  code: 'description-long',
  severity: 'should',
  source: 'common practice',
  *find(page) {
    const found = findDescription(page);
    const letters = found ? countLetters(found.text) : 0;
    if (found && letters > COMMON_LIMITS.descriptionLetters)
      yield {
        detail: snag('description-long', { letters, text: found.text.slice(0, 60) }),
        ...findSpan(found.element),
      };
  },
};
