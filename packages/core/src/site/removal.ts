/**
 * What is taken out of a site, and how it stands while it is away. Nothing is ever cut out of the draft:
 * what is removed keeps its place, its settings and its neighbours, and is passed over. So putting back
 * is no reconstruction, whatever was changed around it meanwhile.
 */
import type { MenuItem } from '../menus/index.ts';
import type { Redirect } from '../redirects/index.ts';
import type { SectionRef } from '../touches/index.ts';
import type { Addresses, HomeChoice, Place } from './nodes.ts';
import type { PageId } from './pageId.ts';

/** What a removal takes out. */
export type RemovedThing =
  /** Pages, groups and outside links, in tree order: one alone, or a branch with all it holds. */
  | { readonly kind: 'nodes'; readonly nodes: readonly PageId[] }
  | { readonly kind: 'section'; readonly page: PageId; readonly section: SectionRef }
  /** A file that is no page, by its path in the site, `documents/guide.pdf`. */
  | { readonly kind: 'file'; readonly path: string }
  /** An item of a menu with all below it; it stays in the menu's items, marked. */
  | { readonly kind: 'menu-item'; readonly menu: string; readonly label: string }
  /** Old addresses by their normal form, and patterns by their id. */
  | { readonly kind: 'redirects'; readonly froms: readonly string[]; readonly patterns: readonly string[] };

/** Where the addresses of what is removed lead as long as it is away. */
export type StandIn =
  | { readonly kind: 'page'; readonly page: PageId }
  | { readonly kind: 'home' }
  /** Answered with 410, gone for good (RFC 9110, section 15.5.11). */
  | { readonly kind: 'gone' }
  /** Nothing answers. */
  | { readonly kind: 'none' };

/** Links of other pages to what is removed: as they are, straight to where its address leads, or words without a link. */
export const LINK_TREATMENTS = ['kept', 'lead-on', 'unlinked'] as const;
export type LinkTreatment = (typeof LINK_TREATMENTS)[number];

export interface Removal {
  /** The number of the decision that removed it; removals are known by it. */
  readonly seq: number;
  /** By the world's clock, in milliseconds since 1970. */
  readonly atMs: number;
  readonly thing: RemovedThing;
  readonly why: string;
  readonly standIn: StandIn;
  readonly links: LinkTreatment;
  /** Of nodes: those not put back yet, in tree order. */
  readonly left: readonly PageId[];
  /** Of redirects: as they were. */
  readonly redirects: readonly { readonly redirect: Redirect; readonly settledIn: number }[];
  /** Why no sweep may take it, and the decision that said so. */
  readonly held: { readonly reason: string; readonly seq: number } | undefined;
}

/** What puts back of a removal: all of it, or some of its nodes. */
export interface PutBackThing {
  readonly of: number;
  readonly nodes?: readonly PageId[];
}

export interface Removed {
  readonly kind: 'removed';
  readonly thing: RemovedThing;
  /** By the world's clock, in milliseconds since 1970: how long it is kept counts from here. */
  readonly atMs: number;
  readonly why: string;
  readonly standIn: StandIn;
  readonly links: LinkTreatment;
  /** The page that takes over where the home page is among what is removed. */
  readonly home?: HomeChoice;
  /** Of a menu item: the menu with the item marked as removed. */
  readonly menu?: { readonly items: readonly MenuItem[]; readonly whereItDiffers: boolean };
}

export interface PutBack {
  readonly kind: 'put-back';
  readonly things: readonly PutBackThing[];
  /** Where something comes to stand elsewhere than where it was. */
  readonly places: readonly { readonly node: PageId; readonly place: Place }[];
  /** Of pages whose own address somebody else has by now, or who make room for them. */
  readonly addresses: Addresses;
  /** Old addresses settled meanwhile that pages answer themselves again. */
  readonly unsettled: readonly string[];
  readonly home?: HomeChoice;
}

/**
 * Removed for good, with where their addresses lead from now on, and where pages stood, so that neighbours keep their
 * order. A fact: what was in them is deleted.
 */
export interface Swept {
  readonly kind: 'swept';
  readonly of: readonly number[];
  readonly redirects: readonly Redirect[];
  readonly stood: Addresses;
}

/** By name and number, as sections are told apart. */
export function keySection({ name, nth }: SectionRef): string {
  return `${nth} ${name}`;
}
