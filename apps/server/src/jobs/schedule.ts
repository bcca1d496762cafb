/**
 * Work that comes due by itself. Each kind has a schedule of its own, with places of its own and a time for each: what is
 * slow takes one place of its kind, and nobody else waits for it.
 */
import type { Logger } from 'pino';
import { repeat, type Repeated } from './repeat.ts';

export interface Schedule<T> {
  /** What is done, for the log. */
  readonly name: string;
  /** How often it is looked for. */
  readonly everyMs: number;
  readonly atOnce: number;
  /** After which its place is another's. It may still end, and is waited for when the server stops. */
  readonly withinMs: number;
  /** Takes what is due, so that no other process takes the same; at most so many. */
  claim(most: number): Promise<readonly T[]>;
  /** What is under way is not begun again, though it came due again. */
  keyOf(item: T): string;
  work(item: T): Promise<void>;
}

export function startSchedule<T>(schedule: Schedule<T>, log: Logger): Repeated {
  const underWay = new Map<string, Promise<void>>();
  let free = schedule.atOnce;

  /** Gives its place back once, when it ends or its time is over. */
  function begin(item: T): void {
    const key = schedule.keyOf(item);
    free -= 1;
    let isHeld = true;
    const giveBack = () => {
      if (isHeld) free += 1;
      isHeld = false;
    };
    const patience = setTimeout(() => {
      log.warn({ key }, `${schedule.name} takes too long`);
      giveBack();
    }, schedule.withinMs);
    const running = schedule
      .work(item)
      .catch((error: unknown) => log.warn({ err: error, key }, `${schedule.name} failed`))
      .finally(() => {
        clearTimeout(patience);
        underWay.delete(key);
        giveBack();
      });
    underWay.set(key, running);
  }

  const repeated = repeat(
    schedule.everyMs,
    async () => {
      if (free <= 0) return;
      for (const item of await schedule.claim(free)) if (!underWay.has(schedule.keyOf(item))) begin(item);
    },
    log,
    schedule.name,
  );
  return {
    async stop() {
      await repeated.stop();
      await Promise.all(underWay.values());
    },
    async ranAgain() {
      await repeated.ranAgain();
      await Promise.all(underWay.values());
    },
  };
}
