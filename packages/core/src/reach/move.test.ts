/** The steps of a move, in their order and time. The order is common practice, no source; times follow RFC 1035 section 3.2.1. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { moveSteps, MOVE_STEPS, type MoveFacts } from './move.ts';

const NOW = Date.UTC(2027, 2, 1, 12);
const HOUR = 3_600_000;
const START: MoveFacts = {
  mustFix: 2,
  oldAddresses: { all: 10, settled: 4 },
  live: undefined,
  domain: undefined,
  ttlSeconds: undefined,
  recordsToChange: undefined,
  authorityNewSinceMs: undefined,
  everyoneByMs: undefined,
  resolvers: { all: 4, new: 0 },
  certificate: 'none',
  answersUnderName: undefined,
  watch: { readAtMs: undefined, lost: 0 },
  changeAtMs: undefined,
};
const READY: MoveFacts = {
  ...START,
  mustFix: 0,
  oldAddresses: { all: 10, settled: 10 },
  live: { number: 1, verdict: 'right' },
  domain: { main: 'www.moor.example', forceHttps: false },
  ttlSeconds: 86_400,
  recordsToChange: 2,
};
const MOVED: MoveFacts = {
  ...READY,
  domain: { main: 'www.moor.example', forceHttps: true },
  ttlSeconds: 3600,
  recordsToChange: 0,
  authorityNewSinceMs: NOW - 5 * HOUR,
  everyoneByMs: NOW - 2 * HOUR,
  resolvers: { all: 4, new: 4 },
  certificate: 'served',
  answersUnderName: true,
  watch: { readAtMs: NOW - HOUR, lost: 0 },
};
const of = (facts: MoveFacts, name: string, nowMs = NOW) => moveSteps(facts, nowMs).find(({ step }) => step === name);

describe('the day of the move', () => {
  it('begins with what must be fixed, and everything else waits', () => {
    expect(
      moveSteps(START, NOW)
        .map(({ step, state }) => `${step} ${state}`)
        .slice(0, 4),
    ).toEqual(['snags now', 'old-addresses waits', 'published waits', 'domain waits']);
  });

  it('has the TTL lowered a whole TTL before visitors move over', () => {
    const changeAtMs = NOW + 48 * HOUR;
    expect(of({ ...READY, changeAtMs }, 'ttl-lowered')).toMatchObject({
      state: 'now',
      byMs: changeAtMs - 24 * HOUR,
      measured: { code: 'measured.kept', parameters: { time: 86_400 } },
    });
    expect(of({ ...READY, changeAtMs }, 'ttl-lowered', changeAtMs - 10 * HOUR)?.state).toBe('late');
    expect(of({ ...READY, changeAtMs, ttlSeconds: 300 }, 'records')).toMatchObject({
      state: 'waits',
      fromMs: changeAtMs,
    });
    expect(of({ ...READY, changeAtMs, ttlSeconds: 300 }, 'records', changeAtMs)?.state).toBe('now');
  });

  it('needs no lowering where there was no record before, or all are right', () => {
    expect(of({ ...READY, ttlSeconds: undefined }, 'ttl-lowered')?.state).toBe('unneeded');
    expect(of({ ...READY, recordsToChange: 0 }, 'ttl-lowered')?.state).toBe('unneeded');
  });

  it('waits until the last old answer has run out, before the old host may go', () => {
    const spreading = { ...MOVED, everyoneByMs: NOW + HOUR, answersUnderName: true };
    expect(of(spreading, 'spread')).toMatchObject({ state: 'waits', fromMs: NOW + HOUR });
    expect(of(spreading, 'old-host')).toMatchObject({ state: 'waits', fromMs: NOW + HOUR });
    expect(of(MOVED, 'old-host')?.state).toBe('done');
  });

  it('is over when everything was measured', () =>
    expect(moveSteps(MOVED, NOW).filter(({ state }) => state !== 'done' && state !== 'unneeded')).toEqual([]));

  it('a site found otherwise than published is not live as it should be', () =>
    expect(of({ ...MOVED, live: { number: 3, verdict: 'wrong' } }, 'published')?.state).toBe('now'));

  it('has its steps in one order, and at most one of them to do (property)', () => {
    const maybe = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined });
    const near = fc.integer({ min: -50, max: 50 }).map((hours) => NOW + hours * HOUR);
    const facts = fc.record({
      mustFix: fc.nat(2),
      oldAddresses: fc.constantFrom({ all: 3, settled: 3 }, { all: 3, settled: 1 }),
      live: maybe(fc.constant({ number: 1, verdict: 'right' as const })),
      domain: maybe(fc.record({ main: fc.constant('a.example'), forceHttps: fc.boolean() })),
      ttlSeconds: maybe(fc.constantFrom(60, 300, 3600)),
      recordsToChange: maybe(fc.nat(2)),
      authorityNewSinceMs: maybe(near),
      everyoneByMs: maybe(near),
      resolvers: fc.constant({ all: 2, new: 1 }),
      certificate: fc.constantFrom('none' as const, 'served' as const),
      answersUnderName: maybe(fc.boolean()),
      watch: fc.record({ readAtMs: maybe(near), lost: fc.nat(1) }),
      changeAtMs: maybe(near),
    });
    fc.assert(
      fc.property(facts, (given) => {
        const steps = moveSteps(given, NOW);
        expect(steps.map(({ step }) => step)).toEqual([...MOVE_STEPS]);
        expect(steps.filter(({ state }) => state === 'now' || state === 'late').length).toBeLessThanOrEqual(1);
        const first = steps.findIndex(({ state }) => state !== 'done' && state !== 'unneeded');
        expect(
          steps.slice(0, first < 0 ? undefined : first).every(({ state }) => state === 'done' || state === 'unneeded'),
        ).toBe(true);
      }),
    );
  });
});
