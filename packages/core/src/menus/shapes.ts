/** What the elements of a page are to a menu: links, boxes, separators, words, and what stands beside them. */
import { readAttribute, walkElements, fold, isHtml, findParent, collectText, type Element } from '../html/index.ts';

export interface Span {
  readonly start: number;
  readonly end: number;
}

export type ChildNode = Element['childNodes'][number];

export const INLINE = new Set([
  'a',
  'b',
  'strong',
  'i',
  'em',
  'span',
  'font',
  'small',
  'big',
  'tt',
  'u',
  'label',
  'nobr',
  'code',
  'button',
  'center',
]);
export const LISTS = new Set(['ul', 'ol', 'menu', 'dir']);
export const BOXES = new Set(['div', 'p', 'li', 'td', 'th', 'section', 'article', 'h4', 'h5', 'h6']);
/** Nothing that is seen, or a gap. */
export const UNSEEN = new Set(['script', 'style', 'template', 'noscript', 'link', 'meta']);
export const GAPS = new Set(['img', 'svg', 'wbr']);
export const CONTROLS = new Set(['form', 'input', 'select', 'textarea', 'iframe', 'object', 'video', 'audio']);
/** What stands between items and says nothing by itself. */
const SEPARATORS =
  '|\u00a6\u00b7\u2022\u2219\u2023\u25aa\u00bb\u203a>\u2192\u00ab\u2039<\u2190~\u2013\u2014*\\[\\]/\\\\:+-';
const ONLY_SEPARATORS = new RegExp(`^[\\s\u00a0${SEPARATORS}]*$`, 'u');
export const EDGES = new RegExp(`^[\\s\u00a0${SEPARATORS}]+|[\\s\u00a0${SEPARATORS}]+$`, 'gu');
const SPACES_AND_SEPARATORS = new RegExp(`[\\s\u00a0${SEPARATORS}]`, 'gu');
export const HAS_SEPARATOR = new RegExp(`[\u00a0${SEPARATORS}]`, 'u');
export const SPLIT = /[|\u00a6\u00b7\u2022\u00bb\u203a\u00ab\u2039[\]\u00a0]+/u;

export const isSeparator = (text: string): boolean => ONLY_SEPARATORS.test(text);

/** A box with more text than this is no item; the rest is not read. */
export const MOST_HOLDER_LETTERS = 600;
export const MOST_WORDS_LETTERS = 40;

export function isLink(element: Element): boolean {
  return element.tagName === 'a' && isHtml(element) && readAttribute(element, 'href') !== undefined;
}

export function listChildElements(element: Element): Element[] {
  return element.childNodes.filter((node): node is Element => 'tagName' in node);
}

export function isEmpty(element: Element): boolean {
  const text = readShortText(element);
  if (text === undefined || !isSeparator(text)) return false;
  return ![...walkElements(element)].some((each) => isLink(each) || CONTROLS.has(each.tagName));
}

/** Every box around an element asks for its text, and several questions do; trees are not changed. */
const texts = new WeakMap<Element, string | undefined>();

/** An element's text, white space folded; undefined where it is much longer than a box with an item in it has. */
export function readShortText(element: Element): string | undefined {
  if (!texts.has(element)) texts.set(element, readTextUpTo(element, MOST_HOLDER_LETTERS));
  return texts.get(element);
}

function readTextUpTo(element: Element, most: number): string | undefined {
  let out = '';
  const stack: ChildNode[] = [element];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.nodeName === '#text' && 'value' in node) out += node.value;
    else if ('childNodes' in node && !UNSEEN.has(node.nodeName))
      for (let i = node.childNodes.length - 1; i >= 0; i -= 1) stack.push(node.childNodes[i] as ChildNode);
    if (out.length > most * 2) return undefined;
  }
  return fold(out);
}

export function hasControl(element: Element): boolean {
  return [...walkElements(element)].some(({ tagName }) => CONTROLS.has(tagName));
}

