/** A page's references with the places in the source where they stand. */
import { readAttribute, walkElements, isHtml, type Element, type PageDocument } from './document.ts';
import { readReferences, type LinkPurpose, type Reference } from './references.ts';
import { escapeAttribute, type Edit } from './splice.ts';

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
  /** The attribute with its name, or the token, as evidence. */
  readonly start: number;
  readonly end: number;
  /**
   * The edits that put other references in place of these, one for each in order: of one of which only the
   * path differs, only the path is written; quotes, letter case, query and fragment keep their bytes.
   */
  readonly rewrite: (hrefs: readonly string[]) => readonly Edit[];
}

/** @param document parsed with positions */
export function* linkPlaces(document: PageDocument): Generator<LinkPlace> {
  for (const element of walkElements(document.root)) {
    for (const reference of readReferences(element)) {
      const place = placeOf(document, element, reference);
      if (place) yield place;
    }
  }
}

function placeOf(
  { source: { text: source } }: PageDocument,
  element: Element,
  reference: Reference,
): LinkPlace | undefined {
  const location = element.sourceCodeLocation;
  if (!location) return undefined;
  const { attribute: name, hrefs, write, textSpan } = reference;
  const common = { hrefs, element: element.tagName, attribute: name, line: location.startLine };
  if (textSpan === undefined) {
    const attr = location.attrs?.[name];
    if (!attr) return undefined;
    const span = { start: attr.startOffset, end: attr.endOffset };
    const value = readAttribute(element, name) ?? '';
    const written = readWrittenValue(source, span, value);
    return {
      ...common,
      ...span,
      rewrite: (to) =>
        (written && editPaths(reference, written, to)) ?? [
          { ...span, text: `${name}="${escapeAttribute(write(to))}"` },
        ],
    };
  }
  const text = element.childNodes[0];
  const span = text && 'value' in text ? text.sourceCodeLocation : undefined;
  // Positions hold only while the tree's text is the source's text (no NUL or CR LF folded away).
  if (!span || !text || !('value' in text) || span.endOffset - span.startOffset !== text.value.length) return undefined;
  const token = { start: span.startOffset + textSpan.start, end: span.startOffset + textSpan.end };
  const written: WrittenValue = {
    start: token.start,
    raw: source.slice(token.start, token.end),
    quote: undefined,
    isPlain: true,
  };
  return { ...common, ...token, rewrite: (to) => editPaths(reference, written, to) ?? [{ ...token, text: write(to) }] };
}

/** An attribute's value as it stands in the source. */
interface WrittenValue {
  readonly start: number;
  readonly raw: string;
  /** What it stands between; empty for a bare value, undefined for the text of a style element. */
  readonly quote: '"' | "'" | '' | undefined;
  /** Whether it is, letter by letter, what it means: no character reference, no line end that was folded. */
  readonly isPlain: boolean;
}

function readWrittenValue(
  source: string,
  { start, end }: { readonly start: number; readonly end: number },
  value: string,
): WrittenValue | undefined {
  const [all, lead, quote = ''] = /^([^=]*=\s*)(["']?)/.exec(source.slice(start, end)) ?? [];
  if (all === undefined || lead === undefined) return undefined;
  const raw = source.slice(start + all.length, quote === '' ? end : end - 1);
  return { start: start + all.length, raw, quote: quote as '"' | "'" | '', isPlain: raw === value };
}

/** Edits of the paths alone; undefined where something else differs, or a path cannot be told in the source. */
function editPaths(
  { hrefs, begins, isCss }: Reference,
  { start, raw, quote, isPlain }: WrittenValue,
  to: readonly string[],
): Edit[] | undefined {
  const edits: Edit[] = [];
  for (const [index, href] of hrefs.entries()) {
    const now = to[index] ?? href;
    if (now === href) continue;
    const [path, rest] = splitPath(href);
    const [newPath, newRest] = splitPath(now);
    // With character references in the value only the first reference has a place that can be told.
    const at = isPlain ? begins[index] : hrefs.length === 1 && !isCss ? raw.length - raw.trimStart().length : undefined;
    if (rest !== newRest || path === '' || newPath === '' || at === undefined || !raw.startsWith(path, at))
      return undefined;
    if (isCss && /["'()\\\s]/.test(newPath)) return undefined;
    if (quote === '' && /[\s"'=<>`&]/.test(newPath)) return undefined;
    const escaped =
      quote === undefined ? newPath : escapeAttribute(newPath).replaceAll("'", quote === "'" ? '&#39;' : "'");
    edits.push({ start: start + at, end: start + at + path.length, text: escaped });
  }
  return edits;
}

/** A reference's path, with whatever stands before it, and its query and fragment. */
export function splitPath(href: string): readonly [path: string, rest: string] {
  const at = href.search(/[?#]/);
  return at < 0 ? [href, ''] : [href.slice(0, at), href.slice(at)];
}

/** `<base href>`, which changes what every relative reference means (HTML standard, section 4.2.3). */
export function readBaseHref(document: PageDocument): string | undefined {
  for (const element of walkElements(document.root)) {
    const href = readBaseOf(element);
    if (href !== undefined) return href;
    if (element.tagName === 'body') return undefined;
  }
  return undefined;
}

export function readBaseOf(element: Element): string | undefined {
  return element.tagName === 'base' && isHtml(element) ? readAttribute(element, 'href')?.trim() : undefined;
}
