import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cut, follow, LEAST_BYTES, MOST_BYTES, writeRecipe, WANTED_BYTES } from './index.ts';

/** Bytes without a pattern, always the same: xorshift, 32 bits. */
function noise(length: number, seed = 1): Uint8Array {
  const out = new Uint8Array(length);
  let state = seed | 0;
  for (let n = 0; n < length; n += 1) {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    out[n] = state >>> 24;
  }
  return out;
}
const inserted = (bytes: Uint8Array, at: number, more: Uint8Array) => {
  const out = new Uint8Array(bytes.length + more.length);
  out.set(bytes.subarray(0, at));
  out.set(more, at);
  out.set(bytes.subarray(at), at + more.length);
  return out;
};
const MEGABYTE = 1_000_000;

describe('cutting, as the FastCDC paper (USENIX ATC 2016) says', () => {
  const bytes = noise(8 * MEGABYTE);
  const pieces = () => {
    const ends = cut(bytes);
    return { ends, sizes: ends.map((end, n) => end - (ends[n - 1] ?? 0)) };
  };

  it('no piece below the least size but the last, none above the most (section 3.3)', () => {
    const { ends, sizes } = pieces();
    expect(Math.min(...sizes.slice(0, -1))).toBeGreaterThan(LEAST_BYTES);
    expect(Math.max(...sizes)).toBeLessThanOrEqual(MOST_BYTES);
    expect(ends.at(-1)).toBe(bytes.length);
  });

  it('pieces lie about the wanted size, most of them close to it (section 3.4, normalised chunking)', () => {
    const { sizes } = pieces();
    const mean = bytes.length / sizes.length;
    expect(mean).toBeGreaterThan(WANTED_BYTES * 0.8);
    expect(mean).toBeLessThan(WANTED_BYTES * 1.4);
    const close = sizes.filter((size) => size > WANTED_BYTES / 2 && size < WANTED_BYTES * 2).length;
    expect(close / sizes.length).toBeGreaterThan(0.75);
  });

  it('an insertion moves no cut but those beside it (section 2, the boundary-shift problem)', () => {
    const { ends } = pieces();
    const at = 4 * MEGABYTE;
    const more = noise(1000, 7);
    const shifted = new Set(cut(inserted(bytes, at, more)));
    const lost = ends.filter((end) => !shifted.has(end <= at ? end : end + more.length));
    expect(lost.length).toBeLessThan(6);
    expect(lost.every((end) => Math.abs(end - at) < 4 * MOST_BYTES)).toBe(true);
  });

  it('bytes without any change are cut at the most size', () =>
    expect(cut(new Uint8Array(MOST_BYTES * 2 + 5))).toEqual([MOST_BYTES, MOST_BYTES * 2, MOST_BYTES * 2 + 5]));
  it('nothing has no piece', () => expect(cut(new Uint8Array())).toEqual([]));
});

describe('a recipe', () => {
  it('a kilobyte in the middle of megabytes sends little more than the kilobyte', () => {
    const old = noise(4 * MEGABYTE);
    const now = inserted(old, 2 * MEGABYTE + 17, noise(1024, 5));
    const made = writeRecipe(old, now);
    expect(made.sent.length).toBeLessThan(1100);
    expect(made.parts).toHaveLength(3);
    expect(Buffer.compare(follow(old, made), now)).toBe(0);
  });

  it('what was taken out sends nothing; what changed places is copied from where it was', () => {
    const old = noise(600_000);
    const without = Buffer.concat([old.subarray(0, 200_000), old.subarray(300_000)]);
    expect(writeRecipe(old, without).sent.length).toBeLessThan(64);
    const swapped = Buffer.concat([old.subarray(300_000), old.subarray(0, 300_000)]);
    expect(writeRecipe(old, swapped).sent.length).toBeLessThan(2 * WANTED_BYTES);
  });

  it('followed, it makes the new content, whatever the two are', () => {
    // Whole texts of a few letters repeat themselves, which is where copies could be taken for each other.
    const piece = fc.oneof(
      fc.uint8Array({ maxLength: 300 }),
      fc.integer({ min: 1, max: 5 }).map((seed) => noise(9000, seed)),
      fc.integer({ min: 0, max: 20_000 }).map((length) => new Uint8Array(length)),
    );
    const text = fc.array(piece, { maxLength: 6 }).map((pieces) => new Uint8Array(Buffer.concat(pieces)));
    fc.assert(
      fc.property(text, text, (old, now) => {
        const made = writeRecipe(old, now);
        expect(Buffer.compare(follow(old, made), now)).toBe(0);
        expect(made.parts.reduce((sum, part) => sum + ('copy' in part ? part.length : part.sent), 0)).toBe(now.length);
      }),
      { numRuns: 60 },
    );
  });

  it.each([
    [[{ copy: 5, length: 10 }], 0],
    [[{ copy: -1, length: 1 }], 0],
    [[{ sent: 3 }], 2],
    [[{ sent: 1 }], 2],
  ])('that asks for what is not there is refused: %j', (parts, sent) => {
    expect(() => follow(new Uint8Array(10), { parts, sent: new Uint8Array(sent) })).toThrow(RangeError);
  });
});
