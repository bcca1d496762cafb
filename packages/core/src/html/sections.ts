/** What a page is made of: its main content in sections, and the parts around it. */
import {
  readAttribute,
  walkElements,
  fold,
  isHtml,
  parsePage,
  collectText,
  type Element,
  type PageDocument,
} from './document.ts';
import { findParent } from './anchor.ts';
import { isHeading } from './reading.ts';

export interface Section {
  /** Its heading; of a part without one, its first words. */
  readonly name: string;
  /** Which one of those of the same name, from 0. */
  readonly nth: number;
  /** Span in the source, from the first of its elements to the end of the last. */
  readonly start: number;
  readonly end: number;
  /** Of its heading; undefined for a part without one. */
  readonly heading: { readonly start: number; readonly end: number } | undefined;
}

/** The parts that stand around the content of a page. */
export const PART_NAMES = ['header', 'menu', 'side', 'foot', 'comments'] as const;
export type PartName = (typeof PART_NAMES)[number];

/** Only what has an end tag of its own in the source can be told to end where the tree says. */
const readSpan = ({ sourceCodeLocation: location }: Element) =>
  location && { start: location.startOffset, end: location.endOffset };

/**
 * The element that holds what a page is about: `<main>`, else the role, else an only `<article>`, else
 * the body (HTML standard, section 4.4.14, and WAI-ARIA 1.2, "main").
 */
export function findMainElement(document: PageDocument): Element | undefined {
  let [main, role, article, body]: (Element | undefined)[] = [];
  let articles = 0;
  for (const element of walkElements(document.root)) {
    if (!isHtml(element)) continue;
    if (element.tagName === 'main') main ??= element;
    else if (readAttribute(element, 'role') === 'main') role ??= element;
    else if (element.tagName === 'article') [article, articles] = [article ?? element, articles + 1];
    else if (element.tagName === 'body') body = element;
  }
  return main ?? role ?? (articles === 1 ? article : undefined) ?? body;
}

/**
 * The top-level parts of the main content, in order. A box with a heading is one, and ends where the box ends; a
 * heading begins one that goes on to the next of its level (HTML standard, section 4.3.11). What comes before the
 * first of them is the opening, and what follows a box without a heading of its own is a part by itself.
 */
export function findSections(document: PageDocument): Section[] {
  const found = splitContent(document);
  // The body as a whole is no part of a page: who does not want it removes the page.
  return found.length === 1 && findMainElement(document)?.tagName === 'body' ? [] : nameSections(document, found);
}

/** A section by its name, also one below another section's heading. */
export function findSectionNamed(
  document: PageDocument,
  { name, nth }: Pick<Section, 'name' | 'nth'>,
): Section | undefined {
  const isIt = (section: Section) => section.name === name && section.nth === nth;
  return findSections(document).find(isIt) ?? nameSections(document, splitContent(document, true)).find(isIt);
}

/** Elements that follow each other. */
interface Part {
  readonly elements: Element[];
  readonly heading: Element | undefined;
  /** Ends with its one element, whatever follows. */
  readonly isBox: boolean;
}

function splitContent(document: PageDocument, everyHeading = false): Part[] {
  const main = findMainElement(document);
  if (!main) return [];
  const isBody = main.tagName === 'body';
  const found = splitParts(findContent(main), { everyHeading, isBody });
  const [only] = found;
  const box = found.length === 1 && only?.isBox ? only.elements[0] : undefined;
  if (!box) return found;
  // A single box around everything is no part, and what it holds is.
  const inner = splitParts(findContent(box), { everyHeading, isBody });
  return inner.length > 1 ? inner : found;
}

function splitParts(
  content: Element,
  { everyHeading, isBody }: { readonly everyHeading: boolean; readonly isBody: boolean },
): Part[] {
  const withoutWays = (children: readonly Element[]) => (isBody ? cutBetween(children, isWayAround) : children);
  const children = withoutWays(listChildElements(content).filter((child) => isShown(child) && !isPart(child)));
  const level = everyHeading ? 6 : findLevel(children);
  const out: Part[] = [];
  for (const child of children) {
    const ownHeading = isHeading(child.tagName) ? child : undefined;
    const heading = ownHeading ?? (BOXES.has(child.tagName) ? findFirstHeading(child) : undefined);
    const last = out.at(-1);
    // Below a heading, a box with a lesser one is more of the same.
    const isMore =
      !ownHeading &&
      heading !== undefined &&
      Number(heading.tagName[1]) > level &&
      last?.heading !== undefined &&
      !last.isBox;
    if (isMore) last.elements.push(child);
    else if (!ownHeading && heading) out.push({ elements: [child], heading, isBox: true });
    else if (ownHeading && (Number(ownHeading.tagName[1]) <= level || last === undefined || last.isBox))
      out.push({ elements: [child], heading: ownHeading, isBox: false });
    else if (
      last === undefined ||
      last.isBox ||
      (last.heading === undefined &&
        (BOXES.has(child.tagName) || last.elements.some(({ tagName }) => BOXES.has(tagName))))
    ) {
      out.push({ elements: [child], heading: ownHeading, isBox: false });
    } else last.elements.push(child);
  }
  return out.filter(({ elements: parts }) => parts.some((part) => fold(collectText(part)) !== '' || hasPicture(part)));
}

