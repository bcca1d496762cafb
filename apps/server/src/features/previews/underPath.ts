/**
 * Previews that share a name stand each below a folder of their own, so what a page says from the root is said from
 * there. What a script puts together from the root is not seen, and leads nowhere: previews with names of their own
 * have no such gap.
 */
import {
  readAttribute,
  editAttributes,
  walkElements,
  isHtml,
  linkPlaces,
  parsePage,
  splice,
  type Edit,
  type PageDocument,
} from '@fastigium/core/html';
import { compileStyle } from '@fastigium/core/release';

/** @param under empty, or a folder as `/label` */
export function placeUnderPath(under: string, href: string): string {
  // Two slashes name another host (RFC 3986, section 4.2).
  return under !== '' && /^\/(?!\/)/.test(href) ? under + href : href;
}

export function editRooted(document: PageDocument, under: string): Edit[] {
  if (under === '') return [];
  const edits: Edit[] = [];
  for (const { hrefs, rewrite } of linkPlaces(document)) {
    const moved = hrefs.map((href) => placeUnderPath(under, href));
    if (moved.some((href, index) => href !== hrefs[index])) edits.push(...rewrite(moved));
  }
  for (const element of walkElements(document.root)) {
    const base = isHtml(element) && element.tagName === 'base' ? readAttribute(element, 'href') : undefined;
    if (base !== undefined && placeUnderPath(under, base.trim()) !== base.trim())
      edits.push(...editAttributes(element, { href: placeUnderPath(under, base.trim()) }, document.source.text));
  }
  return edits;
}

/** A style sheet as it has to be below a folder. */
export const placeStyleUnder = (bytes: Uint8Array, under: string): Uint8Array =>
  compileStyle(bytes, '/', under, new Map());

/** A page with edits spliced in; the very same bytes where there are none. */
export function editPage(bytes: Uint8Array, edit: (document: PageDocument) => Edit[]): Uint8Array {
  const document = parsePage(bytes);
  const edits = edit(document);
  return edits.length === 0 ? bytes : splice(bytes, document.source, edits);
}
