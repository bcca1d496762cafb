/**
 * The references an element makes, from its attributes and, for `<style>`, its text.
 * Source of the table: HTML standard, "Attributes" index (attributes whose value is a URL), without
 * those that are never fetched or followed.
 */
import { readAttribute, isHtml, type Element } from './document.ts';
import { findCssUrls } from './cssUrls.ts';
import { parseSrcset } from './srcset.ts';

/** `follow`: a visitor goes there; `load`: the browser fetches it for the page; `tell`: machines read it. */
export type LinkPurpose = 'follow' | 'load' | 'tell';

/** One attribute, or one token of a style, that holds references. */
export interface Reference {
  /** Attribute the references stand in; `style` for those in a style element's text too. */
  readonly attribute: string;
  readonly purpose: LinkPurpose;
  /** As written, character references decoded, white space trimmed. */
  readonly hrefs: readonly string[];
  /** The attribute's value, or the token's text, with other references in their places. */
  readonly write: (hrefs: readonly string[]) => string;
  /** Where each of `hrefs` begins in the value or the token's text, as written; undefined where it is not written plainly. */
  readonly begins: readonly (number | undefined)[];
  /** Whether the references stand in CSS, where quotes, brackets and spaces mean something. */
  readonly isCss?: true;
  /** In a style element's text: where in the text the token stands. */
  readonly textSpan?: { readonly start: number; readonly end: number };
}

type PurposeOf = (element: Element) => LinkPurpose | undefined;

const on = (purpose: LinkPurpose, ...tags: string[]): PurposeOf => {
  const known = new Set(tags);
  return (element) => (known.has(element.tagName) && isHtml(element) ? purpose : undefined);
};

// What a <link> is for depends on its rel (HTML standard, section 4.6.7).
const LINK_LOADS = new Set([
  'stylesheet',
  'icon',
  'apple-touch-icon',
  'mask-icon',
  'manifest',
  'preload',
  'modulepreload',
  'prefetch',
]);

function judgeHref(element: Element): LinkPurpose | undefined {
  const tag = element.tagName;
  if (!isHtml(element)) return tag === 'image' || tag === 'use' ? 'load' : tag === 'a' ? 'follow' : undefined;
  if (tag === 'a' || tag === 'area') return 'follow';
  if (tag !== 'link') return undefined;
  const rel = (readAttribute(element, 'rel') ?? '').toLowerCase().split(/\s+/);
  // These name a host to be ready for, not a file.
  if (rel.some((word) => word === 'preconnect' || word === 'dns-prefetch')) return undefined;
  return rel.some((word) => LINK_LOADS.has(word)) ? 'load' : 'tell';
}

/** By attribute name, so that the many that are no references cost one look. */
const SINGLE: ReadonlyMap<string, PurposeOf> = new Map([
  ['href', judgeHref],
  ['src', on('load', 'audio', 'embed', 'frame', 'iframe', 'img', 'input', 'script', 'source', 'track', 'video')],
  ['data', on('load', 'object')],
  ['poster', on('load', 'video')],
  ['background', on('load', 'body')],
  ['action', on('follow', 'form')],
  ['formaction', on('follow', 'button', 'input')],
  ['longdesc', on('follow', 'img')],
  ['cite', on('tell', 'blockquote', 'del', 'ins', 'q')],
]);

export function readReferences(element: Element): readonly Reference[] {
  if (element.tagName === 'style') return readStyleText(element);
  const { attrs } = element;
  let out: Reference[] | undefined;
  for (const { name, value } of attrs) {
    const reference = readAttributeReference(element, name, value);
    if (reference) (out ??= []).push(reference);
  }
  return out ?? [];
}

function readAttributeReference(element: Element, name: string, value: string): Reference | undefined {
  const purpose = SINGLE.get(name)?.(element);
  if (purpose) {
    const begins = [value.length - value.trimStart().length];
    return { attribute: name, purpose, hrefs: [value.trim()], begins, write: ([href = '']) => href };
  }
  if (name === 'style') return value.includes('(') ? readStyleAttribute(value) : undefined;
  if (name === 'srcset' || name === 'imagesrcset') return readSrcset(name, value);
  if (name === 'content' && element.tagName === 'meta') return refresh(element, value);
  return undefined;
}

function readSrcset(name: string, value: string): Reference | undefined {
  const found = parseSrcset(value);
  if (found.length === 0) return undefined;
  return {
    attribute: name,
    purpose: 'load',
    hrefs: found.map(({ url }) => url),
    begins: found.map(({ start }) => start),
    write: (hrefs) =>
      replaceParts(
        value,
        found.map(({ url, start }, i) => ({ start, end: start + url.length, text: hrefs[i] ?? url })),
      ),
  };
}

function readStyleAttribute(value: string): Reference | undefined {
  const found = findCssUrls(value);
  if (found.length === 0) return undefined;
  return {
    attribute: 'style',
    purpose: 'load',
    hrefs: found.map(({ url }) => url),
    isCss: true,
    begins: found.map(({ url, start, end }) => beginIn(value.slice(start, end), url, start)),
    write: (hrefs) =>
      replaceParts(
        value,
        found.map(({ start, end, write, url }, i) => ({ start, end, text: write(hrefs[i] ?? url) })),
      ),
  };
}

/** `<meta http-equiv=refresh>`; HTML standard, section 4.2.5.3, "Refresh state". */
function refresh(element: Element, content: string): Reference | undefined {
  if (readAttribute(element, 'http-equiv')?.toLowerCase() !== 'refresh') return undefined;
  const [, before = '', url] =
    /^(\s*[\d.]+(?:\s*[;,]|\s+(?![\s;,]))\s*(?:url\s*=\s*)?["']?)([^"'\s][^"']*)/i.exec(content) ?? [];
  if (url === undefined) return undefined;
  return {
    attribute: 'content',
    purpose: 'follow',
    hrefs: [url.trim()],
    begins: [before.length],
    write: ([href = '']) => before + href + content.slice(before.length + url.length),
  };
}

/** Inside `<style>` nothing is escaped, so each address is a place of its own. */
function readStyleText(element: Element): Reference[] {
  const text = element.childNodes[0];
  if (text === undefined || !('value' in text) || !/url|@import/i.test(text.value)) return [];
  return findCssUrls(text.value).map(({ url, start, end, write }) => ({
    attribute: 'style',
    purpose: 'load',
    hrefs: [url],
    write: ([href = url]) => write(href),
    textSpan: { start, end },
    begins: [beginIn(text.value.slice(start, end), url, 0)],
    isCss: true,
  }));
}

/** Where an address begins in its token; undefined where it is written with escapes. */
function beginIn(token: string, url: string, offset: number): number | undefined {
  const at = token.indexOf(url);
  return at < 0 ? undefined : offset + at;
}

function replaceParts(value: string, parts: readonly { start: number; end: number; text: string }[]): string {
  let out = '';
  let last = 0;
  for (const { start, end, text } of parts) {
    out += value.slice(last, start) + text;
    last = end;
  }
  return out + value.slice(last);
}
