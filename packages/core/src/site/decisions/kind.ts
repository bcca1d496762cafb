/** What a kind of decision is: what it says, what it sets, and what it does to the draft. */
import type { MutableDraft } from '../draft.ts';
import type { Folding } from '../folding.ts';

/** Where in the history a decision stands while it is added up. */
export interface At {
  /** Its number, from 1. */
  readonly seq: number;
  readonly folding: Folding;
}

export interface DecisionKind<D extends { readonly kind: string }> {
  /**
   * Keys of what it sets. Two decisions with a key in common speak of the same thing, and whoever made the later one
   * has to have seen the earlier one. EVERYTHING is a key in common with all others.
   *
   * @param ofStep keys of an earlier decision, by its number
   */
  subjects(decision: D, ofStep: (seq: number) => readonly string[]): readonly string[];
  apply(draft: MutableDraft, decision: D, at: At): void;
  /** It happened rather than was decided: it cannot be taken back, and what came before it still can. */
  readonly isFact?: true;
  /** It settles or opens old addresses, which teaches about those that are open. */
  readonly settlesAddresses?: true;
  /** After it something is kept until another day than before. */
  readonly changesKeeping?: true;
}

/** A definition of each kind in a union of decisions. */
export type KindsOf<D extends { readonly kind: string }> = {
  readonly [K in D['kind']]: DecisionKind<Extract<D, { readonly kind: K }>>;
};

export const EVERYTHING = '*';

export function setMember<T>(set: Set<T>, member: T, isIn: boolean): void {
  if (isIn) set.add(member);
  else set.delete(member);
}
