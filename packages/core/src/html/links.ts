/**
 * Every reference a page makes, with the place in the source where it stands.
 * Source of the element and attribute table: HTML standard, "Attributes" index (attributes whose
 * value is a URL), without those that are never fetched or followed.
 */
import { attribute, elements, isHtml, type Element, type PageDocument } from './document.ts';
import { cssUrls } from './cssUrls.ts';
import { parseSrcset } from './srcset.ts';

/** `follow`: a visitor goes there; `load`: the browser fetches it for the page; `tell`: machines read it. */
export type LinkPurpose = 'follow' | 'load' | 'tell';

export interface Link {
  /** As written, character references decoded, white space trimmed. */
  readonly href: string;
  readonly element: string;
  readonly attribute: string;
  readonly purpose: LinkPurpose;
  /** Where the element starts, as a position in the text. */
  readonly at: number;
  /** Line in the source, from 1. */
  readonly line: number;
}

/** A place that holds one or several references and can be written anew. */
export interface LinkPlace {
  readonly links: readonly Link[];
  /** The text from `start` to `end` is replaced by what `write` gives for the new references. */
  readonly start: number;
  readonly end: number;
  /** `hrefs` has one reference for each of `links`, in order. */
  readonly write: (hrefs: readonly string[]) => string;
}

const SINGLE: Readonly<Record<string, readonly (readonly [attribute: string, purpose: LinkPurpose])[]>> = {
  a: [['href', 'follow']],
  area: [['href', 'follow']],
  audio: [['src', 'load']],
  blockquote: [['cite', 'tell']],
  body: [['background', 'load']],
  button: [['formaction', 'follow']],
  del: [['cite', 'tell']],
  embed: [['src', 'load']],
  form: [['action', 'follow']],
  frame: [['src', 'load']],
  iframe: [['src', 'load']],
  img: [['src', 'load'], ['longdesc', 'follow']],
  input: [['src', 'load'], ['formaction', 'follow']],
  ins: [['cite', 'tell']],
  object: [['data', 'load']],
  q: [['cite', 'tell']],
  script: [['src', 'load']],
  source: [['src', 'load']],
  track: [['src', 'load']],
  video: [['src', 'load'], ['poster', 'load']],
};

// What a <link> is for depends on its rel (HTML standard, section 4.6.7).
const LINK_LOADS = new Set(['stylesheet', 'icon', 'apple-touch-icon', 'mask-icon', 'manifest', 'preload', 'modulepreload', 'prefetch']);

function purposeOfLink(element: Element): LinkPurpose | undefined {
  const rel = (attribute(element, 'rel') ?? '').toLowerCase().split(/\s+/);
  // These name a host to be ready for, not a file.
  if (rel.some((word) => word === 'preconnect' || word === 'dns-prefetch')) return undefined;
  return rel.some((word) => LINK_LOADS.has(word)) ? 'load' : 'tell';
}

/** Writes `name="value"` for an attribute, with the quotes the place needs. */
function attributePlace(
  element: Element,
  name: string,
  links: readonly Link[],
  value: (hrefs: readonly string[]) => string,
): LinkPlace | undefined {
  const location = element.sourceCodeLocation?.attrs?.[name];
  if (location === undefined || links.length === 0) return undefined;
  return {
    links,
    start: location.startOffset,
    end: location.endOffset,
    write: (hrefs) => `${name}="${value(hrefs).replace(/&/g, '&amp;').replace(/"/g, '&quot;')}"`,
  };
}

function* placesOf(element: Element): Generator<LinkPlace | undefined> {
  const location = element.sourceCodeLocation;
  if (!location) return;
  const name = element.tagName;
  const link = (href: string, attr: string, purpose: LinkPurpose): Link => ({
    href: href.trim(), element: name, attribute: attr, purpose, at: location.startOffset, line: location.startLine,
  });
  const single = (attr: string, purpose: LinkPurpose) => {
    const value = attribute(element, attr);
    return value === undefined ? undefined : attributePlace(element, attr, [link(value, attr, purpose)], ([href = '']) => href);
  };

  for (const [attr, purpose] of (isHtml(element) ? SINGLE[name] : undefined) ?? []) yield single(attr, purpose);
  if (name === 'link') {
    const purpose = purposeOfLink(element);
    if (purpose) yield single('href', purpose);
  }
  if (!isHtml(element) && (name === 'image' || name === 'use')) yield single('href', 'load');
  for (const attr of ['srcset', 'imagesrcset']) {
    const value = attribute(element, attr);
    if (value === undefined) continue;
    const found = parseSrcset(value);
    yield attributePlace(element, attr, found.map(({ url }) => link(url, attr, 'load')), (hrefs) =>
      replaceAll(value, found.map(({ url, start }, i) => ({ start, end: start + url.length, text: hrefs[i] ?? url }))),
    );
  }
  if (name === 'meta' && attribute(element, 'http-equiv')?.toLowerCase() === 'refresh') {
    const content = attribute(element, 'content') ?? '';
    const found = /^(\s*[\d.]+\s*[;,]?\s*(?:url\s*=\s*)?["']?)([^"'\s][^"']*)/i.exec(content);
    const [, before = '', url] = found ?? [];
    if (url !== undefined) {
      yield attributePlace(element, 'content', [link(url, 'content', 'follow')], ([href = '']) =>
        before + href + content.slice(before.length + url.length));
    }
  }
  const style = attribute(element, 'style');
  if (style?.includes('(')) {
    const found = cssUrls(style);
    yield attributePlace(element, 'style', found.map(({ url }) => link(url, 'style', 'load')), (hrefs) =>
      replaceAll(style, found.map(({ start, end, write, url }, i) => ({ start, end, text: write(hrefs[i] ?? url) }))));
  }
  if (name === 'style' && location.startTag && location.endTag) yield* styleElementPlaces(element, link);
}

/** Inside `<style>` nothing is escaped, so each address can be replaced where it stands. */
function* styleElementPlaces(
  element: Element,
  link: (href: string, attr: string, purpose: LinkPurpose) => Link,
): Generator<LinkPlace> {
  const text = element.childNodes[0];
  if (text === undefined || !('value' in text) || !text.sourceCodeLocation) return;
  const offset = text.sourceCodeLocation.startOffset;
  // Positions hold only while the tree's text is the source's text (no NUL or CR LF folded away).
  if (text.sourceCodeLocation.endOffset - offset !== text.value.length) return;
  for (const { url, start, end, write } of cssUrls(text.value)) {
    yield { links: [link(url, 'style', 'load')], start: offset + start, end: offset + end, write: ([href = url]) => write(href) };
  }
}

function replaceAll(value: string, parts: readonly { start: number; end: number; text: string }[]): string {
  let out = '';
  let last = 0;
  for (const { start, end, text } of parts) {
    out += value.slice(last, start) + text;
    last = end;
  }
  return out + value.slice(last);
}

export function* linkPlaces(document: PageDocument): Generator<LinkPlace> {
  for (const element of elements(document.root)) {
    for (const place of placesOf(element)) if (place) yield place;
  }
}

/** `<base href>`, which changes what every relative reference means (HTML standard, section 4.2.3). */
export function baseHref(document: PageDocument): string | undefined {
  for (const element of elements(document.root)) {
    if (element.tagName === 'base' && isHtml(element)) {
      const href = attribute(element, 'href');
      if (href !== undefined) return href.trim();
    }
    if (element.tagName === 'body') return undefined;
  }
  return undefined;
}
