/** Adding up a history of decisions. */
import { filterActiveDecisions, findDecisionKind, type RecordedDecision } from './decisions.ts';
import { createDraft, type Draft } from './draft.ts';
import { createFolding } from './folding.ts';
import { settleMenus } from './removals.ts';

/** Adds up a history. The same history gives the same draft, on whatever machine. */
export function foldDecisions(history: readonly RecordedDecision[]): Draft {
  const draft = createDraft();
  const folding = createFolding();
  for (const { seq, decision } of filterActiveDecisions(history))
    findDecisionKind(decision).apply(draft, decision, { seq, folding });
  settleMenus(draft, folding);
  return draft;
}
