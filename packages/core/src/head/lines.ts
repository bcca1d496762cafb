/** The lines of a page's head that Fastigium knows by name, and how each is read and written. */
import { readAttribute, isHtml, type Element } from '../html/index.ts';

/**
 * Names a line: `title`, `language` (the attribute of `<html>`), `meta:NAME` for a plain tag by its name
 * or property in lower case, `link:canonical`, `link:alternate:TAG` for the page in another language,
 * `link:icon`, `link:manifest` and so on for links by relation, `json` for structured data.
 */
export type LineName = string;

/** Properties instead of names: Open Graph protocol, "Basic Metadata", which builds on RDFa. */
const PROPERTY = /^(og|article|profile|book|music|video|fb):/;

export function isProperty(name: string): boolean {
  return PROPERTY.test(name);
}

/** The line an element of the head is, and what it says; undefined for all others. */
export function readLine(element: Element): { readonly name: LineName; readonly text: string } | undefined {
  if (!isHtml(element)) return undefined;
  if (element.tagName === 'meta') {
    const name = (readAttribute(element, 'name') ?? readAttribute(element, 'property'))?.trim().toLowerCase();
    const content = readAttribute(element, 'content');
    return name && content !== undefined ? { name: `meta:${name}`, text: content } : undefined;
  }
  if (element.tagName !== 'link') return undefined;
  const href = readAttribute(element, 'href');
  const relations = (readAttribute(element, 'rel') ?? '').toLowerCase().split(/\s+/);
  const language = readAttribute(element, 'hreflang');
  if (href === undefined) return undefined;
  if (relations.includes('alternate') && language !== undefined)
    return { name: `link:alternate:${language.toLowerCase()}`, text: href };
  const known = LINKS.find((each) => relations.includes(each));
  return known && { name: `link:${known}`, text: href };
}

const LINKS = ['canonical', 'icon', 'apple-touch-icon', 'mask-icon', 'manifest'] as const;

/** What a page is asked for when it comes in: every line that has one value and can be set here. */
export function isSettable(name: LineName): boolean {
  return name === 'title' || name === 'language' || name === 'link:canonical' || /^meta:[^\s"'<>=]{1,100}$/.test(name);
}
