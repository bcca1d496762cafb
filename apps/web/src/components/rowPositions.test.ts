/** WAI-ARIA 1.2, sections on `aria-posinset` and `aria-setsize`: in a tree they count the items of one level in one branch. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { reckonRowPositions } from './rowPositions.ts';

const words = (depths: readonly (number | undefined)[]) =>
  reckonRowPositions(depths).map((place) => place && `${place.at} of ${place.of}`);

it('counts the rows of a branch among themselves', () => {
  expect(words([0, 1, 1, 2, 0, 1])).toEqual(['1 of 2', '1 of 2', '2 of 2', '1 of 1', '2 of 2', '1 of 1']);
});

it('leaves headings of a list out', () => {
  expect(words([undefined, 0, 0, undefined, 0])).toEqual([undefined, '1 of 3', '2 of 3', undefined, '3 of 3']);
});

it('reads a branch that begins deeper than its parent says', () => {
  expect(words([0, 2, 2, 1])).toEqual(['1 of 1', '1 of 2', '2 of 2', '1 of 1']);
});

it('gives every row of a set its own place, from 1 to the size of the set', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 4 })), (depths) => {
      const places = reckonRowPositions(depths);
      places.forEach((place, row) => {
        // The set, found again by looking up and down to where the branch begins and ends.
        const depth = depths[row] as number;
        const edge = (step: 1 | -1) => {
          let at = row;
          while ((depths[at + step] ?? -1) >= depth) at += step;
          return at;
        };
        const set = depths.slice(edge(-1), edge(1) + 1).filter((each) => each === depth);
        expect(place?.of).toBe(set.length);
        expect(place?.at).toBe(depths.slice(edge(-1), row + 1).filter((each) => each === depth).length);
      });
    }),
  );
});
