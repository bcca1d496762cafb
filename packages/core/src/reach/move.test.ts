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

/** Every step as `name state measured from by`, times in hours from now. */
const all = (facts: MoveFacts) =>
  moveSteps(facts, NOW).map(({ step, state, measured, fromMs, byMs }) => {
    const hours = (at: number | undefined) => (at === undefined ? '-' : String((at - NOW) / HOUR));
    const found = [measured.code.replace('measured.', ''), ...Object.values(measured.parameters)].join(' ');
    return `${step} ${state}: ${found}; ${hours(fromMs)} ${hours(byMs)}`;
  });

describe('every step of a move', () => {
  it('of which nothing was measured', () => {
    expect(all(START)).toEqual([
      'snags now: to-fix 2; - -',
      'old-addresses waits: settled 10 4; - -',
      'published waits: not-published; - -',
      'domain waits: no-domain; - -',
      'ttl-lowered waits: no-answer; - -',
      'records waits: records-not-looked-at; - -',
      'spread waits: servers-give-old; - -',
      'certificate waits: certificate none; - -',
      'own-name waits: not-asked; - -',
      'watched waits: log-not-read; - -',
      'old-host waits: not-before-last-answer; - -',
      'ttl-raised waits: no-answer; - -',
    ]);
  });

  it('that is ready, for a day that was chosen', () => {
    expect(all({ ...READY, changeAtMs: NOW + 48 * HOUR })).toEqual([
      'snags done: nothing-to-fix; - -',
      'old-addresses done: settled 10 10; - -',
      'published done: published 1 right; - -',
      'domain done: domain www.moor.example; - -',
      'ttl-lowered now: kept 86400; - 24',
      'records waits: records-to-change 2; 48 -',
      `spread waits: servers-give-old; ${48 + 300 / 3600} -`,
      'certificate waits: certificate none; - -',
      'own-name waits: not-asked; - -',
      'watched waits: log-not-read; - -',
      `old-host waits: not-before-last-answer; ${48 + 300 / 3600} -`,
      'ttl-raised waits: kept 86400; - -',
    ]);
  });

  it('whose TTL was not lowered in time is late, and a day that is past counts as now', () => {
    expect(all({ ...READY, changeAtMs: NOW + 23 * HOUR })[4]).toBe('ttl-lowered late: kept 86400; - -1');
    expect(all({ ...READY, changeAtMs: NOW + 24 * HOUR })[4]).toBe('ttl-lowered now: kept 86400; - 0');
    expect(all({ ...READY, changeAtMs: NOW - 9 * HOUR })[6]).toBe('spread waits: servers-give-old; 24 -');
    expect(all({ ...READY, ttlSeconds: 300 })[4]).toBe('ttl-lowered done: kept 300; - -');
    expect(all({ ...READY, ttlSeconds: 301 })[4]).toBe('ttl-lowered now: kept 301; - -');
    expect(all({ ...READY, ttlSeconds: 300, changeAtMs: NOW + HOUR })[5]).toBe(
      'records waits: records-to-change 2; 1 -',
    );
    expect(all({ ...READY, ttlSeconds: 300, changeAtMs: NOW })[5]).toBe('records now: records-to-change 2; 0 -');
  });

  it('that is over', () => {
    expect(all(MOVED)).toEqual([
      'snags done: nothing-to-fix; - -',
      'old-addresses done: settled 10 10; - -',
      'published done: published 1 right; - -',
      'domain done: domain www.moor.example; - -',
      'ttl-lowered unneeded: kept 3600; - -',
      'records done: records-as-needed; - -',
      'spread done: resolvers 4 4; -2 -',
      'certificate done: certificate-served yes; - -',
      'own-name done: answers-so; - -',
      'watched done: nothing-lost; -2 -',
      'old-host done: last-answer-over; -2 -',
      'ttl-raised done: kept 3600; -2 -',
    ]);
  });

  it.each<[string, Partial<MoveFacts>, number, string]>([
    ['without old addresses', { oldAddresses: { all: 0, settled: 0 } }, 1, 'old-addresses done: no-old-addresses; - -'],
    ['found wrong', { live: { number: 3, verdict: 'wrong' } }, 2, 'published now: published 3 wrong; - -'],
    ['found noted', { live: { number: 3, verdict: 'noted' } }, 2, 'published done: published 3 right; - -'],
    ['not asked for', { live: { number: 3, verdict: undefined } }, 2, 'published now: published 3 unasked; - -'],
    ['without https', { domain: { main: 'm', forceHttps: false } }, 7, 'certificate now: certificate-served no; - -'],
    ['without a certificate', { certificate: 'expired' }, 7, 'certificate now: certificate expired; - -'],
    ['that answers not so', { answersUnderName: false }, 8, 'own-name now: answers-not-so; - -'],
    ['with lost visitors', { watch: { readAtMs: NOW, lost: 3 } }, 9, 'watched now: lost 3; -2 -'],
    ['read too early', { watch: { readAtMs: NOW - 3 * HOUR, lost: 0 } }, 9, 'watched now: nothing-lost; -2 -'],
    ['read just then', { watch: { readAtMs: NOW - 2 * HOUR, lost: 0 } }, 9, 'watched done: nothing-lost; -2 -'],
    ['still reaching everyone', { everyoneByMs: NOW + HOUR }, 6, 'spread waits: resolvers 4 4; 1 -'],
    ['reaching everyone now', { everyoneByMs: NOW }, 6, 'spread done: resolvers 4 4; 0 -'],
    ['whose old host is still asked', { everyoneByMs: NOW + HOUR }, 10, 'old-host waits: answers-still-kept; 1 -'],
    ['whose TTL is short', { ttlSeconds: 3599 }, 11, 'ttl-raised now: kept 3599; -2 -'],
    ['without an answer', { ttlSeconds: undefined }, 11, 'ttl-raised now: no-answer; -2 -'],
    ['with no record before', { recordsToChange: 1, ttlSeconds: undefined }, 4, 'ttl-lowered unneeded: no-answer; - -'],
  ])('%s', (_, facts, at, expected) => expect(all({ ...MOVED, ...facts })[at]).toBe(expected));
});
