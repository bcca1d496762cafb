/** A step that led something from one state to another; states are told apart as texts. */
export interface StateChange {
  readonly seq: number;
  readonly was: string;
  readonly now: string;
}

/**
 * The steps that still show: where later ones led back to a state that was there before, those between made nothing
 * other. The loops of a walk are taken out in the order they close, as in loop-erased walks.
 *
 * @param steps of one thing, in their order
 * @returns numbers of steps, in their order; none where the last state is the first one
 */
export function findLastingSteps(steps: readonly StateChange[]): number[] {
  const kept: StateChange[] = [];
  for (const step of steps) {
    if (step.was === step.now) continue;
    const from = kept.findIndex(({ was }) => was === step.now);
    if (from >= 0) kept.splice(from);
    else kept.push(step);
  }
  return kept.map(({ seq }) => seq);
}
