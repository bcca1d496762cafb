/** What a visitor notices between two versions of a page. */
import { diffArrays } from 'diff';
import { lineOf, lineWords } from '../head/index.ts';
import { attribute, elements, fold, parseForReading, readDocument, type PageDocument, type PageReading } from '../html/index.ts';

export interface PageChange {
  readonly title: { readonly before: string; readonly after: string } | undefined;
  /** What machines read in the head and is another, in words, each once. */
  readonly head: readonly string[];
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
  const [oldHead, nowHead] = [headLines(old, oldReading.language), headLines(now, nowReading.language)];
  return {
    head: [...new Set([...nowHead.keys(), ...oldHead.keys()].filter((name) => oldHead.get(name) !== nowHead.get(name)).map(lineWords))],
    title: titles.before === titles.after ? undefined : titles,
    linksChanged: differences(visitorsLinks(old, oldReading), visitorsLinks(now, nowReading)),
    textPlaces: differences(textBlocks(old), textBlocks(now)),
  };
}

/** What stands in each line, and in structured data; the title is told for itself. */
function headLines(document: PageDocument, language: string | undefined): Map<string, string> {
  const out = new Map<string, string>([['language', language ?? '']]);
  const add = (name: string, text: string) => out.set(name, `${out.get(name) ?? ''}\n${text}`);
  for (const element of elements(document.root)) {
    const line = lineOf(element);
    if (line) add(line.name, line.text);
    else if (element.tagName === 'script' && attribute(element, 'type')?.trim().toLowerCase() === 'application/ld+json') add('json', element.childNodes.map((node) => ('value' in node ? node.value : '')).join(''));
  }
  return out;
}

/** Without those that only machines follow, and the page's own icons. */
function visitorsLinks({ root }: PageDocument, { links }: PageReading): string[] {
  const named = new Set<string>();
  for (const element of elements(root)) { const line = element.tagName === 'link' ? lineOf(element) : undefined; if (line) named.add(line.text.trim()); }
  return links.filter(({ purpose, element, href }) => purpose !== 'tell' && !(element === 'link' && named.has(href))).map(({ href }) => href);
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
