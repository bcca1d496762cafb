/**
 * Documents embedded in pages: no browser shows a PDF in a page that is shut off, as previews are. Their first pages are
 * shown as pictures in their place.
 */
import { basename } from 'node:path';
import {
  readAttribute,
  editAttributes,
  walkElements,
  escapeAttribute,
  escapeText,
  isHtml,
  type Edit,
  type PageDocument,
} from '@fastigium/core/html';
import { preview } from '@fastigium/contracts/messages/letter';
import { LANGUAGE_TAG, speak } from '../../words.ts';
import type { ShownDocument } from '../../threads/documentPages.ts';

const PDF = 'application/pdf';

/** Whether a request is for something that stands in a page (Fetch Metadata, section 2.1). */
export function isEmbedded(destination: string | undefined): boolean {
  return ['embed', 'frame', 'iframe', 'object'].includes(destination ?? '');
}

export function isDocument(mediaType: string): boolean {
  return mediaType.split(';')[0]?.trim().toLowerCase() === PDF;
}

/** Enough to tell pages that embed something with a type of its own from the many that do not. */
export function mayEmbed(bytes: Uint8Array): boolean {
  return /<(?:embed|object)\b/i.test(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).toString('latin1'));
}

/** By the type or the ending a browser chooses what shows a document, before it asks for it; here it is a page. */
export function editEmbedded(document: PageDocument): Edit[] {
  const edits: Edit[] = [];
  for (const element of walkElements(document.root)) {
    if (!isHtml(element) || (element.tagName !== 'embed' && element.tagName !== 'object')) continue;
    const type = readAttribute(element, 'type');
    const source = readAttribute(element, element.tagName === 'embed' ? 'src' : 'data') ?? '';
    if (type === undefined ? /\.pdf(?:[?#]|$)/i.test(source.trim()) : isDocument(type))
      edits.push(...editAttributes(element, { type: 'text/html' }, document.source.text));
  }
  return edits;
}

export const DOCUMENT_PICTURES = { widthPx: 900, mostPages: 5 } as const;

/** A page that stands for a document; it needs no script and nothing from anywhere else. */
export function writeDocumentPage(path: string, shown: ShownDocument | undefined): string {
  const name = escapeText(basename(path));
  const rest = shown ? shown.pagesInAll - shown.pictures.length : 0;
  const pictures = (shown?.pictures ?? []).map(
    (png, index) =>
      `<img src="data:image/png;base64,${Buffer.from(png).toString('base64')}" alt="${escapeAttribute(speak(preview('document-page', { nth: index + 1, name: basename(path) })))}">`,
  );
  const words = shown
    ? rest > 0
      ? speak(preview('document-more', { count: rest }))
      : ''
    : speak(preview('document-unreadable', { name: basename(path) }));
  return `<!DOCTYPE html><html lang="${LANGUAGE_TAG}"><head><meta charset="utf-8"><title>${name}</title><style>${STYLE}</style></head><body>${pictures.join('')}<p>${escapeText(words)}</p></body></html>`;
}

const STYLE =
  'body{margin:0;padding:8px;background:#6b6860;font:14px/1.4 sans-serif;color:#fff}img{display:block;width:100%;height:auto;margin:0 0 8px;background:#fff}p{margin:4px}';
