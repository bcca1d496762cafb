/** Progress of a job, written at most as often as people can read it. */
import { AsyncResource } from 'node:async_hooks';
import type { Progress } from '@fastigium/contracts/api/jobs';

const REPORT_EVERY_MS = 200;

export interface ProgressWriter {
  report(progress: Progress): void;
  /** Writes what is left, and waits for it. */
  settle(): Promise<void>;
}

/** @param keep what fails is told by whoever keeps it, since nobody waits for progress */
export function writeProgress(keep: (progress: Progress) => Promise<void>): ProgressWriter {
  let latest: Progress | undefined;
  let timer: NodeJS.Timeout | undefined;
  let writing = Promise.resolve();
  // Bound here: a handler may report from inside a transaction, whose connection is not this one's.
  const write = AsyncResource.bind(() => {
    timer = undefined;
    const progress = latest;
    latest = undefined;
    if (progress) writing = writing.then(() => keep(progress));
  });
  return {
    report(progress) {
      latest = progress;
      timer ??= setTimeout(write, REPORT_EVERY_MS);
    },
    async settle() {
      clearTimeout(timer);
      write();
      await writing;
    },
  };
}
