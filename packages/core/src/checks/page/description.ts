import { mend, snag } from '../messages.ts';
import { COMMON_LIMITS, leadOf, lettersOf, suggestDescription } from '../../head/index.ts';
import { attribute, fold, type Element } from '../../html/index.ts';
import { spanOf, type CheckedPage, type PageCheck } from '../check.ts';

function description({ elements }: CheckedPage): { element: Element; text: string } | undefined {
  const element = elements.find(
    (each) => each.tagName === 'meta' && attribute(each, 'name')?.toLowerCase() === 'description',
  );
  return element && { element, text: fold(attribute(element, 'content') ?? '') };
}

export const missingDescription: PageCheck = {
  code: 'description-missing',
  severity: 'look',
  source: 'HTML standard, section 4.2.5.1; common practice',
  *find(page) {
    const found = description(page);
    if (found && found.text !== '') return;
    const suggestion = suggestDescription(leadOf(page.document));
    yield {
      detail: snag(found ? 'description-empty' : 'no-description'),
      ...(found ? spanOf(found.element) : {}),
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
  severity: 'look',
  source: 'common practice',
  *find(page) {
    const found = description(page);
    const letters = found ? lettersOf(found.text) : 0;
    if (found && letters > COMMON_LIMITS.descriptionLetters)
      yield { detail: snag('description-long', { letters, text: found.text.slice(0, 60) }), ...spanOf(found.element) };
  },
};
