/** Taking decisions back, and doing them again. */
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import type { Message } from '@fastigium/core/messages';
import { isFact, findStepsAvailable, type Decision, type RecordedDecision } from '@fastigium/core/site';
import { foldWith, refuseSharedAddress } from './addresses.ts';
import type { Prepared, Situation } from './situation.ts';

export async function prepareUndo(situation: Situation, meantSeq: number): Promise<Prepared> {
  const { tx, site, decisions } = situation;
  const undone = new Set<number>();
  for (const { seq, decision } of [...decisions].reverse()) {
    if (decision.kind === 'undo' && !undone.has(seq)) undone.add(decision.of);
  }
  const meant = decisions.find(({ seq }) => seq === meantSeq);
  if (!meant || undone.has(meantSeq) || isFact(meant.decision)) throw new DomainError('nothing-to-undo');
  if (decisions.some(({ decision: each }) => each.kind === 'swept' && each.of.includes(meantSeq)))
    throw new DomainError('removal-swept');
  const { message } = await tx.one<{ message: DecisionMessage }>(
    'select message from decision where site_id = $1 and seq = $2',
    [site, meantSeq],
  );
  const decision: Decision = { kind: 'undo', of: meantSeq };
  // What was decided since may stand where this would go back to.
  await refuseSharedAddress(situation, foldWith(situation, decision));
  return {
    decision,
    message:
      meant.decision.kind === 'undo'
        ? decided('redone', { decision: readUndone(message) })
        : decided('undone', { decision: message }),
  };
}

/** The decision within the message of one that took it back or did it again. */
export function readUndone({ parameters }: DecisionMessage): Message {
  if ('decision' in parameters) return parameters.decision;
  throw new Error('a step back says what it took back');
}

export async function prepareStep(situation: Situation, direction: 'back' | 'forward'): Promise<Prepared> {
  const steps = findStepsAvailable(situation.decisions);
  const nextSeq = direction === 'back' ? steps.undo : steps.redo;
  if (nextSeq === undefined) throw new DomainError('nothing-to-undo');
  return prepareUndo(situation, nextSeq);
}

/** What the next steps back and forward are about, for buttons and their hints. */
export function findNextSteps(
  decisions: readonly RecordedDecision[],
  messageOf: (seq: number) => DecisionMessage | undefined,
) {
  const { undo, redo } = findStepsAvailable(decisions);
  const undoneBy = decisions.find(({ seq }) => seq === redo)?.decision;
  return {
    undo: undo === undefined ? null : (messageOf(undo) ?? null),
    redo: undoneBy?.kind === 'undo' ? (messageOf(undoneBy.of) ?? null) : null,
  };
}
