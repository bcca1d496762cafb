/** The very place in a source at which a reference stands, as evidence. */
import { findCssUrls } from './cssUrls.ts';
import { decodeSource } from './decode.ts';
import { parsePage } from './document.ts';
import { linkPlaces } from './links.ts';

export interface SourcePlace {
  /** Line of the place, from 1. */
  readonly line: number;
  readonly lines: readonly {
    readonly number: number;
    readonly text: string;
    /** The part of the line to point at; on lines around the place there is none. */
    readonly mark: { readonly start: number; readonly end: number } | undefined;
  }[];
}

/** Generated pages have lines of a megabyte; more than this around the mark says nothing. */
const MOST_LETTERS = 240;

/** The first place in a page that holds the reference, with some lines around; undefined where none does. */
export function placeInPage(bytes: Uint8Array, href: string, around = 1): SourcePlace | undefined {
  const document = parsePage(bytes);
  for (const place of linkPlaces(document)) {
    if (place.hrefs.includes(href)) return cutExcerpt(document.source.text, place.start, place.end, around);
  }
  return undefined;
}

export function placeInStyle(bytes: Uint8Array, href: string, around = 1): SourcePlace | undefined {
  const { text } = decodeSource(bytes);
  const found = findCssUrls(text).find(({ url }) => url.trim() === href);
  return found && cutExcerpt(text, found.start, found.end, around);
}

/** The lines around a span of a text, the span marked. */
export function placeOfSpan(text: string, start: number, end: number, around = 1): SourcePlace {
  return cutExcerpt(text, start, end, around);
}

/** Line and column of a position, both from 1. */
export function findLineAndColumn(text: string, position: number): { line: number; column: number } {
  let line = 1;
  let from = 0;
  for (const { 0: ending, index } of text.matchAll(/\r\n|\n|\r/g)) {
    if (index + ending.length > position) break;
    line += 1;
    from = index + ending.length;
  }
  return { line, column: position - from + 1 };
}

function cutExcerpt(text: string, start: number, end: number, around: number): SourcePlace {
  // CR LF, LF and CR each end a line (HTML standard, section 13.2.3.5).
  const starts = [0];
  for (const { 0: ending, index } of text.matchAll(/\r\n|\n|\r/g)) starts.push(index + ending.length);
  const at = starts.findLastIndex((position) => position <= start);
  const lines: SourcePlace['lines'][number][] = [];
  for (let index = Math.max(0, at - around); index <= Math.min(starts.length - 1, at + around); index += 1) {
    const from = starts[index] ?? 0;
    const whole = text.slice(from, starts[index + 1] ?? text.length).replace(/[\r\n]+$/, '');
    const isPlace = index === at;
    const cut = isPlace ? Math.max(0, start - from - MOST_LETTERS / 3) : 0;
    const shown = whole.slice(cut, cut + MOST_LETTERS);
    const mark = isPlace ? { start: start - from - cut, end: Math.min(end - from - cut, shown.length) } : undefined;
    lines.push({ number: index + 1, text: shown, mark });
  }
  return { line: at + 1, lines };
}
