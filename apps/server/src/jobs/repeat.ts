/** Work that is done again and again, one run at a time. */
import type { Logger } from 'pino';

export interface Repeated {
  /** Ends with the run that is under way. */
  stop(): Promise<void>;
  /** Until a run that begins from now on has ended, and what it began: then what was due was done. */
  ranAgain(): Promise<void>;
}

/** @param name what failed, for the log: a run that fails is followed by the next one all the same */
export function repeat(everyMs: number, run: () => Promise<void>, log: Logger, name: string): Repeated {
  let running: Promise<void> | undefined;
  let waiting: (() => void)[] = [];
  const timer = setInterval(() => {
    if (running) return;
    const resolveWaiting = waiting;
    waiting = [];
    running = run()
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
    ranAgain: () => new Promise((resolve) => waiting.push(resolve)),
  };
}
