/** Work that is looked for again and again, one look at a time. */
import type { Logger } from 'pino';

export interface Repeated {
  /** Ends with the look that is under way. */
  stop(): Promise<void>;
  /** Until a look that begins from now on has ended, and what it began: then what was due was done. */
  lookedAgain(): Promise<void>;
}

/** @param name what failed, for the log: a look that fails is followed by the next one all the same */
export function repeat(everyMs: number, look: () => Promise<void>, log: Logger, name: string): Repeated {
  let running: Promise<void> | undefined;
  let waiting: (() => void)[] = [];
  const timer = setInterval(() => {
    if (running) return;
    const resolveWaiting = waiting;
    waiting = [];
    running = look()
      .catch((error: unknown) => log.warn({ err: error }, `${name} failed`))
      .finally(() => {
        running = undefined;
        for (const tell of resolveWaiting) tell();
      });
  }, everyMs);
  return {
    async stop() {
      clearInterval(timer);
      await running;
    },
    lookedAgain: () => new Promise((resolve) => waiting.push(resolve)),
  };
}
