/**
 * A listing written into its page, in the markup of the site's own first entry: the list that leads to
 * entries already is written anew; where there is none, a plain one comes at the end of the content.
 */
import { formatAddress, relativiseReference, resolveHref } from '../address/index.ts';
import {
  readAttribute,
  editAttributes,
  readBaseHref,
  walkElements,
  escapeAttribute,
  escapeText,
  fold,
  findHeadEnd,
  isHeading,
  findMainElement,
  findParent,
  findSections,
  collectText,
  listTextPlaces,
  findWordsWithin,
  type Edit,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import type { Entry, ListingPlan } from './entries.ts';

export interface ListingPlace {
  /** Addresses in the import, by which the page's own list is known. */
  readonly importedAddresses: ReadonlySet<string>;
  readonly before: string;
  /** Where this page of the listing answers. */
  readonly after: string;
}

/** The element that holds the page's own list of entries, and those of its children that lead to one. */
export function findOwnList(
  document: PageDocument,
  { importedAddresses, before }: Pick<ListingPlace, 'importedAddresses' | 'before'>,
): { list: Element; items: Element[] } | undefined {
  const main = findMainElement(document);
  if (!main) return undefined;
  const base = readBaseHref(document);
  const leading: { readonly link: Element; readonly to: string }[] = [];
  for (const element of walkElements(main)) {
    const href = element.tagName === 'a' ? readAttribute(element, 'href') : undefined;
    const to = href === undefined ? undefined : resolveHref(href, before, base);
    const address = to?.kind === 'inside' ? formatAddress({ path: to.address.path, query: undefined }) : '';
    if (importedAddresses.has(address)) leading.push({ link: element, to: address });
  }
  // The box whose direct children hold the links: the nearest that holds most entries, each of which may have several.
  const candidates = new Map<Element, { readonly items: Set<Element>; readonly entries: Set<string> }>();
  for (const { link, to } of leading) {
    let child = link;
    for (let at = findParent(link); at && at !== findParent(main); at = findParent(at)) {
      const candidate = candidates.get(at) ?? { items: new Set(), entries: new Set() };
      candidates.set(at, candidate);
      candidate.items.add(child);
      candidate.entries.add(to);
      child = at;
    }
  }
  // Of a single entry only a list is one.
  const [best] = [...candidates]
    .filter(([box, { entries }]) => entries.size > 1 || LISTS.has(box.tagName))
    .sort(([a, { entries: inA }], [b, { entries: inB }]) => inB.size - inA.size || countDepth(b) - countDepth(a));
  return best && { list: best[0], items: [...best[1].items] };
}

const LISTS = new Set(['ul', 'ol', 'dl', 'tbody', 'table']);

function countDepth(element: Element): number {
  let steps = 0;
  for (let at = findParent(element); at; at = findParent(at)) steps += 1;
  return steps;
}

/** Whether the page says anything beside its heading, its list and an opening line: visitors of the later pages would not find it. */
export function findOtherContent(
  document: PageDocument,
  place: Pick<ListingPlace, 'importedAddresses' | 'before'>,
): string[] {
  const list = findOwnList(document, place);
  const span = list?.list.sourceCodeLocation;
  return findSections(document)
    .filter(({ start, end }) => !(span && start <= span.startOffset && end >= span.endOffset))
    .slice(list ? 0 : 1)
    .map(({ name }) => name);
}

export function editListing(document: PageDocument, plan: ListingPlan, place: ListingPlace): Edit[] {
  const hrefTo = (address: string) =>
    readBaseHref(document) === undefined ? relativiseReference(place.after, address) : address;
  const list = findOwnList(document, place);
  const spans = list?.items.map(({ sourceCodeLocation }) => sourceCodeLocation);
  const [first, last] = [spans?.[0], spans?.at(-1)];
  const edits: Edit[] = [];
  const pages = writePageLinks(plan, hrefTo);
  if (list && first && last) {
    const { text } = document.source;
    const between = spans?.[1] ? text.slice(first.endOffset, spans[1].startOffset) : '\n';
    const item = list.items[0];
    const written = plan.entries
      .map((entry) => (item ? fromPattern(document, item, entry, hrefTo, place) : ''))
      .join(/^\s*$/.test(between) ? between : '\n');
    edits.push({ start: first.startOffset, end: last.endOffset, text: written });
    const end = list.list.sourceCodeLocation?.endOffset;
    if (pages !== '' && end !== undefined) edits.push({ start: end, end, text: `\n${pages}` });
  } else {
    const end =
      findSections(document).at(-1)?.end ?? findMainElement(document)?.sourceCodeLocation?.endTag?.startOffset;
    const added = `\n<ul>\n${plan.entries.map(({ title, address, date }) => `  <li><a href="${escapeAttribute(hrefTo(address))}">${escapeText(title)}</a> <time datetime="${date}">${date}</time></li>`).join('\n')}\n</ul>`;
    if (end !== undefined) edits.push({ start: end, end, text: pages === '' ? added : `${added}\n${pages}` });
  }
  const at = findHeadEnd(document);
  edits.push({
    start: at,
    end: at,
    text: `<link rel="alternate" type="application/atom+xml" href="${escapeAttribute(hrefTo(plan.feed))}">\n`,
  });
  return edits;
}

/** Numbers need no language. */
function writePageLinks({ addresses, number }: ListingPlan, hrefTo: (address: string) => string): string {
  if (addresses.length < 2) return '';
  const links = addresses.map(
    (address, index) =>
      `<a href="${escapeAttribute(hrefTo(address))}"${index + 1 === number ? ' aria-current="page"' : ''}>${index + 1}</a>`,
  );
  return `<nav class="pages">${links.join(' ')}</nav>`;
}

/** The first entry's own markup with another entry in it: its link, its day, its words. */
function fromPattern(
  document: PageDocument,
  item: Element,
  entry: Entry,
  hrefTo: (address: string) => string,
  place: ListingPlace,
): string {
  const span = item.sourceCodeLocation;
  if (!span) return '';
  const edits: Edit[] = [];
  const links = [...walkElements(item)].filter(({ tagName }) => tagName === 'a');
  const base = readBaseHref(document);
  const target = (link: Element) => {
    const to = resolveHref(readAttribute(link, 'href') ?? '', place.before, base);
    return to.kind === 'inside' ? to.address.path : undefined;
  };
  const leading = links.find((link) => place.importedAddresses.has(target(link) ?? ''));
  const title = leading ? collectText(leading) : '';
  for (const link of links)
    if (leading && target(link) === target(leading))
      edits.push(...editAttributes(link, { href: hrefTo(entry.address) }));
  let summarised = false;
  for (const element of walkElements(item)) {
    if (element.tagName === 'time') edits.push(...editTime(document, element, entry.date));
    else if (element.tagName === 'img') continue;
    else if (element === leading || isHeading(element.tagName)) {
      const words = findTextSpan(document, element, title);
      if (words) edits.push({ ...words, text: escapeText(entry.title) });
    } else if (
      element.tagName === 'p' &&
      !summarised &&
      fold(collectText(element)) !== '' &&
      !links.some((link) => findParent(link) === element) &&
      ![...walkElements(element)].some(({ tagName }) => tagName === 'time')
    ) {
      summarised = true;
      const location = element.sourceCodeLocation;
      if (location?.startTag && location.endTag)
        edits.push({
          start: location.startTag.endOffset,
          end: location.endTag.startOffset,
          text: escapeText(entry.summary),
        });
    }
  }
  let out = '';
  let at = span.startOffset;
  for (const { start, end, text } of edits.sort((a, b) => a.start - b.start || a.end - b.end)) {
    if (start < at || end > span.endOffset || typeof text !== 'string') continue;
    out += document.source.text.slice(at, start) + text;
    at = end;
  }
  return out + document.source.text.slice(at, span.endOffset);
}

function editTime(document: PageDocument, element: Element, date: string): Edit[] {
  const span = findTextSpan(document, element, collectText(element));
  return [...editAttributes(element, { datetime: date }), ...(span ? [{ ...span, text: date }] : [])];
}

/** Where an element's text stands, if it is one piece and the words asked for. */
function findTextSpan(
  document: PageDocument,
  element: Element,
  words: string,
): { start: number; end: number } | undefined {
  for (const inner of walkElements(element)) {
    for (const { start, end, value } of listTextPlaces(document, inner)) {
      const written =
        fold(value) === words ? findWordsWithin(document.source.text.slice(start, end), value) : undefined;
      if (written) return { start: start + written.start, end: start + written.end };
    }
  }
  return undefined;
}
