/** Adding up a history of decisions. */
import { activeDecisions, kindOf, type RecordedDecision } from './decisions.ts';
import { fresh, type Draft } from './draft.ts';
import { freshFolding } from './folding.ts';
import { settleMenus } from './removals.ts';

/** Adds up a history. The same history gives the same draft, on whatever machine. */
export function foldDecisions(history: readonly RecordedDecision[]): Draft {
  const draft = fresh();
  const folding = freshFolding();
  for (const { seq, decision } of activeDecisions(history)) kindOf(decision).apply(draft, decision, { seq, folding });
  settleMenus(draft, folding);
  return draft;
}
