/** What is said of a live site, and when. The days are common practice, no source. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { finding } from '../inspection/index.ts';
import { deriveAlerts, type AlertFacts } from './index.ts';

const NOW = Date.UTC(2027, 2, 1);
const DAY = 86_400_000;
const kinds = (facts: AlertFacts) => deriveAlerts(facts, NOW).map(({ kind, weight }) => `${kind} ${weight}`);

describe('what somebody should know', () => {
  it('is nothing where nothing is near or wrong', () => {
    expect(kinds({})).toEqual([]);
    expect(
      kinds({
        certificates: [{ name: 'a.example', notAfterMs: NOW + 60 * DAY, renewsItself: true }],
        registrations: [{ name: 'a.example', expiresAtMs: NOW + 200 * DAY }],
        comesDown: { day: '2027-12-31', endsAtMs: NOW + 300 * DAY },
        spikes: [],
      }),
    ).toEqual([]);
  });

  it.each([
    [13.9, ['certificate caution']],
    [14, []],
    [2, ['certificate wrong']],
    [-1, ['certificate wrong']],
  ] as const)('a certificate with %d days left', (days, expected) =>
    expect(kinds({ certificates: [{ name: 'a.example', notAfterMs: NOW + days * DAY, renewsItself: true }] })).toEqual(
      expected,
    ),
  );
  it('is told of a certificate that renews itself as of one that does not, with what to do about it', () => {
    const words = (renewsItself: boolean) => {
      const [alert] = deriveAlerts(
        { certificates: [{ name: 'a.example', notAfterMs: NOW + 5 * DAY, renewsItself }] },
        NOW,
      );
      return alert && speakerFor(ENGLISH)(alert.message);
    };
    expect(words(true)).toMatch(/runs out on 6 March 2027/);
    expect(words(true)).toMatch(/should have renewed itself/);
    expect(words(false)).not.toMatch(/itself/);
    expect(words(false)).toMatch(/have it renewed where it did/);
  });
  it.each([
    [29, ['registration caution']],
    [30, []],
    [6, ['registration wrong']],
    [-3, ['registration wrong']],
  ] as const)('a registration with %d days left', (days, expected) =>
    expect(kinds({ registrations: [{ name: 'a.example', expiresAtMs: NOW + days * DAY }] })).toEqual(expected),
  );
  it.each([
    [7, 1],
    [7.2, 0],
    [-1, 1],
  ] as const)('a site that comes down in %d days', (days, count) =>
    expect(kinds({ comesDown: { day: '2027-03-08', endsAtMs: NOW + days * DAY } })).toHaveLength(count),
  );

  it('names the first of several, and how many more there are', () => {
    const at = (address: string) => ({ address, message: finding('status', { status: 404 }) });
    const told = deriveAlerts(
      { drift: { sinceMs: NOW, findings: [at('/a'), at('/b'), at('/c')] }, spikes: ['/x', '/y'] },
      NOW,
    );
    expect(told.map(({ message }) => speakerFor(ENGLISH)(message))).toEqual([
      'The live host gives something else than the release, since 1 March 2027: /a answers 404, and 2 more',
      '/x finds nothing and is asked for far more than usual today, and 1 more',
    ]);
  });

  it('has what is wrong before what is worth a look (property)', () => {
    const near = fc.integer({ min: -40, max: 60 }).map((days) => NOW + days * DAY);
    fc.assert(
      fc.property(
        near,
        near,
        fc.boolean(),
        fc.array(fc.constantFrom('/a', '/b')),
        (certificate, registration, isAway, spikes) => {
          const all = deriveAlerts(
            {
              certificates: [
                { name: 'a', notAfterMs: certificate, renewsItself: false },
                { name: 'b', notAfterMs: certificate, renewsItself: false },
              ],
              registrations: [{ name: 'a', expiresAtMs: registration }],
              spikes,
              logProblem: 'gone',
              ...(isAway ? { away: { problem: 'no answer' } } : {}),
            },
            NOW,
          );
          expect(all.map(({ weight }) => weight)).toEqual(
            all
              .map(({ weight }) => weight)
              .sort()
              .reverse(),
          );
          expect(new Set(all.map(({ kind, of }) => `${kind} ${of}`)).size).toBe(all.length);
        },
      ),
    );
  });
});
