/**
 * Everything a person decides about a site, as data. The draft is the imported files plus these
 * decisions in their order; nothing else changes it. Decisions are only ever appended: taking one
 * back is a decision too, so the history is whole and redo is undoing an undo.
 */
import type { Redirect } from '../redirects/index.ts';

/** A page's lasting identity; the server gives UUIDs. */
export type PageId = string;

export type Decision =
  | { readonly kind: 'title'; readonly page: PageId; readonly title: string }
  | {
      readonly kind: 'home';
      readonly page: PageId;
      /**
       * The page that stood at "/" in the import, where there was one, and where it lives while
       * another page is home. It may be the new home itself; then it is back where it was.
       */
      readonly importedHome: { readonly page: PageId; readonly address: string } | undefined;
    }
  | { readonly kind: 'redirect'; readonly redirect: Redirect }
  | { readonly kind: 'redirect-removed'; readonly from: string }
  /** `/museum`: the site is published under that path; empty: at the root. */
  | { readonly kind: 'base-path'; readonly path: string }
  | { readonly kind: 'undo'; readonly of: number };

export interface RecordedDecision {
  /** Position in the site's history, from 1, without gaps. */
  readonly seq: number;
  readonly decision: Decision;
}

/** The decisions that count: those not undone, where an undo that was itself undone does not count. */
export function activeDecisions(history: readonly RecordedDecision[]): RecordedDecision[] {
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
export function stepsAvailable(history: readonly RecordedDecision[]): StepsAvailable {
  const done: number[] = [];
  const forward: number[] = [];
  const bySeq = new Map(history.map((recorded) => [recorded.seq, recorded.decision]));
  for (const { seq, decision } of history) {
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
