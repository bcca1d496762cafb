/** Links that become words: the tags go, what stands between them keeps its bytes. */
import { resolveHref } from '../address/index.ts';
import { readAttribute, walkElements, isHtml, type Element, type PageDocument } from './document.ts';
import { readBaseHref } from './links.ts';
import type { Edit } from './splice.ts';

/**
 * @param page the address links are written from
 * @param isUnlinked whether a link to this address path inside the site goes
 */
export function unlinkEdits(
  document: PageDocument,
  page: string,
  isUnlinked: (path: string, element: Element) => boolean,
): Edit[] {
  const base = readBaseHref(document);
  const edits: Edit[] = [];
  for (const element of walkElements(document.root)) {
    if (!isHtml(element) || (element.tagName !== 'a' && element.tagName !== 'area')) continue;
    const href = readAttribute(element, 'href');
    if (href === undefined || (base === undefined && (href === '' || href.startsWith('#')))) continue;
    const meant = resolveHref(href, page, base);
    if (meant.kind === 'inside' && isUnlinked(meant.address.path, element))
      edits.push(...withoutLink(document, element));
  }
  return edits;
}

function withoutLink({ source: { text } }: PageDocument, element: Element): Edit[] {
  const location = element.sourceCodeLocation;
  const { startTag, endTag } = location ?? {};
  // Scripts and styles know an element by its id, so one that has it stays, as a link that leads nowhere.
  if (element.tagName === 'a' && startTag && endTag && readAttribute(element, 'id') === undefined) {
    return [
      { start: startTag.startOffset, end: startTag.endOffset, text: '' },
      { start: endTag.startOffset, end: endTag.endOffset, text: '' },
    ];
  }
  const href = location?.attrs?.['href'];
  // An a or area without href is a placeholder, not a link (HTML standard, section 4.5.1).
  if (!href) return [];
  const hasGap = /\s/.test(text[href.startOffset - 1] ?? '');
  return [{ start: href.startOffset - (hasGap ? 1 : 0), end: href.endOffset, text: '' }];
}
