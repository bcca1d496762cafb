/** Text inside other notations. The reader of expressions is this machine's own; that of quoted arguments is written out. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { escapeExpression, escapeQuotes, quoteInDirective } from './index.ts';

/** Letters that mean something in one notation or another, more often than others. */
const text = fc.string({ unit: fc.constantFrom(...'.*+?^${}()|[]\\/"#-a é') });

it('an expression made of a text matches that text and nothing else', () => {
  fc.assert(
    fc.property(text, text, (wanted, other) => {
      const expression = new RegExp(`^${escapeExpression(wanted)}$`, 'u');
      expect(expression.test(wanted)).toBe(true);
      expect(expression.test(other)).toBe(other === wanted);
    }),
  );
  expect(escapeExpression('/a.b/')).toBe('/a\\.b/');
});

/** nginx (ngx_conf_read_token) and Apache (ap_getword_conf): a backslash before `"` or `\` goes, and the letter stays. */
const readArgument = (quoted: string): string => quoted.slice(1, -1).replace(/\\(["\\])/g, '$1');

it('an argument is read as it was written, and ends at its own mark alone', () => {
  fc.assert(
    fc.property(text, (written) => {
      const quoted = quoteInDirective(written);
      expect(readArgument(quoted)).toBe(written);
      expect(/^"(?:[^"\\]|\\.)*"$/u.test(quoted)).toBe(true);
      expect(quoted).toBe(`"${escapeQuotes(written)}"`);
    }),
  );
});
