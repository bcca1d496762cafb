import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { useReadAgain, useReadAtEase } from './readAgain.ts';

vi.mock('./site.ts', () => ({ useSite: () => ({ id: 'a site', versions: { draft: 0 }, noteReading: () => {} }) }));
vi.mock('./notices.ts', () => ({ useNotices: () => ({ problem: vi.fn() }) }));

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

it('reads one at a time, not while what was changed shows by itself, and again where it was outdated', async () => {
  const reason = ref(0);
  const running: ((isNew: boolean) => void)[] = [];
  let readings = 0;
  const scope = effectScope();
  const postpone = scope.run(() =>
    useReadAtEase(
      () => {
        readings += 1;
        return new Promise((resolve) => running.push(resolve));
      },
      [() => reason.value],
      1000,
    ),
  );
  const changed = async () => {
    reason.value += 1;
    await nextTick();
  };
  const done = async (isNew = true) => {
    running.shift()?.(isNew);
    await vi.advanceTimersByTimeAsync(0);
  };
  await nextTick();
  expect(readings).toBe(1);
  await changed();
  await changed();
  expect(readings).toBe(1);
  await done();
  expect(readings).toBe(2);
  await done(false);
  expect(readings).toBe(3);
  await done();
  postpone?.();
  await changed();
  expect(readings).toBe(3);
  await vi.advanceTimersByTimeAsync(900);
  postpone?.();
  await vi.advanceTimersByTimeAsync(900);
  expect(readings).toBe(3);
  await vi.advanceTimersByTimeAsync(200);
  expect(readings).toBe(4);
  scope.stop();
});

it('a reading asked for while another is under way comes after it, once, and what it brings is what is shown', async () => {
  const reason = ref(0);
  const running: ((value: number) => void)[] = [];
  let shown = 0;
  const scope = effectScope();
  scope.run(() =>
    useReadAgain(async () => {
      shown = await new Promise<number>((resolve) => running.push(resolve));
    }, [() => reason.value]),
  );
  const changed = async () => {
    reason.value += 1;
    await nextTick();
  };
  await changed();
  await changed();
  expect(running).toHaveLength(1);
  running[0]?.(1);
  await vi.advanceTimersByTimeAsync(0);
  expect([shown, running.length]).toEqual([1, 2]);
  running[1]?.(2);
  await vi.advanceTimersByTimeAsync(0);
  expect([shown, running.length]).toEqual([2, 2]);
  scope.stop();
});
