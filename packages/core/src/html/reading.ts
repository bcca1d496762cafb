/** What Fastigium wants to know of a page when it comes in. */
import { attribute, elements, fold, isHtml, parsePage, textOf, type PageDocument } from './document.ts';
import { baseHref, linkPlaces, type Link } from './links.ts';
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
  readonly base: string | undefined;
  readonly links: readonly Link[];
}

// Enough for every use; a page of generated headings should not become a database of its own.
const MOST_HEADINGS = 200;

export function readPage(bytes: Uint8Array): PageReading {
  return readDocument(parsePage(bytes));
}

export function readDocument(document: PageDocument): PageReading {
  let title: string | undefined;
  let language: string | undefined;
  let description: string | undefined;
  const headings: Heading[] = [];
  for (const element of elements(document.root)) {
    if (!isHtml(element)) continue;
    const name = element.tagName;
    if (name === 'html') language = attribute(element, 'lang')?.trim() || undefined;
    else if (name === 'title') title ??= textOf(element);
    else if (name === 'meta' && attribute(element, 'name')?.toLowerCase() === 'description') {
      description ??= fold(attribute(element, 'content') ?? '');
    } else if (/^h[1-6]$/.test(name) && headings.length < MOST_HEADINGS) {
      headings.push({ level: Number(name[1]), text: textOf(element) });
    }
  }
  const links: Link[] = [];
  for (const place of linkPlaces(document)) links.push(...place.links);
  const { encoding, encodingSource, valid } = document.source;
  return { encoding, encodingSource, validEncoding: valid, title, language, description, headings, base: baseHref(document), links };
}
