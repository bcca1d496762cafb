/** Adding a history up. */
import type { HomeChange, HomeReturns } from './home.ts';

/** What is remembered on the way and is no part of the draft. */
export interface Folding {
  readonly homeReturns: HomeReturns;
  /** By the removal that made another page home. */
  readonly homeChanges: Map<number, HomeChange>;
  /** Of all patterns, the removed ones in their places. */
  patternOrder: Set<string>;
  /** Menus as they were imported, by id, where a removal was the first to change one. */
  readonly undecidedMenus: Map<string, string>;
  readonly swept: Set<number>;
}

export const createFolding = (): Folding => ({
  homeReturns: { to: undefined },
  homeChanges: new Map(),
  patternOrder: new Set(),
  undecidedMenus: new Map(),
  swept: new Set(),
});
