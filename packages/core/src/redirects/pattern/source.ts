/**
 * A pattern as a regular expression for programs that have no patterns: in the syntax that ECMA-262 and PCRE share.
 * Source: WHATWG URL Pattern standard, "generate a regular expression and name list".
 */
import type { Part } from './parts.ts';

/** Without ^ and $; a group for each part that has a name, in their order. */
export function writeExpressionSource(parts: readonly Part[], delimiter: string): string {
  return parts
    .map((part) => {
      if (part.type === 'fixed')
        return part.modifier === ''
          ? escapeExpression(part.value)
          : `(?:${escapeExpression(part.value)})${part.modifier}`;
      const value =
        part.type === 'full'
          ? '.*'
          : part.type === 'regexp'
            ? part.value
            : delimiter === ''
              ? '.+?'
              : `[^${escapeExpression(delimiter)}]+?`;
      const [prefix, suffix] = [escapeExpression(part.prefix), escapeExpression(part.suffix)];
      if (prefix === '' && suffix === '')
        return part.modifier === '' || part.modifier === '?'
          ? `(${value})${part.modifier}`
          : `((?:${value})${part.modifier})`;
      if (part.modifier === '' || part.modifier === '?') return `(?:${prefix}(${value})${suffix})${part.modifier}`;
      return `(?:${prefix}((?:${value})(?:${suffix}${prefix}(?:${value}))*)${suffix})${part.modifier === '*' ? '?' : ''}`;
    })
    .join('');
}

/** Letters that mean something in an expression, the slash among them, which may end one. */
export function escapeExpression(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
}
