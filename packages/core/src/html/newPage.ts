/** A new page after the pattern of one of the site: everything around its content, and other content. */
import { readAttribute, walkElements, isHtml, parsePage } from './document.ts';
import { findMainElement, findSections } from './sections.ts';
import { escapeText, splice, withoutOverlaps, type Edit } from './splice.ts';
import { editTitle } from './title.ts';

export interface NewPage {
  readonly title: string;
  readonly heading: string;
  readonly paragraphs: readonly string[];
}

/** Undefined where the pattern's content cannot be told from what stands around it. */
export function writeNewPage(pattern: Uint8Array, { title, heading, paragraphs }: NewPage): Uint8Array | undefined {
  const document = parsePage(pattern);
  const main = findMainElement(document);
  const location = main?.sourceCodeLocation;
  const content = findSections(document);
  const isBody = main?.tagName === 'body';
  const span =
    !isBody && location?.startTag && location.endTag
      ? { start: location.startTag.endOffset, end: location.endTag.startOffset }
      : content[0] && { start: content[0].start, end: content.at(-1)?.end ?? content[0].end };
  if (!span) return undefined;
  const text = `\n<h1>${escapeText(heading)}</h1>\n${paragraphs.map((paragraph) => `<p>${escapeText(paragraph)}</p>\n`).join('')}`;
  const edits: Edit[] = [{ ...span, text }, editTitle(document, title)];
  // What is said of the pattern for machines is not true of the new page.
  for (const element of walkElements(document.root)) {
    if (!isHtml(element) || !element.sourceCodeLocation) continue;
    const name =
      element.tagName === 'meta'
        ? (readAttribute(element, 'name') ?? readAttribute(element, 'property') ?? '').toLowerCase()
        : '';
    const isOfPattern =
      name === 'description' ||
      /^[a-z]+:/.test(name) ||
      (element.tagName === 'link' &&
        isOfOnePage(readAttribute(element, 'rel') ?? '', readAttribute(element, 'hreflang') !== undefined));
    if (isOfPattern)
      edits.push({
        start: element.sourceCodeLocation.startOffset,
        end: element.sourceCodeLocation.endOffset,
        text: '',
      });
  }
  return splice(pattern, document.source, withoutOverlaps(edits));
}

function isOfOnePage(rel: string, hasLanguage: boolean): boolean {
  return /(^|\s)canonical(\s|$)/i.test(rel) || (hasLanguage && /(^|\s)alternate(\s|$)/i.test(rel));
}
