/** Suggestions for many old addresses, telling how far it is. */
import type { MessagePort } from 'node:worker_threads';
import { matchSteps, type Match, type NewPage, type OldPage, type Settled } from '@fastigium/core/redirects/matching';

export interface MatchRequest {
  readonly olds: readonly OldPage[];
  readonly pages: readonly NewPage[];
  readonly settled: readonly Settled[];
  /** Gets how much is done, from 0 to 1. */
  readonly port: MessagePort;
}

export function matchAddresses({ olds, pages, settled, port }: MatchRequest): readonly Match[] {
  try {
    const steps = matchSteps(olds, pages, settled);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      port.postMessage(step.value);
    }
  } finally {
    port.close();
  }
}
