/**
 * A search index asked for all it has of one domain: its OpenSearch description, and its answers in pages of
 * Atom or RSS.
 * Sources: OpenSearch 1.1, draft 6 ("OpenSearch description document", "URL template syntax", "Response
 * elements"); RFC 4287 (Atom); RFC 5005, section 3 (paged feeds); RSS 2.0.
 */
import { XMLParser } from 'fast-xml-parser';
import { parseXml } from '../../xml/parsed.ts';
import { withoutMark } from '../../text/index.ts';

export interface IndexEntry {
  readonly address: string;
  readonly title: string;
  readonly summary: string;
}

export interface IndexPage {
  readonly entries: readonly IndexEntry[];
  /** Of all pages together, where the index says so. */
  readonly total: number | undefined;
  /** Absolute or relative address of the next page. */
  readonly next: string | undefined;
}

type Node = Readonly<Record<string, unknown>>;

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#text',
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  processEntities: { enabled: true, maxTotalExpansions: 100_000 },
  isArray: (name) => ['Url', 'entry', 'item', 'link'].includes(name),
});
const FEED_TYPES = ['application/atom+xml', 'application/rss+xml'] as const;

/** The template of the address to ask for feeds, Atom before RSS; undefined where it describes none. */
export function readFeedTemplate(
  description: string,
): { readonly template: string; readonly indexOffset: number; readonly pageOffset: number } | undefined {
  const root = read(description);
  const described = root?.OpenSearchDescription as Node | undefined;
  const urls = list(described?.Url).filter((url) =>
    (typeof url['@rel'] === 'string' ? url['@rel'] : 'results').split(/\s+/).includes('results'),
  );
  for (const type of FEED_TYPES) {
    const url = urls.find((each) => each['@type'] === type);
    const template = url?.['@template'];
    if (typeof template === 'string')
      return {
        template,
        indexOffset: readWholeNumber(url?.['@indexOffset'], 1),
        pageOffset: readWholeNumber(url?.['@pageOffset'], 1),
      };
  }
  return undefined;
}

/** Fills a template in; an optional parameter that nobody gave is left empty. Throws a RangeError that names a required one nobody knows. */
export function fillTemplate(template: string, values: Readonly<Record<string, string>>): string {
  return template.replace(/\{([^}?]+)(\??)\}/g, (_, name: string, optional: string) => {
    const value = values[name];
    if (value !== undefined) return encodeURIComponent(value);
    if (optional === '?') return '';
    throw new RangeError(name);
  });
}

/** A page of answers; undefined for what is neither Atom nor RSS. */
export function readIndexPage(text: string): IndexPage | undefined {
  const root = read(text);
  const atom = root?.feed as Node | undefined;
  if (atom) {
    return {
      entries: list(atom.entry).flatMap((entry) =>
        readEntry(linkOf(entry, 'alternate'), entry.title, entry.summary ?? entry.content),
      ),
      total: count(atom.totalResults),
      next: linkOf(atom, 'next'),
    };
  }
  const channel = (root?.rss as Node | undefined)?.channel as Node | undefined;
  if (!channel) return undefined;
  return {
    entries: list(channel.item).flatMap((item) =>
      readEntry(list(item.link).map(readElementText)[0], item.title, item.description),
    ),
    total: count(channel.totalResults),
    next: linkOf(channel, 'next'),
  };
}

function read(text: string): Node | undefined {
  return parseXml(parser, withoutMark(text).trimStart()) as Node | undefined;
}

function readEntry(address: string | undefined, title: unknown, summary: unknown): IndexEntry[] {
  return address === undefined || address === ''
    ? []
    : [{ address, title: stripMarkup(readElementText(title)), summary: stripMarkup(readElementText(summary)) }];
}

/** RFC 4287, section 4.2.7.2: without `rel` a link is an alternate one. */
function linkOf(node: Node, relation: string): string | undefined {
  const link = list(node.link).find(
    (each) =>
      typeof each === 'object' && (each['@rel'] ?? 'alternate') === relation && typeof each['@href'] === 'string',
  );
  return link?.['@href'] as string | undefined;
}

function list(value: unknown): Node[] {
  return (Array.isArray(value) ? value : value === undefined ? [] : [value]) as Node[];
}

function readElementText(value: unknown): string {
  if (typeof value === 'string') return value.trim();
  const text = (value as Node | undefined)?.['#text'];
  return typeof text === 'string' ? text.trim() : '';
}

/** Summaries often hold markup (RFC 4287, section 3.1.1.2). */
function stripMarkup(text: string): string {
  return text
    .replace(/<[^>]*>/g, ' ')
    .replace(/&nbsp;/g, ' ')
    .replace(/&amp;/g, '&')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/\s+/g, ' ')
    .trim();
}

function count(value: unknown): number | undefined {
  const text = readElementText(value);
  return /^\d+$/.test(text) ? Number(text) : undefined;
}

function readWholeNumber(value: unknown, otherwise: number): number {
  return typeof value === 'string' && /^-?\d+$/.test(value) ? Number(value) : otherwise;
}
