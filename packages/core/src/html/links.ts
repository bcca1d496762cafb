/** A page's references with the places in the source where they stand. */
import { attribute, elements, isHtml, type Element, type PageDocument } from './document.ts';
import { referencesOf, type LinkPurpose, type Reference } from './references.ts';
import { escapeAttribute } from './splice.ts';

export interface Link {
  readonly href: string;
  readonly element: string;
  readonly attribute: string;
  readonly purpose: LinkPurpose;
}

/** A place that holds one or several references and can be written anew. */
export interface LinkPlace {
  readonly hrefs: readonly string[];
  readonly element: string;
  readonly attribute: string;
  /** Line of the element in the source, from 1. */
  readonly line: number;
  /** The text from `start` to `end` is replaced by what `write` gives for the new references. */
  readonly start: number;
  readonly end: number;
  /** Takes one reference for each of `hrefs`, in order. */
  readonly write: (hrefs: readonly string[]) => string;
}

/** @param document parsed with positions */
export function* linkPlaces(document: PageDocument): Generator<LinkPlace> {
  for (const element of elements(document.root)) {
    for (const reference of referencesOf(element)) {
      const place = placeOf(element, reference);
      if (place) yield place;
    }
  }
}

function placeOf(element: Element, reference: Reference): LinkPlace | undefined {
  const location = element.sourceCodeLocation;
  if (!location) return undefined;
  const { attribute: name, hrefs, write, textSpan } = reference;
  const common = { hrefs, element: element.tagName, attribute: name, line: location.startLine };
  if (textSpan === undefined) {
    const span = location.attrs?.[name];
    return span && { ...common, start: span.startOffset, end: span.endOffset, write: (to) => `${name}="${escapeAttribute(write(to))}"` };
  }
  const text = element.childNodes[0];
  const span = text && 'value' in text ? text.sourceCodeLocation : undefined;
  // Positions hold only while the tree's text is the source's text (no NUL or CR LF folded away).
  if (!span || !text || !('value' in text) || span.endOffset - span.startOffset !== text.value.length) return undefined;
  return { ...common, start: span.startOffset + textSpan.start, end: span.startOffset + textSpan.end, write };
}

/** `<base href>`, which changes what every relative reference means (HTML standard, section 4.2.3). */
export function baseHref(document: PageDocument): string | undefined {
  for (const element of elements(document.root)) {
    const href = baseOf(element);
    if (href !== undefined) return href;
    if (element.tagName === 'body') return undefined;
  }
  return undefined;
}

export function baseOf(element: Element): string | undefined {
  return element.tagName === 'base' && isHtml(element) ? attribute(element, 'href')?.trim() : undefined;
}
