import { walkElements, fold, findParent, type Element } from '../../html/index.ts';
import type { Finding, PageCheck } from '../check.ts';

/** The words of the typesetters' filler, from a mangled Cicero (common practice); none of them is a word of a modern language. */
const FILLER = new Set(
  (
    'lorem ipsum dolor amet consectetur adipiscing adipisicing elit eiusmod tempor incididunt labore dolore magna aliqua enim minim veniam nostrud exercitation ullamco laboris aliquip commodo consequat duis aute irure ' +
    'reprehenderit voluptate velit esse cillum fugiat nulla pariatur excepteur sint occaecat cupidatat proident culpa officia deserunt mollit anim laborum curabitur vestibulum pellentesque suspendisse phasellus'
  ).split(' '),
);
/** Below this a text has filler in it because it speaks of it. */
const LEAST_SHARE = 0.4;

/** What blank templates say where words are to go; as a whole text, since prose may speak of it too. */
const BLANK =
  /^(your (text|heading|title|content|name|company|tagline) (goes )?here|insert (your )?(text|content|title|heading) here|(this is )?(a )?(sample|placeholder|dummy|filler) text|replace this text( with your own)?|click (here )?to edit( this text)?|type something here)\s*[.!…]*$/i;

const UNSEEN = new Set(['script', 'style', 'template', 'noscript']);
/** In these, words are shown and not said, or name something. */
const SHOWN = new Set([
  'code',
  'pre',
  'samp',
  'kbd',
  'var',
  'tt',
  'textarea',
  'option',
  'label',
  'dt',
  'th',
  'td',
  'a',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'q',
  'blockquote',
  'cite',
]);

export const sampleText: PageCheck = {
  code: 'sample-text',
  severity: 'must',
  source: 'common practice',
  *find({ document }) {
    for (const element of walkElements(document.root)) if (!UNSEEN.has(element.tagName)) yield* findInTexts(element);
  },
};

function* findInTexts(element: Element): Generator<Finding> {
  for (const node of element.childNodes) {
    if (node.nodeName !== '#text' || !('value' in node)) continue;
    const text = fold(node.value);
    if (!(isFiller(text) && !isIn(element, CODE)) && !(BLANK.test(text) && !isIn(element, SHOWN))) continue;
    const span = node.sourceCodeLocation;
    yield {
      detail: text.length > 80 ? `${text.slice(0, 77)} …` : text,
      ...(span ? { start: span.startOffset, end: span.endOffset } : {}),
    };
  }
}

const CODE = new Set(['code', 'pre', 'samp', 'kbd', 'var', 'tt', 'textarea']);

/** Whether a text is filler rather than words about it: most of its words are, and more than one. */
function isFiller(text: string): boolean {
  if (!/[a-z]/i.test(text)) return false;
  const words = text.toLowerCase().match(/\p{L}+/gu) ?? [];
  const filler = words.filter((word) => FILLER.has(word)).length;
  return filler >= 2 && filler >= words.length * LEAST_SHARE;
}

function isIn(element: Element, these: ReadonlySet<string>): boolean {
  for (let at: Element | undefined = element; at; at = findParent(at)) if (these.has(at.tagName)) return true;
  return false;
}
