/** What Fastigium wants to know of a page when it comes in. */
import {
  readAttribute,
  walkElements,
  fold,
  isHtml,
  parseForReading,
  collectText,
  type PageDocument,
} from './document.ts';
import { readBaseOf, type Link } from './links.ts';
import { readReferences } from './references.ts';
import type { EncodingSource } from './decode.ts';

export interface Heading {
  readonly level: number;
  readonly text: string;
}

export interface PageReading {
  readonly encoding: string;
  readonly encodingSource: EncodingSource;
  /** False where bytes mean nothing in the page's encoding. */
  readonly validEncoding: boolean;
  readonly title: string | undefined;
  readonly language: string | undefined;
  readonly description: string | undefined;
  readonly headings: readonly Heading[];
  /** The day the page gives for itself, `2016-05-09`: its first `<time>`, or what its head says. */
  readonly date: string | undefined;
  readonly base: string | undefined;
  /** In tree order, as often as they stand in the page. */
  readonly links: readonly Link[];
}

// Enough for every use; a page of generated headings should not become a database of its own.
const MOST_HEADINGS = 200;

export function readPage(bytes: Uint8Array): PageReading {
  return readDocument(parseForReading(bytes));
}

/** One pass over the tree for everything: passes, not looks, are what reading costs. */
export function readDocument(document: PageDocument): PageReading {
  let title: string | undefined;
  let language: string | undefined;
  let description: string | undefined;
  let base: string | undefined;
  let date: string | undefined;
  const headings: Heading[] = [];
  const links: Link[] = [];
  for (const element of walkElements(document.root)) {
    const { tagName } = element;
    for (const { hrefs, purpose, attribute: name } of readReferences(element)) {
      for (const href of hrefs) links.push({ href, element: tagName, attribute: name, purpose });
    }
    if (!isHtml(element)) continue;
    if (tagName === 'html') language = readAttribute(element, 'lang')?.trim() || undefined;
    else if (tagName === 'title') title ??= collectText(element);
    else if (tagName === 'base') base ??= readBaseOf(element);
    else if (tagName === 'meta' && readAttribute(element, 'name')?.toLowerCase() === 'description') {
      description ??= fold(readAttribute(element, 'content') ?? '');
    } else if (
      tagName === 'meta' &&
      DATED.has((readAttribute(element, 'property') ?? readAttribute(element, 'name') ?? '').toLowerCase())
    ) {
      date ??= readDay(readAttribute(element, 'content'));
    } else if (tagName === 'time') {
      date ??= readDay(readAttribute(element, 'datetime') ?? collectText(element));
    } else if (isHeading(tagName) && headings.length < MOST_HEADINGS) {
      headings.push({ level: Number(tagName[1]), text: collectText(element) });
    }
  }
  const { encoding, encodingSource, valid } = document.source;
  return { encoding, encodingSource, validEncoding: valid, title, language, description, headings, date, base, links };
}

export function isHeading(tagName: string): boolean {
  return tagName.length === 2 && tagName[0] === 'h' && tagName >= 'h1' && tagName <= 'h6';
}

const DATED = new Set(['article:published_time', 'date', 'dc.date', 'dcterms.created']);

/** The day of a date, or date and time, in the form of RFC 3339; a day that no calendar has is none. */
function readDay(text: string | undefined): string | undefined {
  const [, day, year = '', month = '', date = ''] = /^\s*((\d{4})-(\d{2})-(\d{2}))(?=$|[T\s])/.exec(text ?? '') ?? [];
  if (day === undefined) return undefined;
  const days = [
    31,
    Number(year) % 4 === 0 && (Number(year) % 100 !== 0 || Number(year) % 400 === 0) ? 29 : 28,
    31,
    30,
    31,
    30,
    31,
    31,
    30,
    31,
    30,
    31,
  ];
  return Number(date) >= 1 && Number(date) <= (days[Number(month) - 1] ?? 0) ? day : undefined;
}
