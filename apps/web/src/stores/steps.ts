/**
 * Steps of one person, one after another: each begins when the one before has been answered, in the order they were asked
 * for, and one that depends on what is shown begins when screens show what the last one made.
 */
import { computed, nextTick, ref, type ComputedRef } from 'vue';

export interface Steps {
  /** @param waits whether it depends on what is shown */
  inTurn<T>(step: () => Promise<T>, waits: boolean): Promise<T>;
  /** What shows the step that was just made; others wait for it. */
  showing(work: Promise<unknown>): void;
  /** Until what was made last is shown. */
  shown(): Promise<unknown>;
  /** Keeps a reading in mind, so that a step that depends on what is shown waits for it. */
  noteReading(reading: Promise<unknown>): void;
  readonly isBusy: ComputedRef<boolean>;
}

export function createSteps(): Steps {
  /** The last step of the queue. */
  let turn: Promise<unknown> = Promise.resolve();
  let shown: Promise<unknown> = Promise.resolve();
  const waiting = ref(0);
  /** Readings of what screens show that are under way. */
  const readings = new Set<Promise<unknown>>();

  async function settled(): Promise<void> {
    await shown;
    await nextTick();
    while (readings.size > 0) await Promise.allSettled([...readings]);
  }

  return {
    inTurn(step, waits) {
      waiting.value += 1;
      const mine = turn
        .then(async () => {
          if (waits) await settled();
          return step();
        })
        .finally(() => (waiting.value -= 1));
      turn = mine.catch(() => {});
      return mine;
    },
    showing(work) {
      shown = work;
    },
    shown: () => shown,
    noteReading(reading) {
      readings.add(reading);
      const forget = () => readings.delete(reading);
      // Whoever reads says what went wrong with it.
      reading.then(forget, forget);
    },
    isBusy: computed(() => waiting.value > 0),
  };
}
