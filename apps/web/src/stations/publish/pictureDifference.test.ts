/** Where pictures begin to differ. The invented pictures are as small as can be; no source beyond arithmetic. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { firstDifference, type Pixels } from './pictureDifference.ts';

const picture = (width: number, rows: readonly number[]): Pixels => ({ width, height: rows.length, data: Uint8ClampedArray.from(rows.flatMap((shade) => Array.from({ length: width * 4 }, () => shade))) });

describe('two pictures of a page', () => {
  it('differ nowhere where they are the same, but for what compressing does', () => {
    expect(firstDifference(picture(3, [10, 200, 90]), picture(3, [10, 200, 90]))).toBeUndefined();
    expect(firstDifference(picture(3, [10, 200, 90]), picture(3, [12, 190, 99]))).toBeUndefined();
  });

  it('differ from where one is longer', () => expect(firstDifference(picture(2, [5, 5, 5, 5]), picture(2, [5, 5]))).toBe(0.5));

  it('differ from their first row that does (property)', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 30 }), fc.nat(), fc.integer({ min: 1, max: 5 }), (rows, pick, width) => {
      const at = pick % rows.length;
      const other = rows.map((shade, row) => (row === at ? (shade + 128) % 256 : shade));
      expect(firstDifference(picture(width, rows), picture(width, other))).toBe(at / rows.length);
    }));
  });
});
