/**
 * Patterns that the platform's own regular expressions match in linear time, several times as fast as the
 * bounded program: no two parts can trade letters with each other, so there is nothing to try twice.
 */
import type { Part } from './parts.ts';
import { escapeSource } from './source.ts';

/** Digits, letters of a set, or words to choose from: none of them can cross a slash. */
const PLAIN_EXPRESSION =
  /^(?:\\d(?:\{\d+(?:,\d*)?\}|[+*])?|\[[A-Za-z0-9_-]+\](?:\{\d+(?:,\d*)?\}|[+*])?|[\w-]+(?:\|[\w-]+)*)$/;

/** A source for RegExp with a group for each part that has a name, in order; undefined where parts could trade letters. */
export function writePlainSource(parts: readonly Part[]): string | undefined {
  let source = '';
  /** Whether a part of this segment may already take more or fewer letters. */
  let isOpen = false;
  let isFull = false;
  for (const part of parts) {
    if (part.type === 'fixed') {
      if (part.modifier !== '' || (isFull && isOpen)) return undefined;
      if (part.value.includes('/')) isOpen = false;
      source += escapeSource(part.value);
      if (isFull) return undefined;
      continue;
    }
    const { prefix, suffix, modifier } = part;
    if ((modifier !== '' && modifier !== '?') || isFull) return undefined;
    if (prefix.includes('/')) isOpen = false;
    // What may be missing leaves the slash to nobody.
    if (isOpen || (modifier === '?' && (prefix !== '/' || suffix !== ''))) return undefined;
    if (part.type === 'regexp' && !PLAIN_EXPRESSION.test(part.value)) return undefined;
    const value = part.type === 'full' ? '.*' : part.type === 'segment' ? '[^/]+?' : part.value;
    source +=
      modifier === '?'
        ? `(?:${escapeSource(prefix)}(${value}))?`
        : `${escapeSource(prefix)}(${value})${escapeSource(suffix)}`;
    isOpen = !suffix.includes('/');
    isFull = part.type === 'full';
    if (isFull && suffix !== '') return undefined;
  }
  return `^${source}$`;
}
