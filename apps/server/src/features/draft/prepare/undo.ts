/** Taking decisions back, and doing them again. */
import { DomainError } from '@fastigium/contracts/errors';
import { isFact, stepsAvailable, type Decision, type RecordedDecision } from '@fastigium/core/site';
import { draftWith, refuseSharedAddress } from './addresses.ts';
import type { Prepared, Situation } from './situation.ts';

export async function prepareUndo(situation: Situation, of: number): Promise<Prepared> {
  const { tx, site, decisions } = situation;
  const undone = new Set<number>();
  for (const { seq, decision } of [...decisions].reverse()) {
    if (decision.kind === 'undo' && !undone.has(seq)) undone.add(decision.of);
  }
  const meant = decisions.find(({ seq }) => seq === of);
  if (!meant || undone.has(of) || isFact(meant.decision)) throw new DomainError('nothing-to-undo');
  if (decisions.some(({ decision: each }) => each.kind === 'swept' && each.of.includes(of)))
    throw new DomainError('removal-swept');
  const { words } = await tx.one<{ words: string }>('select words from decision where site_id = $1 and seq = $2', [
    site,
    of,
  ]);
  const decision: Decision = { kind: 'undo', of };
  // What was decided since may stand where this would go back to.
  await refuseSharedAddress(situation, draftWith(situation, decision));
  const isRedo = meant.decision.kind === 'undo';
  return { decision, words: isRedo ? words.replace(/^Taken back: /, 'Done again: ') : `Taken back: ${words}` };
}

export async function prepareStep(situation: Situation, direction: 'back' | 'forward'): Promise<Prepared> {
  const steps = stepsAvailable(situation.decisions);
  const of = direction === 'back' ? steps.undo : steps.redo;
  if (of === undefined) throw new DomainError('nothing-to-undo');
  return prepareUndo(situation, of);
}

/** The words of the next steps back and forward, for buttons and their hints. */
export function nextSteps(decisions: readonly RecordedDecision[], words: (seq: number) => string | undefined) {
  const { undo, redo } = stepsAvailable(decisions);
  const undoneBy = decisions.find(({ seq }) => seq === redo)?.decision;
  return {
    undo: undo === undefined ? null : (words(undo) ?? null),
    redo: undoneBy?.kind === 'undo' ? (words(undoneBy.of) ?? null) : null,
  };
}
