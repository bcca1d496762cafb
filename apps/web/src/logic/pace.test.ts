/** Speed and time left, against plain arithmetic; no source. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { reckonPace, withSample, type Sample } from './pace.ts';

describe('the pace of work', () => {
  it('of work that goes evenly is its speed, and what is left by that (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.integer({ min: 2, max: 30 }),
        fc.integer({ min: 800, max: 3000 }),
        (aStep, steps, everyMs) => {
          let samples: readonly Sample[] = [];
          for (let n = 0; n < steps; n += 1) samples = withSample(samples, { atMs: n * everyMs, done: n * aStep });
          const pace = reckonPace(samples, steps * aStep);
          if ((steps - 1) * everyMs < 1500) expect(pace).toBeUndefined();
          else {
            expect(pace?.speed).toBeCloseTo((aStep / everyMs) * 1000, 6);
            expect(pace?.leftMs).toBeCloseTo(everyMs, 6);
          }
        },
      ),
    );
  });
  it('is not told at first, nor of work that stands still', () => {
    expect(reckonPace([], 10)).toBeUndefined();
    expect(
      reckonPace(
        [
          { atMs: 0, done: 0 },
          { atMs: 500, done: 5 },
        ],
        10,
      ),
    ).toBeUndefined();
    expect(
      reckonPace(
        [
          { atMs: 0, done: 5 },
          { atMs: 9000, done: 5 },
        ],
        10,
      ),
    ).toBeUndefined();
  });
  it('begins anew with a step that begins anew, and forgets what is long ago', () => {
    expect(withSample([{ atMs: 0, done: 90 }], { atMs: 10, done: 2 })).toEqual([{ atMs: 10, done: 2 }]);
    expect(withSample([{ atMs: 0, done: 1 }], { atMs: 20_000, done: 2 })).toEqual([{ atMs: 20_000, done: 2 }]);
  });
});
