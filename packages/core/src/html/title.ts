/** Setting a page's title in its source. */
import type { PageDocument } from './document.ts';
import { findFirstElement, findHeadStart } from './head.ts';
import { escapeText, type Edit } from './splice.ts';

/**
 * The edit that gives the page a title. An existing one is replaced between its tags; a missing one
 * goes after the page's character set, else right after the start of its head, else where the
 * parser would begin the head.
 */
export function editTitle(document: PageDocument, title: string): Edit {
  const existing = findFirstElement(document, 'title');
  const location = existing?.sourceCodeLocation;
  const text = escapeText(title);
  if (location?.startTag && location.endTag) {
    return { start: location.startTag.endOffset, end: location.endTag.startOffset, text };
  }
  // A title that is never closed swallows the rest of the page; a whole one before it puts that right
  // for machines, and the rest stays as it was.
  const at = location ? location.startOffset : findHeadStart(document);
  return { start: at, end: at, text: `<title>${text}</title>` };
}
