/** What a page is made of: its main content in sections, and the parts around it. */
import { attribute, elements, fold, isHtml, textOf, type Element, type PageDocument } from './document.ts';
import { parentOf } from './anchor.ts';
import { isHeading } from './reading.ts';

export interface Section {
  /** Its heading; of a part without one, its first words. */
  readonly name: string;
  /** Which one of those of the same name, from 0. */
  readonly nth: number;
  /** Span in the source, from the first of its elements to the end of the last. */
  readonly start: number;
  readonly end: number;
}

/** The parts that stand around the content of a page. */
export const PART_NAMES = ['header', 'menu', 'side', 'foot', 'comments'] as const;
export type PartName = (typeof PART_NAMES)[number];

/** Only what has an end tag of its own in the source can be told to end where the tree says. */
const span = ({ sourceCodeLocation: location }: Element) =>
  location && { start: location.startOffset, end: location.endOffset };

/**
 * The element that holds what a page is about: `<main>`, else the role, else an only `<article>`, else
 * the body (HTML standard, section 4.4.14, and WAI-ARIA 1.2, "main").
 */
export function mainElement(document: PageDocument): Element | undefined {
  let [main, role, article, body]: (Element | undefined)[] = [];
  let articles = 0;
  for (const element of elements(document.root)) {
    if (!isHtml(element)) continue;
    if (element.tagName === 'main') main ??= element;
    else if (attribute(element, 'role') === 'main') role ??= element;
    else if (element.tagName === 'article') [article, articles] = [article ?? element, articles + 1];
    else if (element.tagName === 'body') body = element;
  }
  return main ?? role ?? (articles === 1 ? article : undefined) ?? body;
}

/**
 * The top-level parts of the main content, in order. A heading below the page's own begins one, and so
 * does a box that holds a heading; what comes before the first of them is the opening.
 */
export function sections(document: PageDocument): Section[] {
  let main = mainElement(document);
  if (!main) return [];
  // A single wrapper around everything is no section.
  for (let inner = onlyChild(main); inner; inner = onlyChild(main)) main = inner;
  const found: { elements: Element[]; heading: string | undefined }[] = [];
  for (const child of childElements(main)) {
    if (isPart(child) || !isShown(child)) continue;
    const heading = isHeading(child.tagName) ? child : BOXES.has(child.tagName) ? firstHeading(child) : undefined;
    const begins = heading !== undefined && (heading !== child || child.tagName !== 'h1');
    const last = found.at(-1);
    if (begins || !last || last.heading === undefined && BOXES.has(child.tagName)) found.push({ elements: [child], heading: heading && textOf(heading) });
    else last.elements.push(child);
  }
  const names = new Map<string, number>();
  return found.flatMap(({ elements: parts, heading }) => {
    const [first, last] = [parts[0] && span(parts[0]), parts.at(-1)];
    const end = last && span(last);
    if (!first || !end) return [];
    const name = heading || firstWords(parts.map(textOf).join(' ')) || 'Without text';
    const nth = names.get(name) ?? 0;
    names.set(name, nth + 1);
    return [{ name, nth, start: first.start, end: end.end }];
  });
}

const BOXES = new Set(['section', 'article', 'div', 'aside', 'form', 'figure']);
const UNSEEN = new Set(['script', 'style', 'template', 'link', 'meta', 'noscript']);
const isShown = ({ tagName }: Element) => !UNSEEN.has(tagName);

function childElements(parent: Element): Element[] {
  return parent.childNodes.filter((node): node is Element => 'tagName' in node);
}

function onlyChild(parent: Element): Element | undefined {
  const shown = childElements(parent).filter((child) => isShown(child) && !isPart(child));
  const hasText = parent.childNodes.some((node) => node.nodeName === '#text' && 'value' in node && fold(node.value) !== '');
  const only = shown.length === 1 && !hasText ? shown[0] : undefined;
  return only && BOXES.has(only.tagName) ? only : undefined;
}

function firstHeading(box: Element): Element | undefined {
  for (const element of elements(box)) if (isHtml(element) && isHeading(element.tagName)) return element;
  return undefined;
}

function firstWords(text: string): string {
  const words = text.split(' ').slice(0, 6).join(' ');
  return words.length < text.length ? `${words} …` : words;
}

const inMain = (element: Element): boolean => {
  for (let at = parentOf(element); at; at = parentOf(at)) if (at.tagName === 'main' || at.tagName === 'article' || at.tagName === 'section') return true;
  return false;
};

/** Which part of a page an element is: by its landmark, and for side columns and comments by its name too (common practice). */
export function partOf(element: Element): PartName | undefined {
  const { tagName } = element;
  const role = attribute(element, 'role');
  if (tagName === 'nav' || role === 'navigation') return 'menu';
  // Inside an article they are the article's own (HTML standard, sections 4.3.8 and 4.3.9).
  if ((tagName === 'header' && !inMain(element)) || role === 'banner') return 'header';
  if ((tagName === 'footer' && !inMain(element)) || role === 'contentinfo') return 'foot';
  const name = `${attribute(element, 'id') ?? ''} ${attribute(element, 'class') ?? ''}`.toLowerCase();
  if ((tagName === 'form' || BOXES.has(tagName)) && /(^|[\s_-])(comments?|respond|comment-form)([\s_-]|$)/.test(name)) return 'comments';
  if (tagName === 'aside' || role === 'complementary' || (tagName === 'div' && /(^|[\s_-])(sidebar|side-column|sidecolumn)([\s_-]|$)/.test(name))) return 'side';
  return undefined;
}

function isPart(element: Element): boolean {
  return isHtml(element) && partOf(element) !== undefined;
}

/** The parts of a page with their spans; a menu inside the header is a part of its own too. */
export function parts(document: PageDocument): { readonly part: PartName; readonly start: number; readonly end: number }[] {
  const out: { part: PartName; start: number; end: number }[] = [];
  for (const element of elements(document.root)) {
    if (!isHtml(element)) continue;
    const part = partOf(element);
    const place = part && span(element);
    if (part && place) out.push({ part, ...place });
  }
  return out;
}
