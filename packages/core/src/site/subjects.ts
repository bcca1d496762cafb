/** What a decision is about: two decisions about different things can both stand, whoever makes them first. */
import { findDecisionKind, type Decision, type RecordedDecision } from './decisions.ts';
import { EVERYTHING } from './decisions/kind.ts';
import { nameRemovalSubject } from './decisions/removals.ts';

/**
 * Keys of the things a decision sets. Two with a key in common speak of the same thing, and whoever made the later
 * one has to have seen the earlier one.
 *
 * @param history to find what an undo takes back
 */
export function listSubjects(decision: Decision, history: readonly RecordedDecision[]): readonly string[] {
  return findDecisionKind(decision).subjects(decision, (seq) => listSubjectsOfStep(seq, history));
}

function listSubjectsOfStep(seq: number, history: readonly RecordedDecision[]): readonly string[] {
  const step = history.find((recorded) => recorded.seq === seq);
  // An undo takes back what came before it, so this ends.
  return step
    ? [...listSubjects(step.decision, history), ...(step.decision.kind === 'removed' ? [nameRemovalSubject(seq)] : [])]
    : [];
}

/** The first of some decisions that speaks of the same thing as another one; undefined where that one can stand beside them all. */
export function findConflict(
  decision: Decision,
  since: readonly RecordedDecision[],
  history: readonly RecordedDecision[],
): RecordedDecision | undefined {
  const subjects = new Set(listSubjects(decision, history));
  return since.find((other) =>
    listSubjects(other.decision, history).some(
      (subject) => subject === EVERYTHING || subjects.has(subject) || subjects.has(EVERYTHING),
    ),
  );
}