/** Without those at both ends that are such. */
function cutBetween<T>(list: readonly T[], isSuch: (each: T) => boolean): readonly T[] {
  const from = list.findIndex((each) => !isSuch(each));
  return from < 0 ? [] : list.slice(from, list.findLastIndex((each) => !isSuch(each)) + 1);
}

/**
 * The level of headings that begin parts: the highest but the page's own title, which is its only one of the
 * first level. Headings of a page without one begin parts as they are.
 */
function findLevel(children: readonly Element[]): number {
  const headings = children.flatMap((child) =>
    isHeading(child.tagName) ? child : (BOXES.has(child.tagName) && findFirstHeading(child)) || [],
  );
  const levels = headings.map(({ tagName }) => Number(tagName[1]));
  const top = Math.min(...levels);
  const isTitle = levels.filter((level) => level === top).length === 1 && levels[0] === top && levels.length > 1;
  return isTitle ? Math.min(...levels.slice(1)) : top;
}

/** Wrappers around everything are no parts: the box that holds all headings, or all there is. */
function findContent(main: Element): Element {
  let at = main;
  const isBody = main.tagName === 'body';
  for (let inner = findInnerBox(at, isBody); inner; inner = findInnerBox(at, isBody)) at = inner;
  return at;
}

function findInnerBox(box: Element, isBody: boolean): Element | undefined {
  const shown = listChildElements(box).filter((child) => isShown(child) && !isPart(child));
  const hasText = box.childNodes.some(
    (node) => node.nodeName === '#text' && 'value' in node && fold(node.value) !== '',
  );
  const [only] = shown;
  if (only && shown.length === 1 && !hasText) return WRAPPERS.has(only.tagName) ? only : undefined;
  if (!isBody) return undefined;
  // Most headings and most of the text, a cell of a layout's table for instance; without any heading the text alone.
  const sizes = shown.map((child) => ({ child, letters: collectText(child).length, headings: countHeadings(child) }));
  const [letters, headings] = [
    sizes.reduce((sum, size) => sum + size.letters, 0),
    sizes.reduce((sum, size) => sum + size.headings, 0),
  ];
  const most = sizes.find((size) => size.letters >= letters * 0.6 && size.headings >= headings * 0.8);
  return most && WRAPPERS.has(most.child.tagName) && (sizes.length > 1 || !hasText) ? most.child : undefined;
}

function countHeadings(element: Element): number {
  let found = 0;
  for (const { tagName } of walkElements(element)) if (isHeading(tagName)) found += 1;
  return found;
}

/** Names that lists for the way have (common practice). */
const WAY_NAMED = /(^|[\s_-])(nav|navbar|navigation|menu|sidebar)([\s_-]|$)/i;

/** Links and hardly anything else: a menu or a way on, which is around the content and no part of it (common practice). */
function isWayAround(element: Element): boolean {
  const isList = element.tagName === 'ul' || element.tagName === 'ol';
  if (isHeading(element.tagName) || (!isList && findFirstHeading(element))) return false;
  const links = [...walkElements(element)].filter(
    (each) => each.tagName === 'a' && readAttribute(each, 'href') !== undefined,
  );
  if (links.length < 2) return false;
  if (isList && WAY_NAMED.test(`${readAttribute(element, 'id') ?? ''} ${readAttribute(element, 'class') ?? ''}`))
    return true;
  const inLinks = links.reduce((sum, link) => sum + collectText(link).replace(/\W/gu, '').length, 0);
  return (
    inLinks >= collectText(element).replace(/\W/gu, '').length * 0.8 &&
    links.every((link) => collectText(link).length <= 40) &&
    !hasPicture(element)
  );
}

function hasPicture(element: Element): boolean {
  for (const { tagName } of walkElements(element)) if (PICTURES.has(tagName)) return true;
  return false;
}

