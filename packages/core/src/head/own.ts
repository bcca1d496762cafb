/** What a page says of itself in the head it came with. */
import {
  attribute,
  elements,
  firstElement,
  fold,
  isHeading,
  isHtml,
  mainElement,
  textOf,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import { lineOf, type LineName } from './lines.ts';

export interface OwnLine {
  readonly name: LineName;
  readonly text: string;
}

/** A page whose head was written by a generator gone wild should not become a database of its own. */
const MOST_LINES = 200;
const MOST_LETTERS = 4000;

/** In tree order, with links between languages; a name comes as often as it stands in the page. Title and language are read with the page. */
export function ownLines({ root }: Pick<PageDocument, 'root'>): OwnLine[] {
  const out: OwnLine[] = [];
  for (const element of elements(root)) {
    if (out.length >= MOST_LINES) break;
    const line = lineOf(element) ?? switchOf(element);
    if (line) out.push({ name: line.name, text: line.text.slice(0, MOST_LETTERS) });
  }
  return out;
}

/** A link that leads to another language, as visitors find it: `<a hreflang>` (HTML standard, section 4.6.1). */
function switchOf(element: Element): { readonly name: LineName; readonly text: string } | undefined {
  if (element.tagName !== 'a' || !isHtml(element)) return undefined;
  const [language, href] = [attribute(element, 'hreflang'), attribute(element, 'href')];
  return language && href !== undefined ? { name: `switch:${language.toLowerCase()}`, text: href } : undefined;
}

/** Shorter paragraphs are captions, dates and bylines more often than a beginning. */
const LEAST_LETTERS = 40;

/** The first paragraph of the main text that says something, for a description to be suggested from. */
export function leadOf(document: PageDocument): string {
  const main = mainElement(document) ?? firstElement(document, 'body');
  if (!main) return '';
  let shortest = '';
  for (const element of elements(main)) {
    if (element.tagName !== 'p' || !isHtml(element) || attribute(element, 'hidden') !== undefined) continue;
    const text = fold(textOf(element));
    if (isOfLinks(element, text)) continue;
    if (text.length >= LEAST_LETTERS) return text.slice(0, 1000);
    if (shortest === '') shortest = text;
  }
  return shortest;
}

/** A menu or a trail in a paragraph says nothing of the page (common practice). */
function isOfLinks(paragraph: Element, text: string): boolean {
  let inLinks = 0;
  for (const element of elements(paragraph)) if (element.tagName === 'a') inLinks += textOf(element).length;
  return inLinks * 2 > text.length;
}

/** The text of the first heading, for a title to be suggested from. */
export function headingOf({ root }: Pick<PageDocument, 'root'>): string {
  for (const element of elements(root)) if (isHtml(element) && isHeading(element.tagName)) return textOf(element);
  return '';
}
