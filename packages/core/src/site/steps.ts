/** One step back and one step forward. */
import { isFact, type RecordedDecision } from './decisions.ts';

export interface StepsAvailable {
  /** The decision that "one step back" would undo. */
  readonly undo: number | undefined;
  /** The undo that "one step forward" would undo. */
  readonly redo: number | undefined;
}

/**
 * The next step back and forward, as in an editor: undo walks back over the decisions, redo walks
 * forward over what was undone last, and a new decision ends the way forward.
 */
export function findStepsAvailable(history: readonly RecordedDecision[]): StepsAvailable {
  const done: number[] = [];
  const forward: number[] = [];
  const bySeq = new Map(history.map((recorded) => [recorded.seq, recorded.decision]));
  for (const { seq, decision } of history) {
    // Nobody decided it, so there is no step to take back; what came before it still can be.
    if (isFact(decision)) continue;
    if (decision.kind !== 'undo') {
      done.push(seq);
      forward.length = 0;
      continue;
    }
    const undone = bySeq.get(decision.of);
    if (undone?.kind === 'undo') {
      const at = forward.lastIndexOf(decision.of);
      if (at >= 0) forward.splice(at, 1);
      done.push(undone.of);
    } else {
      const at = done.lastIndexOf(decision.of);
      if (at >= 0) done.splice(at, 1);
      forward.push(seq);
    }
  }
  return { undo: done.at(-1), redo: forward.at(-1) };
}
