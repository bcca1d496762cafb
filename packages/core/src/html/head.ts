/** Where in a page's source something is added to its head. */
import { readAttribute, walkElements, isHtml, type Element, type PageDocument } from './document.ts';

/** Right behind the character set, else behind the start of the head, else where the parser would begin one. */
export function findHeadStart(document: PageDocument): number {
  for (const element of walkElements(document.root)) {
    if (element.tagName === 'body') break;
    if (element.tagName === 'meta' && declaresCharset(element) && element.sourceCodeLocation) {
      return element.sourceCodeLocation.endOffset;
    }
  }
  return findHeadOpening(document);
}

/** Before anything else in the head: the character set has to stand in the first 1024 bytes (HTML standard, section 4.2.5.4). */
export function findHeadOpening(document: PageDocument): number {
  const start =
    findFirstElement(document, 'head')?.sourceCodeLocation?.startTag ??
    findFirstElement(document, 'html')?.sourceCodeLocation?.startTag;
  if (start) return start.endOffset;
  for (const node of document.root.childNodes) {
    if (node.nodeName === '#documentType' && node.sourceCodeLocation) return node.sourceCodeLocation.endOffset;
  }
  return 0;
}

/** Behind everything in the head, so that it has the last word. */
export function findHeadEnd(document: PageDocument): number {
  const head = findFirstElement(document, 'head');
  const end = head?.sourceCodeLocation?.endTag;
  if (end) return end.startOffset;
  const last = head?.childNodes.findLast((node) => node.sourceCodeLocation)?.sourceCodeLocation;
  return last ? last.endOffset : findHeadStart(document);
}

export function declaresCharset(element: Element): boolean {
  return (
    readAttribute(element, 'charset') !== undefined ||
    readAttribute(element, 'http-equiv')?.toLowerCase() === 'content-type'
  );
}

export function findFirstElement(document: PageDocument, name: string): Element | undefined {
  for (const element of walkElements(document.root)) if (element.tagName === name && isHtml(element)) return element;
  return undefined;
}
