/** Setting attributes of an element in its source. */
import type { Element } from './document.ts';
import { escapeAttribute, type Edit } from './splice.ts';

/**
 * The edits that give attributes their values; null takes one away. What stands there is written anew in
 * its place, what is missing comes right behind the tag's name.
 *
 * @param source the page's text: with it a quoted value is written between its quotes, and all else keeps its bytes
 */
export function editAttributes(
  element: Element,
  values: Readonly<Record<string, string | null>>,
  source?: string,
): Edit[] {
  const location = element.sourceCodeLocation;
  const startTag = location?.startTag ?? location;
  if (!location || !startTag) return [];
  const nameEnd = startTag.startOffset + 1 + element.tagName.length;
  let added = '';
  const edits: Edit[] = [];
  for (const [name, value] of Object.entries(values)) {
    const span = location.attrs?.[name];
    const written = value === null ? '' : `${name}="${escapeAttribute(value)}"`;
    if (!span) added += written === '' ? '' : ` ${written}`;
    // The space before an attribute goes with it.
    else if (value === null) edits.push({ start: span.startOffset - 1, end: span.endOffset, text: '' });
    else if (readAttributeValue(element, name) !== value) {
      const edit =
        source === undefined ? undefined : editBetweenQuotes(source, span.startOffset, span.endOffset, value);
      edits.push(edit ?? { start: span.startOffset, end: span.endOffset, text: written });
    }
  }
  if (added !== '') edits.push({ start: nameEnd, end: nameEnd, text: added });
  return edits;
}

function editBetweenQuotes(source: string, start: number, end: number, value: string): Edit | undefined {
  const [lead, quote] = /^[^=]*=\s*(["'])/.exec(source.slice(start, end)) ?? [];
  if (lead === undefined || quote === undefined || source[end - 1] !== quote) return undefined;
  const text = quote === '"' ? escapeAttribute(value) : value.replace(/&/g, '&amp;').replace(/'/g, '&#39;');
  return { start: start + lead.length, end: end - 1, text };
}

function readAttributeValue(element: Element, name: string): string | undefined {
  return element.attrs.find((attr) => attr.name === name)?.value;
}
