/**
 * A pattern as a regular expression for programs that have no patterns: in the syntax that ECMA-262 and PCRE share.
 * Source: WHATWG URL Pattern standard, "generate a regular expression and name list".
 */
import { escapeExpression } from '../../text/index.ts';
import type { Part } from './parts.ts';

/** Without ^ and $; a group for each part that has a name, in their order. */
export function writeExpressionSource(parts: readonly Part[], delimiter: string): string {
  return parts
    .map((part) => {
      if (part.type === 'fixed')
        return part.modifier === '' ? escapeSource(part.value) : `(?:${escapeSource(part.value)})${part.modifier}`;
      const value =
        part.type === 'full'
          ? '.*'
          : part.type === 'regexp'
            ? part.value
            : delimiter === ''
              ? '.+?'
              : `[^${escapeSource(delimiter)}]+?`;
      const [prefix, suffix] = [escapeSource(part.prefix), escapeSource(part.suffix)];
      if (prefix === '' && suffix === '')
        return part.modifier === '' || part.modifier === '?'
          ? `(${value})${part.modifier}`
          : `((?:${value})${part.modifier})`;
      if (part.modifier === '' || part.modifier === '?') return `(?:${prefix}(${value})${suffix})${part.modifier}`;
      return `(?:${prefix}((?:${value})(?:${suffix}${prefix}(?:${value}))*)${suffix})${part.modifier === '*' ? '?' : ''}`;
    })
    .join('');
}

/** As part of an expression that stands between slashes. */
export function escapeSource(text: string): string {
  return escapeExpression(text).replaceAll('/', '\\/');
}

/** Text as a pattern that matches nothing else. */
export function escapePattern(text: string): string {
  return text.replace(/[:{}()*+?\\]/g, '\\$&');
}
