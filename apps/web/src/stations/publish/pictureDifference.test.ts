/** What differs between pictures. The invented pictures are as small as can be; no source beyond arithmetic. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findDifferingParts, type Part, type Pixels } from './pictureDifference.ts';

/** Each row in one shade. */
const picture = (width: number, rows: readonly number[]): Pixels => ({
  width,
  height: rows.length,
  data: Uint8ClampedArray.from(rows.flatMap((shade) => Array.from({ length: width * 4 }, () => shade))),
});
const shades = fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 60 });
const covers = ({ left, top, width, height }: Part, x: number, y: number) =>
  x >= left && x < left + width && y >= top && y < top + height;

describe('two pictures of a page', () => {
  it('differ nowhere where they are the same, but for what compressing does', () => {
    expect(findDifferingParts(picture(3, [10, 200, 90]), picture(3, [10, 200, 90]))).toEqual({ before: [], after: [] });
    expect(findDifferingParts(picture(3, [10, 200, 90]), picture(3, [12, 190, 99]))).toEqual({ before: [], after: [] });
  });

  it('a part covers each point that is another, and what lies far from all of them is in none (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 120 }),
        fc.integer({ min: 40, max: 120 }),
        fc.array(fc.tuple(fc.nat(), fc.nat()), { maxLength: 4 }),
        (width, height, points) => {
          const before = picture(
            width,
            Array.from({ length: height }, () => 100),
          );
          const data = new Uint8ClampedArray(before.data);
          const changed = points.map(([x, y]) => [x % width, y % height] as const);
          for (const [x, y] of changed) data[(y * width + x) * 4] = 250;
          const { after } = findDifferingParts(before, { width, height, data });
          for (const [x, y] of changed) expect(after.some((part) => covers(part, x, y))).toBe(true);
          expect(after.length).toBeLessThanOrEqual(changed.length);
          for (const part of after) expect(changed.some(([x, y]) => covers(part, x, y))).toBe(true);
        },
      ),
    );
  });

  it('what is put in is marked in the later one alone, however much it moves down (property)', () => {
    fc.assert(
      fc.property(shades, fc.nat(), fc.integer({ min: 1, max: 9 }), (rows, pick, more) => {
        const at = pick % (rows.length + 1);
        const strange = Array.from({ length: more }, (_, n) => ((rows[at] ?? rows[at - 1] ?? 0) + 60 + n * 30) % 256);
        const now = [...rows.slice(0, at), ...strange, ...rows.slice(at)];
        const { before, after } = findDifferingParts(picture(2, rows), picture(2, now));
        const height = (parts: readonly Part[]) => parts.reduce((sum, part) => sum + part.height, 0);
        expect(height(after) - height(before)).toBe(more);
        expect(height(before)).toBe(0);
      }),
    );
  });
});
