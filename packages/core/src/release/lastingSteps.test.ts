import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findLastingSteps, type StateChange } from './lastingSteps.ts';

/** A walk through states, one step after another. */
const walk = (states: readonly string[]): StateChange[] =>
  states.slice(1).map((now, index) => ({ seq: index + 1, was: states[index] ?? '', now }));

describe('steps that still show', () => {
  it('are those that nothing led back from', () => {
    expect(findLastingSteps(walk(['a', 'b', 'c']))).toEqual([1, 2]);
    expect(findLastingSteps(walk(['a', 'b', 'a', 'c']))).toEqual([3]);
    expect(findLastingSteps(walk(['a', 'b', 'c', 'b', 'd']))).toEqual([1, 4]);
    expect(findLastingSteps(walk(['a', 'b', 'c', 'a']))).toEqual([]);
    expect(findLastingSteps(walk(['a', 'a']))).toEqual([]);
  });

  it('lead from the first state to the last, and through none twice', () => {
    const states = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(states, (all) => {
        const steps = walk(all);
        const kept = findLastingSteps(steps).map((seq) => steps[seq - 1]);
        const passed = [all[0], ...kept.map((step) => step?.now)];
        expect(kept.map((step) => step?.was)).toEqual(passed.slice(0, -1));
        expect(passed.at(-1)).toBe(all.at(-1));
        expect(new Set(passed).size).toBe(passed.length);
      }),
    );
  });
});
