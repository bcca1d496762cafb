/** Taking a decision back. */
import type { KindsOf } from './kind.ts';

export interface StepDecision {
  readonly kind: 'undo';
  /** The number of the decision that is taken back, which may be an undo itself. */
  readonly of: number;
}

export const stepKinds: KindsOf<StepDecision> = {
  undo: {
    changesKeeping: true,
    subjects: ({ of: undone }, ofStep) => [`step ${undone}`, ...ofStep(undone)],
    // Which decisions count is known before they are added up.
    apply: () => undefined,
  },
};
