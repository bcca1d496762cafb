/** What a visitor notices between two versions of a page. */
import { diffArrays } from 'diff';
import { createLineMessage, readLine, type LineMessage } from '../head/index.ts';
import {
  readAttribute,
  walkElements,
  fold,
  parseForReading,
  readDocument,
  collectText,
  type Element,
  type PageDocument,
  type PageReading,
} from '../html/index.ts';
import { isSameMessage } from '../messages/index.ts';

export interface PageChange {
  readonly title: { readonly before: string; readonly after: string } | undefined;
  /** What machines read in the head and is another, each once. */
  readonly head: readonly LineMessage[];
  /** Places in menus, the `nav` elements (HTML standard, section 4.3.4), where an entry is another, is new or goes. */
  readonly menuPlaces: number;
  /** Links outside menus that lead elsewhere than before. */
  readonly linksChanged: number;
  /** Places outside menus in which the text differs. */
  readonly textPlaces: number;
}

export function comparePage(before: Uint8Array, after: Uint8Array): PageChange {
  const old = parseForReading(before);
  const now = parseForReading(after);
  const oldReading = readDocument(old);
  const nowReading = readDocument(now);
  const titles = { before: oldReading.title ?? '', after: nowReading.title ?? '' };
  const [oldMenus, nowMenus] = [readMenus(old), readMenus(now)];
  const [oldHead, nowHead] = [readHeadLines(old, oldReading.language), readHeadLines(now, nowReading.language)];
  return {
    head: dropRepeatedLines(
      [...nowHead.keys(), ...oldHead.keys()]
        .filter((name) => oldHead.get(name) !== nowHead.get(name))
        .map(createLineMessage),
    ),
    title: titles.before === titles.after ? undefined : titles,
    menuPlaces: countDifferences(oldMenus.entries, nowMenus.entries),
    linksChanged: countDifferences(
      without(listVisitorsLinks(old, oldReading), oldMenus.hrefs),
      without(listVisitorsLinks(now, nowReading), nowMenus.hrefs),
    ),
    textPlaces: countDifferences(listTextBlocks(old, oldMenus.inside), listTextBlocks(now, nowMenus.inside)),
  };
}

function dropRepeatedLines(messages: readonly LineMessage[]): LineMessage[] {
  return messages.filter((each, index) => messages.findIndex((other) => isSameMessage(each, other)) === index);
}

/** What stands in each line, and in structured data; the title is told for itself. */
function readHeadLines(document: PageDocument, language: string | undefined): Map<string, string> {
  const out = new Map<string, string>([['language', language ?? '']]);
  const add = (name: string, text: string) => out.set(name, `${out.get(name) ?? ''}\n${text}`);
  for (const element of walkElements(document.root)) {
    const line = readLine(element);
    if (line) add(line.name, line.text);
    else if (
      element.tagName === 'script' &&
      readAttribute(element, 'type')?.trim().toLowerCase() === 'application/ld+json'
    )
      add('json', element.childNodes.map((node) => ('value' in node ? node.value : '')).join(''));
  }
  return out;
}

/** Without those that only machines follow, and the page's own icons. */
function listVisitorsLinks({ root }: PageDocument, { links }: PageReading): string[] {
  const named = new Set<string>();
  for (const element of walkElements(root)) {
    const line = element.tagName === 'link' ? readLine(element) : undefined;
    if (line) named.add(line.text.trim());
  }
  return links
    .filter(({ purpose, element, href }) => purpose !== 'tell' && !(element === 'link' && named.has(href)))
    .map(({ href }) => href);
}

/** Runs of change, each counted once. */
function countDifferences(before: string[], after: string[]): number {
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

interface PageMenus {
  readonly inside: ReadonlySet<Element>;
  /** Text and target of each entry. */
  readonly entries: string[];
  readonly hrefs: readonly string[];
}

function readMenus({ root }: PageDocument): PageMenus {
  const inside = new Set<Element>();
  for (const nav of walkElements(root))
    if (nav.tagName === 'nav') for (const element of [nav, ...walkElements(nav)]) inside.add(element);
  const links = [...inside].filter(({ tagName }) => tagName === 'a');
  const hrefs = links.map((link) => readAttribute(link, 'href') ?? '');
  return { inside, hrefs, entries: links.map((link, at) => `${fold(collectText(link))} ${hrefs[at] ?? ''}`) };
}

/** Each of what is taken away once. */
function without(all: readonly string[], taken: readonly string[]): string[] {
  const left = new Map<string, number>();
  for (const each of taken) left.set(each, (left.get(each) ?? 0) + 1);
  return all.filter((each) => {
    const count = left.get(each) ?? 0;
    if (count > 0) left.set(each, count - 1);
    return count === 0;
  });
}

function listTextBlocks(document: PageDocument, menus: ReadonlySet<Element>): string[] {
  const out: string[] = [];
  for (const element of walkElements(document.root)) {
    if (NOT_SHOWN.has(element.tagName) || menus.has(element)) continue;
    for (const child of element.childNodes) {
      if (child.nodeName !== '#text' || !('value' in child)) continue;
      const text = fold(child.value);
      if (text !== '') out.push(text);
    }
  }
  return out;
}
