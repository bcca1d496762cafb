/** Setting a page's title in its source. */
import { attribute, elements, isHtml, type Element, type PageDocument } from './document.ts';
import { escapeText, type Edit } from './splice.ts';

/**
 * The edit that gives the page a title. An existing one is replaced between its tags; a missing one
 * goes after the page's character set, else right after the start of its head, else where the
 * parser would begin the head.
 */
export function titleEdit(document: PageDocument, title: string): Edit {
  const existing = find(document, 'title');
  const location = existing?.sourceCodeLocation;
  const text = escapeText(title);
  if (location?.startTag && location.endTag) {
    return { start: location.startTag.endOffset, end: location.endTag.startOffset, text };
  }
  // A title that is never closed swallows the rest of the page; a whole one before it puts that right
  // for machines, and the rest stays as it was.
  const at = location ? location.startOffset : headPosition(document);
  return { start: at, end: at, text: `<title>${text}</title>` };
}

function headPosition(document: PageDocument): number {
  for (const element of elements(document.root)) {
    if (element.tagName === 'body') break;
    if (element.tagName === 'meta' && declaresCharset(element) && element.sourceCodeLocation) {
      return element.sourceCodeLocation.endOffset;
    }
  }
  const start = find(document, 'head')?.sourceCodeLocation?.startTag ?? find(document, 'html')?.sourceCodeLocation?.startTag;
  if (start) return start.endOffset;
  for (const node of document.root.childNodes) {
    if (node.nodeName === '#documentType' && node.sourceCodeLocation) return node.sourceCodeLocation.endOffset;
  }
  return 0;
}

function declaresCharset(element: Element): boolean {
  return (
    attribute(element, 'charset') !== undefined ||
    attribute(element, 'http-equiv')?.toLowerCase() === 'content-type'
  );
}

function find(document: PageDocument, name: string): Element | undefined {
  for (const element of elements(document.root)) if (element.tagName === name && isHtml(element)) return element;
  return undefined;
}
