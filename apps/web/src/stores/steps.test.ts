/** Steps one after another, and what is out of date. */
import { expect, it } from 'vitest';
import { watch } from 'vue';
import { createFreshness, TOPICS } from './freshness.ts';
import { createSteps } from './steps.ts';

/** Ends when the test says so. */
function held<T>(): { promise: Promise<T>; end: (value: T) => void; fail: (error: Error) => void } {
  let end = (_value: T) => {};
  let fail = (_error: Error) => {};
  const promise = new Promise<T>((resolve, reject) => {
    [end, fail] = [resolve, reject];
  });
  return { promise, end, fail };
}
const settle = () => new Promise((resolve) => setTimeout(resolve));

it('a step begins when the one before has been answered, also where that failed', async () => {
  const steps = createSteps();
  const [first, second] = [held<number>(), held<number>()];
  const began: string[] = [];
  const begin = (name: string, work: Promise<number>) => () => {
    began.push(name);
    return work;
  };
  const one = steps.inTurn(begin('one', first.promise), false);
  const two = steps.inTurn(begin('two', second.promise), false);
  await settle();
  expect([began, steps.isBusy.value]).toEqual([['one'], true]);
  first.fail(new Error('refused'));
  await expect(one).rejects.toThrow('refused');
  await settle();
  expect(began).toEqual(['one', 'two']);
  second.end(2);
  expect(await two).toBe(2);
  expect(steps.isBusy.value).toBe(false);
});

it('one that depends on what is shown waits for what shows the last, and for readings under way', async () => {
  const steps = createSteps();
  const [shown, reading] = [held<void>(), held<void>()];
  let began = 0;
  steps.showing(shown.promise);
  const quick = steps.inTurn(() => Promise.resolve((began += 1)), false);
  expect(await quick).toBe(1);
  const slow = steps.inTurn(() => Promise.resolve((began += 1)), true);
  await settle();
  expect(began).toBe(1);
  steps.noteReading(reading.promise);
  shown.end();
  await settle();
  expect(began).toBe(1);
  // A reading that failed was told by whoever read; it holds nobody up.
  reading.fail(new Error('away'));
  expect(await slow).toBe(2);
});

it('what is out of date has a newer version, by its topic alone', () => {
  const { versions, outdate } = createFreshness();
  const seen: number[] = [];
  watch(
    () => versions.watch,
    (version) => seen.push(version),
    { flush: 'sync' },
  );
  outdate('draft');
  outdate('watch');
  outdate('watch');
  expect(seen).toEqual([1, 2]);
  expect(TOPICS.filter((topic) => versions[topic] > 0)).toEqual(['draft', 'watch']);
});
