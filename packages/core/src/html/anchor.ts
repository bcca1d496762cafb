/**
 * Places in a page that can be found again in a later export of it: by what stands there, by the
 * heading above it, and, only to propose, by its way down from the nearest landmark.
 */
import { readAttribute, walkElements, fold, isHtml, collectText, type Element, type PageDocument } from './document.ts';
import { isHeading } from './reading.ts';

/** A piece of text, or an element without text of its own such as a picture. */
export interface Anchor {
  /** Tag of the element itself; of a text, the one around it. */
  readonly tag: string;
  readonly what: 'text' | 'element';
  /** The text, white space folded; for an element its address, or its text where it has none. */
  readonly mark: string;
  /** Which one of those alike in the page, from 0. */
  readonly nth: number;
  /** Text of the last heading before it. */
  readonly under: string;
  /** `main > p:2`: children of the same tag counted from 1, down from a landmark or an id. */
  readonly way: string;
}

export interface TextPlace {
  readonly element: Element;
  /** Among the element's children. */
  readonly child: number;
  readonly start: number;
  readonly end: number;
  /** As it is in the tree: character references decoded. */
  readonly value: string;
}

type Place = { readonly element: Element; readonly text: TextPlace | undefined; readonly anchor: Anchor };

const RAW = new Set(['script', 'style', 'textarea', 'title', 'noscript', 'template']);

/** Every text and every marked element of a page in tree order, each with its anchor. */
export function* listAnchors(document: PageDocument): Generator<Place> {
  const counts = new Map<string, number>();
  let under = '';
  const numbered = (place: Omit<Anchor, 'nth' | 'under' | 'way'>, element: Element): Anchor => {
    const key = `${place.what} ${place.tag} ${place.mark}`;
    const nth = counts.get(key) ?? 0;
    counts.set(key, nth + 1);
    // The way is long to find and asked for only where the mark is not enough.
    return {
      ...place,
      nth,
      under,
      get way() {
        return describeWay(element);
      },
    };
  };
  for (const element of walkElements(document.root)) {
    const { tagName: tag } = element;
    if (RAW.has(tag)) continue;
    yield { element, text: undefined, anchor: numbered({ tag, what: 'element', mark: markOf(element) }, element) };
    for (const text of listTextPlaces(document, element)) {
      yield { element, text, anchor: numbered({ tag, what: 'text', mark: fold(text.value) }, element) };
    }
    if (isHtml(element) && isHeading(tag)) under = collectText(element);
  }
}

/** Texts that can be written anew: what the tree holds is what stands in the source, without tags in between. */
export function* listTextPlaces(document: PageDocument, element: Element): Generator<TextPlace> {
  for (const [child, node] of element.childNodes.entries()) {
    if (node.nodeName !== '#text' || !('value' in node) || fold(node.value) === '') continue;
    const location = node.sourceCodeLocation;
    // Text that the parser moved out of a table stands where its positions do not say (HTML standard, 13.2.6.1).
    if (!location || document.source.text.slice(location.startOffset, location.endOffset).includes('<')) continue;
    yield { element, child, start: location.startOffset, end: location.endOffset, value: node.value };
  }
}

/** What tells an element from its like: where it leads or what it shows; else its text. */
export function markOf(element: Element): string {
  for (const name of ['href', 'src', 'data', 'action', 'srcset', 'poster']) {
    const value = readAttribute(element, name);
    if (value !== undefined) return `${value.trim()}${element.tagName === 'a' ? ` ${collectText(element)}` : ''}`;
  }
  // Containers hold everything below them; their whole text would be neither short nor lasting.
  return readFirstLetters(element, MOST_MARK_LETTERS);
}

/** The beginning of an element's text, without reading the rest of it. */
function readFirstLetters(element: Element, most: number): string {
  let out = '';
  for (const each of walkElements(element)) {
    if (RAW.has(each.tagName)) continue;
    for (const node of each.childNodes) if (node.nodeName === '#text' && 'value' in node) out += ` ${node.value}`;
    // White space is folded afterwards, so more is taken than will stay.
    if (out.length > most * 4) break;
  }
  return fold(out).slice(0, most);
}

const MOST_MARK_LETTERS = 120;
const LANDMARKS = new Set(['main', 'header', 'footer', 'nav', 'aside', 'body']);

function describeWay(element: Element): string {
  const steps: string[] = [];
  for (let at: Element | undefined = element; at; at = findParent(at)) {
    const id = readAttribute(at, 'id');
    if (at !== element && id !== undefined && id !== '') {
      steps.unshift(`#${id}`);
      break;
    }
    if (LANDMARKS.has(at.tagName)) {
      steps.unshift(at.tagName);
      break;
    }
    steps.unshift(`${at.tagName}:${placeAmongLike(at)}`);
  }
  return steps.join(' > ');
}

function placeAmongLike(element: Element): number {
  let place = 0;
  for (const sibling of element.parentNode && 'childNodes' in element.parentNode ? element.parentNode.childNodes : []) {
    if (sibling.nodeName === element.nodeName) place += 1;
    if (sibling === element) break;
  }
  return place;
}

export function findParent(element: Element): Element | undefined {
  const parent = element.parentNode;
  return parent && 'tagName' in parent ? parent : undefined;
}

export type Recognised =
  | { readonly kind: 'found'; readonly place: Place }
  /** What stands at the same place of the page now, where it is not what stood there. */
  | { readonly kind: 'changed'; readonly place: Place }
  | { readonly kind: 'lost' };

/**
 * The one place an anchor means. Several alike are told apart by the heading above and their order;
 * where that is not enough nothing is taken for it.
 */
export function recognise(document: PageDocument, anchor: Anchor): Recognised {
  const sameKind = [...listAnchors(document)].filter(
    ({ anchor: { what, tag } }) => what === anchor.what && tag === anchor.tag,
  );
  const alike = sameKind.filter(({ anchor: { mark } }) => mark === anchor.mark);
  const only = alike.length === 1 ? alike[0] : undefined;
  if (only) return { kind: 'found', place: only };
  if (alike.length > 1) {
    const counted = alike[anchor.nth];
    if (counted?.anchor.under === anchor.under) return { kind: 'found', place: counted };
    const sameHeading = alike.filter(({ anchor: { under } }) => under === anchor.under);
    if (sameHeading.length === 1 && sameHeading[0]) return { kind: 'found', place: sameHeading[0] };
    return { kind: 'lost' };
  }
  const sameWay = sameKind.find(({ anchor: { way } }) => way === anchor.way);
  return sameWay ? { kind: 'changed', place: sameWay } : { kind: 'lost' };
}

/** Every place like the anchor's, for what is to be changed wherever it stands. */
export function recogniseAll(document: PageDocument, anchor: Anchor): Place[] {
  return [...listAnchors(document)].filter(
    ({ anchor: { what, tag, mark } }) => what === anchor.what && tag === anchor.tag && mark === anchor.mark,
  );
}

/** The anchor of what stands at a position: an element that starts there, or one of its texts. */
export function findAnchorAt(document: PageDocument, start: number, child: number | undefined): Anchor | undefined {
  for (const { element, text, anchor } of listAnchors(document)) {
    if (element.sourceCodeLocation?.startOffset === start && text?.child === child) return anchor;
  }
  return undefined;
}
