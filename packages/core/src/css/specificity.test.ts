/**
 * What selectors weigh. Source: W3C Selectors Level 4, section 17, "Calculating a selector's specificity", the examples
 * there and those of sections 4.2 to 4.5 for `:is()`, `:not()`, `:where()` and `:has()`.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readSheet } from './index.ts';

const weight = (selector: string) => readSheet(`${selector} { color: red }`)[0]?.weight;
const of = (ids: number, classes: number, types: number) => ids * 1_000_000 + classes * 1000 + types;

describe('the specificity of', () => {
  it.each([
    ['*', 0, 0, 0],
    ['LI', 0, 0, 1],
    ['UL LI', 0, 0, 2],
    ['UL OL+LI', 0, 0, 3],
    ['H1 + *[REL=up]', 0, 1, 1],
    ['UL OL LI.red', 0, 1, 3],
    ['LI.red.level', 0, 2, 1],
    ['#x34y', 1, 0, 0],
    ['#s12:not(FOO)', 1, 0, 1],
    ['.foo :is(.bar, #baz)', 1, 1, 0],
    [':is(em, #foo)', 1, 0, 0],
    ['.qux:where(em, #foo#bar#baz)', 0, 1, 0],
    [':nth-child(even of li, .item)', 0, 2, 0],
    [':not(em, strong#foo)', 1, 0, 1],
    ['a:has(> img, .b .c)', 0, 2, 1],
    ['a:hover::before', 0, 1, 2],
    [':where(#a, .b) p', 0, 0, 1],
  ] as const)('%s is (%d, %d, %d)', (selector, ids, classes, types) =>
    expect(weight(selector)).toBe(of(ids, classes, types)),
  );

  it('one that holds another in :is() is that one’s, and in :where() none at all (property)', () => {
    const simple = fc.constantFrom('p', '.a', '#b', '[c]', 'p.a', '#b .a', '*');
    fc.assert(
      fc.property(simple, simple, (one, other) => {
        expect(weight(`:is(${one}, ${other})`)).toBe(Math.max(weight(one) ?? -1, weight(other) ?? -1));
        expect(weight(`:where(${one}, ${other})`)).toBe(0);
      }),
    );
  });

  it('one that nobody knows is read all the same', () => {
    expect(readSheet(':is(a:::b) { color: red } p { color: red }').map(({ selector }) => selector)).toContain('p');
  });
});
