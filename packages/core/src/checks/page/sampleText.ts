import { elements, fold, type Element } from '../../html/index.ts';
import type { Finding, PageCheck } from '../check.ts';

/** Filler of typesetters, of which parts are used alone too, and the words of blank templates. */
const SAMPLE = /\b(lorem ipsum|dolor sit amet|consectetur adipi[sc]+ing|sed do eiusmod|ut enim ad minim|duis aute irure|excepteur sint)\b|\b(your (text|heading|title|content|name|company|tagline) (goes )?here|insert (your )?(text|content|title|heading) here|(sample|placeholder|dummy|filler) text|replace this text|click (here )?to edit|type something here)\b/i;

const UNSEEN = new Set(['script', 'style', 'template', 'noscript']);

export const sampleText: PageCheck = {
  code: 'sample-text', severity: 'must', title: 'Sample text left over',
  how: 'Point at the text in the page and write what it is to say, or leave its section out.', source: 'common practice',
  * find({ document }) {
    for (const element of elements(document.root)) if (!UNSEEN.has(element.tagName)) yield* inTexts(element);
  },
};

function* inTexts(element: Element): Generator<Finding> {
  for (const node of element.childNodes) {
    if (node.nodeName !== '#text' || !('value' in node) || !SAMPLE.test(node.value)) continue;
    const span = node.sourceCodeLocation;
    const text = fold(node.value);
    yield { detail: text.length > 80 ? `${text.slice(0, 77)} …` : text, ...(span ? { start: span.startOffset, end: span.endOffset } : {}) };
  }
}
