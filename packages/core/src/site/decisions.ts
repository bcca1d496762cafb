/**
 * Everything a person decides about a site, as data. The draft is the imported files plus these
 * decisions in their order; nothing else changes it. Decisions are only ever appended: taking one
 * back is a decision too, so the history is whole and redo is undoing an undo.
 *
 * What a kind says, sets and does is defined in its folder (`decisions/`) and registered here.
 */
import { addressKinds, type AddressDecision } from './decisions/addresses.ts';
import { exportKinds, type ExportDecision } from './decisions/exports.ts';
import { headKinds, type HeadDecision } from './decisions/head.ts';
import type { DecisionKind, KindsOf } from './decisions/kind.ts';
import { listKinds, type ListDecision } from './decisions/lists.ts';
import { pageKinds, type PageDecision } from './decisions/pages.ts';
import { redirectKinds, type RedirectDecision } from './decisions/redirects.ts';
import { removalKinds, type RemovalDecision } from './decisions/removals.ts';
import { stepKinds, type StepDecision } from './decisions/steps.ts';
import { touchKinds, type TouchDecision } from './decisions/touches.ts';
import { treeKinds, type TreeDecision } from './decisions/tree.ts';
import { visitorKinds, type VisitorDecision } from './decisions/visitors.ts';

export type Decision =
  | AddressDecision
  | ExportDecision
  | HeadDecision
  | ListDecision
  | PageDecision
  | RedirectDecision
  | RemovalDecision
  | StepDecision
  | TouchDecision
  | TreeDecision
  | VisitorDecision;

const KINDS: KindsOf<Decision> = {
  ...addressKinds,
  ...exportKinds,
  ...headKinds,
  ...listKinds,
  ...pageKinds,
  ...redirectKinds,
  ...removalKinds,
  ...stepKinds,
  ...touchKinds,
  ...treeKinds,
  ...visitorKinds,
};

/** The definition of a decision's kind, which takes decisions of that kind. */
export function findDecisionKind<K extends Decision['kind']>(decision: {
  readonly kind: K;
}): DecisionKind<Extract<Decision, { readonly kind: K }>> {
  return KINDS[decision.kind] as unknown as DecisionKind<Extract<Decision, { readonly kind: K }>>;
}

export interface RecordedDecision {
  /** Position in the site's history, from 1, without gaps. */
  readonly seq: number;
  readonly decision: Decision;
}

/** What happened rather than was decided: it cannot be taken back, and what came before it still can. */
export function isFact(decision: Pick<Decision, 'kind'>): boolean {
  return findDecisionKind(decision).isFact === true;
}

/** The decisions that count: those not undone, where an undo that was itself undone does not count. */
export function filterActiveDecisions(history: readonly RecordedDecision[]): RecordedDecision[] {
  const undone = new Set<number>();
  const active: RecordedDecision[] = [];
  for (let i = history.length - 1; i >= 0; i -= 1) {
    const recorded = history[i];
    if (recorded === undefined || undone.has(recorded.seq)) continue;
    if (recorded.decision.kind === 'undo') undone.add(recorded.decision.of);
    else active.push(recorded);
  }
  return active.reverse();
}
