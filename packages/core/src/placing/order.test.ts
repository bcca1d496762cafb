/** Orders given anew; laws are this project's own. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeOrder, placeAmong } from './index.ts';

describe('an order given anew', () => {
  it.each([
    ['abcd', 'dca', 'dcab'],
    ['abcd', 'ba', 'bcda'],
    ['abc', 'xyz', 'xyzabc'],
    ['abc', '', 'abc'],
    ['', 'xy', 'xy'],
    ['abc', 'c', 'abc'],
    ['axb', 'ba', 'bax'],
    ['aab', 'b', 'ab'],
  ])('%s and then %s is %s', (former, next, expected) => {
    expect(mergeOrder([...former], [...next]).join('')).toBe(expected);
  });

  it('loses nobody, and keeps what was said (property)', () => {
    const order = fc.uniqueArray(fc.constantFrom(...'abcdefgh'));
    fc.assert(
      fc.property(order, order, (former, next) => {
        const merged = mergeOrder(former, next);
        expect(merged.filter((each) => next.includes(each))).toEqual(next);
        expect([...merged].sort()).toEqual([...new Set([...former, ...next])].sort());
        // Given once more, nothing changes.
        expect(mergeOrder(former, merged)).toEqual(merged);
      }),
    );
  });
});

it.each<[string, string, string, number]>([
  ['a', 'b', 'ab', 1],
  ['ax', 'b', 'ab', 1],
  ['x', 'yb', 'ab', 1],
  ['x', 'y', 'ab', 2],
  ['ab', '', 'ba', 1],
  ['', 'ba', 'ab', 1],
  ['', '', '', 0],
])('between %j and %j among %j: %d', (before, after, present, expected) => {
  expect(placeAmong([...before], [...after], [...present])).toBe(expected);
});
