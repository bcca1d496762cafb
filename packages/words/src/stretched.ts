/**
 * A language nobody speaks, made of English: a third longer, every phrase between brackets. What stands on a screen
 * without them is in no catalogue, and what is cut off would be in German, too. Common practice in localisation.
 */
import type { IntlMessageFormat } from 'intl-messageformat';

type Element = ReturnType<IntlMessageFormat['getAst']>[number];

/** The kind of an element that is words alone, as the reader of patterns numbers them. */
const LITERAL = 0;

/** Vowels are a good third of English, so that doubling them makes it that much longer. */
const longer = (text: string) => text.replace(/[aeiou]/gi, (vowel) => vowel + vowel.toLowerCase());

const wordsLonger = (element: Element): Element => {
  if ('children' in element) return { ...element, children: element.children.map(wordsLonger) };
  if ('options' in element) {
    const options = Object.entries(element.options).map(([name, option]) => [
      name,
      { ...option, value: option.value.map(wordsLonger) },
    ]);
    return { ...element, options: Object.fromEntries(options) } as Element;
  }
  return element.type === LITERAL ? { ...element, value: longer(element.value) } : element;
};

export const stretchedText = (text: string): string => `⟦${longer(text)}⟧`;

/** @param elements of a pattern that was read */
export function stretch(elements: readonly Element[]): Element[] {
  const bracket = (value: string): Element => ({ type: LITERAL, value });
  return [bracket('⟦'), ...elements.map(wordsLonger), bracket('⟧')];
}
