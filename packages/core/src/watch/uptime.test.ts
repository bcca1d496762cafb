import fc from 'fast-check';
import { quantileSorted } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { reckonAllowedMinutes, computeQuantile, reckonUptime, reckonUptimePercent, type Probe } from './index.ts';

const MINUTE = 60_000;
const at = (minute: number, isUp = true): Probe => ({
  atMs: minute * MINUTE,
  isUp,
  firstByteMs: isUp ? 20 : undefined,
  problem: isUp ? undefined : 'the connection is refused',
});

describe('uptime', () => {
  it('a probe holds until the next one; an outage lasts from the first that failed to the first that did not', () => {
    const up = reckonUptime([at(0), at(5), at(10, false), at(15, false), at(20), at(25)], 5 * MINUTE, 30 * MINUTE);
    expect(up).toEqual({
      watchedMs: 30 * MINUTE,
      downMs: 10 * MINUTE,
      outages: [{ fromMs: 10 * MINUTE, toMs: 20 * MINUTE, problem: 'the connection is refused' }],
    });
    expect(reckonUptimePercent(up)).toBeCloseTo(66.667, 3);
  });

  it('a time nobody watched is neither up nor down', () => {
    const up = reckonUptime([at(0), at(600, false)], 5 * MINUTE, 605 * MINUTE);
    expect(up).toMatchObject({
      watchedMs: 20 * MINUTE,
      downMs: 5 * MINUTE,
      outages: [{ fromMs: 600 * MINUTE, toMs: undefined }],
    });
    expect(reckonUptimePercent(reckonUptime([], 1, 9))).toBeUndefined();
  });

  it('what is down is never more than what was watched, and outages follow each other', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), fc.boolean())), (steps) => {
        let minute = 0;
        const probes = steps.map(([pause, isUp]) => at((minute += pause), isUp));
        const { watchedMs, downMs, outages } = reckonUptime(probes, 5 * MINUTE, (minute + 5) * MINUTE);
        expect(downMs).toBeLessThanOrEqual(watchedMs);
        expect(watchedMs).toBeLessThanOrEqual((minute + 5) * MINUTE);
        outages.forEach((outage, n) => {
          if (n > 0) expect(outage.fromMs).toBeGreaterThan(outages[n - 1]?.toMs ?? Infinity);
        });
        expect(outages.length > 0).toBe(probes.some(({ isUp }) => !isUp));
      }),
    );
  });

  // Arithmetic; 43.2 minutes for 99.9 % of 30 days is the figure of common practice, no source.
  it.each([
    [99.9, 30, 43.2],
    [99, 30, 432],
    [99.99, 365, 52.56],
    [100, 30, 0],
  ])('%d %% of %d days allow %d minutes', (percent, days, minutes) =>
    expect(reckonAllowedMinutes(percent, days)).toBeCloseTo(minutes, 6),
  );
});

describe('quantiles', () => {
  it('of the values 1 to 10, by definition 7 as R reckons it (from memory: quantile(1:10, c(.25, .5, .95)) is 3.25, 5.5, 9.55)', () => {
    const values = [7, 1, 10, 3, 5, 2, 9, 4, 8, 6];
    expect([computeQuantile(values, 0.25), computeQuantile(values, 0.5), computeQuantile(values, 0.95)]).toEqual([
      3.25,
      5.5,
      expect.closeTo(9.55, 9),
    ]);
    expect(computeQuantile([], 0.5)).toBeUndefined();
  });

  it('ends and middle agree with a statistics package', () => {
    // simple-statistics takes another definition between neighbours; where they meet, all definitions agree.
    fc.assert(
      fc.property(
        fc
          .array(fc.integer({ min: 0, max: 5000 }), { minLength: 1, maxLength: 99 })
          .filter(({ length }) => length % 2 === 1),
        (values) => {
          const sorted = [...values].sort((a, b) => a - b);
          expect(computeQuantile(values, 0)).toBe(quantileSorted(sorted, 0));
          expect(computeQuantile(values, 0.5)).toBe(quantileSorted(sorted, 0.5));
          expect(computeQuantile(values, 1)).toBe(quantileSorted(sorted, 1));
        },
      ),
    );
  });
});
