/** What a page says of itself in the head it came with. */
import {
  readAttribute,
  walkElements,
  findFirstElement,
  fold,
  isHeading,
  isHtml,
  findMainElement,
  collectText,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import { readLine, type LineName } from './lines.ts';

export interface OwnLine {
  readonly name: LineName;
  readonly text: string;
}

/** A page whose head was written by a generator gone wild should not become a database of its own. */
const MOST_LINES = 200;
const MOST_LETTERS = 4000;

/** In tree order, with links between languages; a name comes as often as it stands in the page. Title and language are read with the page. */
export function readOwnLines({ root }: Pick<PageDocument, 'root'>): OwnLine[] {
  const out: OwnLine[] = [];
  for (const element of walkElements(root)) {
    if (out.length >= MOST_LINES) break;
    const line = readLine(element) ?? switchOf(element);
    if (line) out.push({ name: line.name, text: line.text.slice(0, MOST_LETTERS) });
  }
  return out;
}

/** A link that leads to another language, as visitors find it: `<a hreflang>` (HTML standard, section 4.6.1). */
function switchOf(element: Element): { readonly name: LineName; readonly text: string } | undefined {
  if (element.tagName !== 'a' || !isHtml(element)) return undefined;
  const [language, href] = [readAttribute(element, 'hreflang'), readAttribute(element, 'href')];
  return language && href !== undefined ? { name: `switch:${language.toLowerCase()}`, text: href } : undefined;
}

/** Shorter paragraphs are captions, dates and bylines more often than a beginning. */
const LEAST_LETTERS = 40;

/** The first paragraph of the main text that says something, for a description to be suggested from. */
export function leadOf(document: PageDocument): string {
  const main = findMainElement(document) ?? findFirstElement(document, 'body');
  if (!main) return '';
  let shortest = '';
  for (const element of walkElements(main)) {
    if (element.tagName !== 'p' || !isHtml(element) || readAttribute(element, 'hidden') !== undefined) continue;
    const text = fold(collectText(element));
    if (isOfLinks(element, text)) continue;
    if (text.length >= LEAST_LETTERS) return text.slice(0, 1000);
    if (shortest === '') shortest = text;
  }
  return shortest;
}

/** A menu or a trail in a paragraph says nothing of the page (common practice). */
function isOfLinks(paragraph: Element, text: string): boolean {
  let inLinks = 0;
  for (const element of walkElements(paragraph)) if (element.tagName === 'a') inLinks += collectText(element).length;
  return inLinks * 2 > text.length;
}

/** The text of the first heading, for a title to be suggested from. */
export function readHeading({ root }: Pick<PageDocument, 'root'>): string {
  for (const element of walkElements(root))
    if (isHtml(element) && isHeading(element.tagName)) return collectText(element);
  return '';
}
