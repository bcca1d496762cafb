import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitBatches, BATCHES_AT_ONCE } from './batches.ts';

const MIB = 1024 * 1024;
const named = (count: number) => Array.from({ length: count }, (_, n) => `hash ${n}`);
const small = (hashes: readonly string[]) => new Map(hashes.map((hash) => [hash, 3000]));

describe('batches', () => {
  it('hold everything once and in order, and none is too much at once', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.nat(20_000), fc.nat(40 * MIB)), { maxLength: 3000 }), (bytes) => {
        const hashes = named(bytes.length);
        const sizes = new Map(hashes.map((hash, n) => [hash, bytes[n] ?? 0]));
        const all = [...splitBatches(hashes, sizes)];
        expect(all.flat()).toEqual(hashes);
        for (const batch of all) {
          expect(batch.length).toBeGreaterThan(0);
          expect(batch.length).toBeLessThanOrEqual(1250);
          // What is larger than all that may go at once goes by itself.
          if (batch.length > 1)
            expect(batch.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0)).toBeLessThanOrEqual(24 * MIB);
        }
      }),
    );
  });

  it('begin small and end small: none is more than its share of what was left, but for three hundred', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30_000 }), (count) => {
        const hashes = named(count);
        const lengths = [...splitBatches(hashes, small(hashes))].map(({ length }) => length);
        expect(lengths[0]).toBe(Math.min(150, count));
        let left = count;
        for (const [n, length] of lengths.entries()) {
          if (n > 0) expect(length).toBeLessThanOrEqual(Math.max(300, Math.ceil(left / BATCHES_AT_ONCE)));
          left -= length;
        }
        expect(lengths.at(-1)).toBeLessThanOrEqual(300);
      }),
      { numRuns: 50 },
    );
  });

  it('are as few as that allows: ten thousand small files are fourteen', () => {
    const hashes = named(10_000);
    expect([...splitBatches(hashes, small(hashes))].map(({ length }) => length)).toEqual([
      150, 300, 600, 1200, 1250, 1250, 1250, 1250, 917, 611, 408, 300, 300, 214,
    ]);
  });

  it('are none of nothing', () => {
    expect([...splitBatches([], new Map())]).toEqual([]);
  });
});