export function isShort(label: string): boolean {
  return (
    label.length > 0 && label.length <= MOST_WORDS_LETTERS && label.split(' ').length <= 6 && !/[.!?,;]$/.test(label)
  );
}

/** What words stand in, themselves or alone in their holder. */
export function findOwnTag(holder: Element): { readonly tag?: string } {
  const within = listChildElements(holder);
  const inner = INLINE.has(holder.tagName) ? holder : within.length === 1 ? within[0] : undefined;
  return inner && TAGS_OF_WORDS.has(inner.tagName) ? { tag: inner.tagName } : {};
}

const TAGS_OF_WORDS = new Set(['b', 'strong', 'span', 'em', 'i', 'u', 'font', 'big']);

export function findFirstLink(holder: Element): Element | undefined {
  for (const element of walkElements(holder)) if (isLink(element)) return element;
  return undefined;
}

export function findLongest(links: readonly Element[]): Element | undefined {
  return [...links].sort((a, b) => collectText(b).length - collectText(a).length)[0];
}

/** Letters in a box that stand in none of its links, separators left out; endless where the box is a text. */
export function countLettersBeside(holder: Element, links: readonly Element[]): number {
  const text = readShortText(holder);
  return text === undefined
    ? Infinity
    : countLetters(text) - links.reduce((sum, link) => sum + countLetters(collectText(link)), 0);
}

const countLetters = (text: string): number => text.replace(SPACES_AND_SEPARATORS, '').length;

/** The words in front of a list in its item. */
export function findHeadWords(
  holder: Element,
  list: Element,
): { readonly label: string; readonly element: Element | undefined } | undefined {
  let label = '';
  let element: Element | undefined;
  const stack: { readonly node: ChildNode; readonly parent: Element }[] = holder.childNodes
    .map((node) => ({ node, parent: holder }))
    .reverse();
  for (let at = stack.pop(); at; at = stack.pop()) {
    const { node, parent } = at;
    if (node === list) break;
    if (node.nodeName === '#text' && 'value' in node) {
      if (fold(node.value) !== '') element ??= parent;
      label += ` ${node.value}`;
    } else if ('tagName' in node && !UNSEEN.has(node.tagName)) {
      stack.push(...node.childNodes.map((child) => ({ node: child, parent: node })).reverse());
    }
  }
  const words = fold(label);
  // A heading over a list is a title, and the list by itself.
  if (element && (/^h[1-6]$/.test(element.tagName) || holder.tagName === 'p')) return undefined;
  return isShort(words) ? { label: words, element } : undefined;
}

export function isWithin(element: Element, box: Element): boolean {
  for (let at: Element | undefined = element; at; at = findParent(at)) if (at === box) return true;
  return false;
}

export function isBefore(root: Element, first: Element, second: Element): boolean {
  for (const element of walkElements(root)) {
    if (element === first) return true;
    if (element === second) return false;
  }
  return false;
}

export function findNearestTable(element: Element): Element | undefined {
  for (let at = findParent(element); at; at = findParent(at)) if (at.tagName === 'table') return at;
  return undefined;
}

/** A link's words: its text, or what its picture or itself is called. */
export function readLinkLabel(link: Element, to: string): string {
  const text = collectText(link);
  if (text !== '') return text;
  for (const element of walkElements(link)) {
    const name = fold(
      readAttribute(element, 'alt') ?? readAttribute(element, 'aria-label') ?? readAttribute(element, 'title') ?? '',
    );
    if (name !== '') return name;
  }
  return to === '' ? '' : (/([^/?#]+)\/?(?:[?#].*)?$/.exec(to)?.[1] ?? to);
}

export function readSpan({ sourceCodeLocation: location }: Element): Span | undefined {
  return location ? { start: location.startOffset, end: location.endOffset } : undefined;
}

export function shiftSpan({ start, end }: Span, by: number): Span {
  return { start: start + by, end: end + by };
}

export function joinSpans(first: Span | undefined, last: Span | undefined): Span | undefined {
  return first && last ? { start: first.start, end: last.end } : undefined;
}