/** Those that can be cut out of the source as they stand, each with its name. */
function nameSections(document: PageDocument, parts: readonly Part[]): Section[] {
  const names = new Map<string, number>();
  let reached = 0;
  return parts.flatMap(({ elements: inside, heading }) => {
    const [first, last] = [inside[0], inside.at(-1)];
    const [from, to] = [first && readSpan(first), last && readSpan(last)];
    // Where the parser moved things about, what is marked would not be what goes.
    if (!from || !to || from.start < reached || to.end <= from.start) return [];
    reached = to.end;
    const name =
      (heading && collectText(heading)) || cutFirstWords(inside.map(collectText).join(' ')) || 'Without text';
    const nth = names.get(name) ?? 0;
    names.set(name, nth + 1);
    return [
      {
        name,
        nth,
        start: from.start,
        end: endWithout(document, to),
        heading: (heading && readSpan(heading)) ?? undefined,
      },
    ];
  });
}

/** An element without an end tag reaches up to what follows; white space before that is not its own. */
function endWithout(
  { source: { text } }: PageDocument,
  { start, end }: { readonly start: number; readonly end: number },
): number {
  return start + text.slice(start, end).trimEnd().length;
}

const BOXES = new Set(['section', 'article', 'div', 'aside', 'form', 'figure']);
/** What content is wrapped in, the cells of a layout's table among them (common practice of old pages). */
const WRAPPERS = new Set([...BOXES, 'table', 'tbody', 'tr', 'td', 'center', 'font', 'main']);
const PICTURES = new Set(['img', 'svg', 'picture', 'video', 'iframe', 'object', 'canvas']);
const UNSEEN = new Set(['script', 'style', 'template', 'link', 'meta', 'noscript']);
const isShown = ({ tagName }: Element) => !UNSEEN.has(tagName);

function listChildElements(parent: Element): Element[] {
  return parent.childNodes.filter((node): node is Element => 'tagName' in node);
}

function findFirstHeading(box: Element): Element | undefined {
  for (const element of walkElements(box)) if (isHtml(element) && isHeading(element.tagName)) return element;
  return undefined;
}

/** What a part is called, given its source as it will be published. */
export function labelSection(html: string): string {
  const { root } = parsePage(new TextEncoder().encode(html));
  const body = [...walkElements(root)].find(({ tagName }) => tagName === 'body');
  // What stands below each other is not one word, whether white space parts it in the source or not.
  const texts = (body?.childNodes ?? []).map((node) =>
    'value' in node ? node.value : 'childNodes' in node ? collectText(node) : '',
  );
  // Signs that only lead to the heading itself are no part of its words (common practice).
  return cutFirstWords(fold(texts.join(' ')).replace(/\s*[¶#§]$/, ''), 40);
}

function cutFirstWords(text: string, most = 6): string {
  const words = text.split(' ').slice(0, most).join(' ');
  return words.length < text.length ? `${words} …` : words;
}

const isInMain = (element: Element): boolean => {
  for (let at = findParent(element); at; at = findParent(at))
    if (at.tagName === 'main' || at.tagName === 'article' || at.tagName === 'section') return true;
  return false;
};

/** Which part of a page an element is: by its landmark, and for side columns and comments by its name too (common practice). */
export function findPartOf(element: Element): PartName | undefined {
  const { tagName } = element;
  const role = readAttribute(element, 'role');
  if (tagName === 'nav' || role === 'navigation') return 'menu';
  // Inside an article they are the article's own (HTML standard, sections 4.3.8 and 4.3.9).
  if ((tagName === 'header' && !isInMain(element)) || role === 'banner') return 'header';
  if ((tagName === 'footer' && !isInMain(element)) || role === 'contentinfo') return 'foot';
  const name = `${readAttribute(element, 'id') ?? ''} ${readAttribute(element, 'class') ?? ''}`.toLowerCase();
  if ((tagName === 'form' || BOXES.has(tagName)) && /(^|[\s_-])(comments?|respond|comment-form)([\s_-]|$)/.test(name))
    return 'comments';
  if (
    tagName === 'aside' ||
    role === 'complementary' ||
    (tagName === 'div' && /(^|[\s_-])(sidebar|side-column|sidecolumn)([\s_-]|$)/.test(name))
  )
    return 'side';
  return undefined;
}

function isPart(element: Element): boolean {
  return isHtml(element) && findPartOf(element) !== undefined;
}

/** The parts of a page with their spans; a menu inside the header is a part of its own too. */
export function findParts(
  document: PageDocument,
): { readonly part: PartName; readonly start: number; readonly end: number }[] {
  const out: { part: PartName; start: number; end: number }[] = [];
  for (const element of walkElements(document.root)) {
    if (!isHtml(element)) continue;
    const part = findPartOf(element);
    const place = part && readSpan(element);
    if (part && place) out.push({ part, ...place });
  }
  return out;
}
