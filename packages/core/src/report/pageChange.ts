/** What a visitor notices between two versions of a page. */
import { diffArrays } from 'diff';
import { elements, fold, parseForReading, readDocument, type PageDocument } from '../html/index.ts';

export interface PageChange {
  readonly title: { readonly before: string; readonly after: string } | undefined;
  /** Links that lead elsewhere than before. */
  readonly linksChanged: number;
  /** Places in which the text differs. */
  readonly textPlaces: number;
}

export function pageChange(before: Uint8Array, after: Uint8Array): PageChange {
  const old = parseForReading(before);
  const now = parseForReading(after);
  const oldReading = readDocument(old);
  const nowReading = readDocument(now);
  const titles = { before: oldReading.title ?? '', after: nowReading.title ?? '' };
  return {
    title: titles.before === titles.after ? undefined : titles,
    linksChanged: differences(oldReading.links.map(({ href }) => href), nowReading.links.map(({ href }) => href)),
    textPlaces: differences(textBlocks(old), textBlocks(now)),
  };
}

/** Runs of change, each counted once. */
function differences(before: string[], after: string[]): number {
  let count = 0;
  let inRun = false;
  for (const part of diffArrays(before, after)) {
    const differs = part.added || part.removed;
    if (differs && !inRun) count += 1;
    inRun = differs;
  }
  return count;
}

const NOT_SHOWN = new Set(['script', 'style', 'title', 'template', 'noscript']);

function textBlocks(document: PageDocument): string[] {
  const out: string[] = [];
  for (const element of elements(document.root)) {
    if (NOT_SHOWN.has(element.tagName)) continue;
    for (const child of element.childNodes) {
      if (child.nodeName !== '#text' || !('value' in child)) continue;
      const text = fold(child.value);
      if (text !== '') out.push(text);
    }
  }
  return out;
}
