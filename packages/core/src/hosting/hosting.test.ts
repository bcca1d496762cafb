/** Distances against published ones, plans against their needs. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  computeDistanceToVisitors,
  computeDownMinutesPerMonth,
  fitOf,
  computeGreatCircleKm,
  computeLeastRoundTripMs,
  planCost,
  type Plan,
} from './index.ts';

const LONDON = { latitude: 51.5074, longitude: -0.1278 };
const PARIS = { latitude: 48.8566, longitude: 2.3522 };
const SYDNEY = { latitude: -33.8688, longitude: 151.2093 };
const NEW_YORK = { latitude: 40.7128, longitude: -74.006 };

describe('distance', () => {
  // Published distances between these cities, from memory, to the nearest ten kilometres.
  it.each([
    [LONDON, PARIS, 340],
    [LONDON, NEW_YORK, 5570],
    [LONDON, SYDNEY, 16_990],
    [PARIS, NEW_YORK, 5840],
  ])('%o to %o is about %d km', (a, b, km) => {
    expect(Math.abs(computeGreatCircleKm(a, b) - km)).toBeLessThan(Math.max(6, km * 0.004));
  });

  it('is symmetrical, never more than half the earth round, and obeys the triangle (property)', () => {
    const place = fc.record({
      latitude: fc.double({ min: -90, max: 90, noNaN: true }),
      longitude: fc.double({ min: -180, max: 180, noNaN: true }),
    });
    // Near the antipode the arcsine turns the last bit of a double into a tenth of a metre: it is judged to one metre.
    fc.assert(
      fc.property(place, place, place, (a, b, c) => {
        expect(computeGreatCircleKm(a, b)).toBeCloseTo(computeGreatCircleKm(b, a), 3);
        expect(computeGreatCircleKm(a, b)).toBeLessThanOrEqual(Math.PI * 6371.0088 + 1e-6);
        expect(computeGreatCircleKm(a, c)).toBeLessThanOrEqual(
          computeGreatCircleKm(a, b) + computeGreatCircleKm(b, c) + 1e-3,
        );
      }),
    );
  });

  it('sets the least round trip: 1000 km of fibre there and back take 10 ms', () =>
    expect(computeLeastRoundTripMs(1000)).toBeCloseTo(10.007, 2));

  it('is weighted by visits', () => {
    const near = computeDistanceToVisitors(LONDON, [
      { country: 'a', ...PARIS, weight: 9 },
      { country: 'b', ...SYDNEY, weight: 1 },
    ]);
    const far = computeDistanceToVisitors(LONDON, [
      { country: 'a', ...PARIS, weight: 1 },
      { country: 'b', ...SYDNEY, weight: 9 },
    ]);
    expect(near?.km).toBeLessThan(far?.km ?? 0);
    expect(computeDistanceToVisitors(LONDON, [])).toBeUndefined();
  });
});

describe('plans', () => {
  const plan: Plan = {
    id: 'p',
    name: 'P',
    currency: 'USD',
    monthlyCents: 500,
    setUpCents: 1500,
    setUpWaivedFromMonths: 12,
    sites: 1,
    storageBytes: 1000,
    files: 10,
    ownDomain: true,
    certificate: true,
    password: false,
    backupDays: 0,
    uptimePercent: 99.9,
  };
  const needs = { files: 4, bytes: 400, ownDomain: true, certificate: true, password: false, backups: false };

  it('fit when two releases do, and say each thing they lack', () => {
    expect(fitOf(plan, needs)).toEqual({ fits: true, lacks: [], usedPercent: 80 });
    expect(fitOf(plan, { ...needs, files: 6, bytes: 501, password: true, backups: true }).lacks).toHaveLength(4);
  });

  it('waive the set-up fee from twelve months on (common practice, no source)', () => {
    expect([planCost(plan, 11).totalCents, planCost(plan, 12).totalCents]).toEqual([11 * 500 + 1500, 12 * 500]);
  });

  it('mean minutes by their promise: 99.9 % of 30 days is 43.2 (common practice)', () => {
    expect([99.9, 99.99, 99, 100].map(computeDownMinutesPerMonth)).toEqual([43.2, 4.32, 432, 0]);
  });
});
