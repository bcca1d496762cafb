/** Work that comes due: slow work delays nobody else. */
import { pino } from 'pino';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { startSchedule, type Schedule } from './schedule.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

const log = pino({ level: 'silent' });

/** Sites that are due whenever they are asked for, each of which ends when the test says so. */
function sitesDue(due: string[], more: Partial<Schedule<string>> = {}) {
  const began: string[] = [];
  const ends = new Map<string, () => void>();
  const asked: number[] = [];
  const schedule = startSchedule<string>(
    {
      name: 'looking',
      everyMs: 1000,
      atOnce: 2,
      withinMs: 10_000,
      claim: (most) => {
        asked.push(most);
        return Promise.resolve(due.splice(0, most));
      },
      keyOf: (site) => site,
      work: (site) => {
        began.push(site);
        return new Promise((resolve) => ends.set(site, resolve));
      },
      ...more,
    },
    log,
  );
  return { schedule, began, ends, asked };
}

it('begins what is due beside what is slow, as long as there are places', async () => {
  const { began, ends } = sitesDue(['slow', 'b', 'c', 'd']);
  await vi.advanceTimersByTimeAsync(1000);
  expect(began).toEqual(['slow', 'b']);
  await vi.advanceTimersByTimeAsync(3000);
  expect(began).toEqual(['slow', 'b']);
  ends.get('b')?.();
  await vi.advanceTimersByTimeAsync(1000);
  expect(began).toEqual(['slow', 'b', 'c']);
  ends.get('c')?.();
  await vi.advanceTimersByTimeAsync(1000);
  expect(began).toEqual(['slow', 'b', 'c', 'd']);
});

it('gives a place to another when its time is over, and takes it back only once', async () => {
  const { began, ends, asked } = sitesDue(['slow', 'b', 'c', 'd', 'e'], { atOnce: 1 });
  await vi.advanceTimersByTimeAsync(12_000);
  expect(began).toEqual(['slow', 'b']);
  // The slow one ends after all: its place was given back before.
  ends.get('slow')?.();
  await vi.advanceTimersByTimeAsync(1000);
  expect(began).toEqual(['slow', 'b']);
  ends.get('b')?.();
  await vi.advanceTimersByTimeAsync(1000);
  expect(began).toEqual(['slow', 'b', 'c']);
  expect(Math.max(...asked)).toBe(1);
});

it('does not begin again what is under way', async () => {
  const { began, ends } = sitesDue(['a', 'a', 'a'], { atOnce: 3 });
  await vi.advanceTimersByTimeAsync(5000);
  expect(began).toEqual(['a']);
  ends.get('a')?.();
});

it('goes on after one that fails, and after a claim that fails', async () => {
  const due = ['bad', 'good'];
  let claims = 0;
  const { began } = sitesDue([], {
    atOnce: 1,
    claim: () => {
      claims += 1;
      return claims === 1 ? Promise.reject(new Error('away')) : Promise.resolve(due.splice(0, 1));
    },
    work: (site) => {
      began.push(site);
      return site === 'bad' ? Promise.reject(new Error('broken')) : Promise.resolve();
    },
  });
  await vi.advanceTimersByTimeAsync(5000);
  expect(began).toEqual(['bad', 'good']);
});

it('waits for what is under way when it is stopped, and begins nothing more', async () => {
  const { schedule, began, ends } = sitesDue(['a', 'b'], { atOnce: 1 });
  await vi.advanceTimersByTimeAsync(1000);
  let isStopped = false;
  const stopped = schedule.stop().then(() => {
    isStopped = true;
  });
  await vi.advanceTimersByTimeAsync(5000);
  expect(isStopped).toBe(false);
  ends.get('a')?.();
  await stopped;
  expect(began).toEqual(['a']);
});

it('tells when a look from now on has ended, with all it began', async () => {
  const due: string[] = [];
  const { schedule, ends } = sitesDue(due);
  await vi.advanceTimersByTimeAsync(2000);
  due.push('a');
  let isOver = false;
  const over = schedule.ranAgain().then(() => {
    isOver = true;
  });
  await vi.advanceTimersByTimeAsync(3000);
  expect(isOver).toBe(false);
  ends.get('a')?.();
  await over;
  expect(isOver).toBe(true);
});
