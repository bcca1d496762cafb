/**
 * Everything a person decides about a site, as data. The draft is the imported files plus these
 * decisions in their order; nothing else changes it. Decisions are only ever appended: taking one
 * back is a decision too, so the history is whole and redo is undoing an undo.
 */
import type { Entry } from '../access/index.ts';
import type { AddressStyle } from '../address/index.ts';
import type { HeadSetting } from '../head/index.ts';
import type { MenuItem } from '../menus/index.ts';
import type { PatternRedirect, Redirect } from '../redirects/index.ts';
import type { Touch } from '../touches/index.ts';
import type { PageId } from './pageId.ts';
import type { LinkTreatment, PutBackThing, RemovedThing, StandIn } from './removal.ts';

/** What is added to the tree here and was in no import. */
export type AddedNode =
  | {
      readonly kind: 'page';
      readonly id: PageId;
      /** Its source: SHA-256 of the content and its size. */
      readonly hash: string;
      readonly sizeBytes: number;
      /** The source file whose place its links were written from. */
      readonly writtenAt: string;
      /** Inside the site, as if it stood at the root. */
      readonly address: string;
      /** The page it was made a copy of: it begins with what had been decided for that page alone. */
      readonly copyOf?: PageId;
    }
  | { readonly kind: 'group'; readonly id: PageId; readonly title: string }
  | { readonly kind: 'link'; readonly id: PageId; readonly title: string; readonly url: string };

/** A place in the tree. */
export interface Place {
  /** Null for the top. */
  readonly parent: PageId | null;
  /** The sibling before it; null for the first place. */
  readonly after: PageId | null;
}

/** A file made for the site's icon, and how pages refer to it; the page's folder is the site's. */
export interface IconFile {
  readonly path: string;
  readonly hash: string;
  readonly sizeBytes: number;
  /** `icon`, `apple-touch-icon` or `manifest`; undefined for files only the manifest names. */
  readonly relation: string | undefined;
  readonly attributes: Readonly<Record<string, string>>;
}

/** A source that stands in place of a page's file. */
export interface TakenSource {
  readonly hash: string;
  readonly sizeBytes: number;
  /** The source file whose place its links were written from. */
  readonly writtenAt: string;
  /** The release it was taken from. */
  readonly release: number;
}

/** New addresses inside the site, by page. */
export type Addresses = Readonly<Record<PageId, string>>;

/** A page that becomes home. */
export interface HomeChoice {
  readonly page: PageId;
  /**
   * The page that stood at "/" in the import, where there was one, and where it lives while
   * another page is home. It may be the new home itself; then it is back where it was.
   */
  readonly importedHome: { readonly page: PageId; readonly address: string } | undefined;
}

export type Decision =
  | { readonly kind: 'title'; readonly page: PageId; readonly title: string }
  | ({ readonly kind: 'home' } & HomeChoice)
  /** A page renamed, with all pages that move along. */
  | { readonly kind: 'address'; readonly page: PageId; readonly addresses: Addresses }
  /** A page, group or outside link put elsewhere in the tree; where its parent changed, addresses follow. */
  | { readonly kind: 'place'; readonly node: PageId; readonly place: Place; readonly addresses: Addresses }
  | {
      readonly kind: 'node-added';
      readonly node: AddedNode;
      readonly place: Place;
      /** Of a copy, since its source has the other page's. */ readonly title?: string;
      /** Old addresses that it answers itself again. */ readonly unsettled?: readonly string[];
    }
  /** A page’s text as a release had it, in place of its file’s; without a source it is the file’s again. */
  | {
      readonly kind: 'source';
      readonly page: PageId;
      readonly source: TakenSource | undefined;
      readonly title?: string;
    }
  /** Groups and outside links; what they held moves up. In histories from before removals could be put back. */
  | { readonly kind: 'node-removed'; readonly node: PageId }
  | { readonly kind: 'ready'; readonly page: PageId; readonly ready: boolean }
  | { readonly kind: 'in-menus'; readonly page: PageId; readonly shown: boolean }
  | { readonly kind: 'address-style'; readonly style: AddressStyle }
  | { readonly kind: 'asset-added'; readonly path: string; readonly hash: string; readonly sizeBytes: number }
  | { readonly kind: 'touch'; readonly touch: Touch }
  | { readonly kind: 'touch-removed'; readonly of: number }
  | {
      readonly kind: 'menu';
      readonly menu: string;
      readonly items: readonly MenuItem[];
      readonly whereItDiffers: boolean;
    }
  /** Back to the menu as it was imported. */
  | { readonly kind: 'menu-removed'; readonly menu: string }
  | { readonly kind: 'listing'; readonly page: PageId; readonly perPage: number }
  | { readonly kind: 'listing-removed'; readonly page: PageId }
  /** A newer export was applied; pages known again under another address keep the one they had. It is a fact, not a step to take back. */
  | {
      readonly kind: 'export-taken';
      readonly import: string;
      readonly former: Addresses;
      /** Removed pages the newer export has not; their sources are kept for putting back. */
      readonly kept?: readonly AddedNode[];
      /** Pages kept so before that it has again. */
      readonly again?: readonly PageId[];
    }
  /** Pages came from a running site, which answered with them at these addresses, from its root on. A fact as well. */
  | {
      readonly kind: 'crawled';
      readonly import: string;
      readonly from: Readonly<Record<PageId, readonly string[]>>;
      /** Paths of its other files, by the address each answered at where that is not its own. */ readonly files: Readonly<
        Record<string, string>
      >;
    }
  /** Metadata for the site, branches or pages; what says neither a text nor what becomes of the page's own takes back what was set there. */
  | { readonly kind: 'head'; readonly settings: readonly HeadSetting[] }
  /** Icons made from one picture, in place of all made before; none take them away. */
  | { readonly kind: 'icons'; readonly icons: readonly IconFile[] }
  | { readonly kind: 'redirect'; readonly redirect: Redirect }
  /** Many at once, in one step that can be taken back: what is settled, and addresses that are open again. */
  | {
      readonly kind: 'redirects';
      readonly redirects: readonly Redirect[];
      readonly removed: readonly string[];
      readonly patterns?: readonly { readonly id: string; readonly pattern: PatternRedirect }[];
    }
  | { readonly kind: 'redirect-removed'; readonly from: string }
  /** A new pattern behind all others, or another form of one, in its place. */
  | { readonly kind: 'pattern'; readonly id: string; readonly pattern: PatternRedirect }
  | { readonly kind: 'pattern-removed'; readonly id: string }
  /** All patterns in the order they are tried. */
  | { readonly kind: 'patterns-ordered'; readonly ids: readonly string[] }
  /** `/museum`: the site is published under that path; empty: at the root. */
  | { readonly kind: 'base-path'; readonly path: string }
  | {
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
  | {
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
  /** No sweep takes them. */
  | { readonly kind: 'removals-held'; readonly of: readonly number[]; readonly reason: string }
  | { readonly kind: 'removals-freed'; readonly of: readonly number[] }
  /** Removed for good, with where their addresses lead from now on, and where pages stood, so that neighbours keep their order. A fact: what was in them is deleted. */
  | {
      readonly kind: 'swept';
      readonly of: readonly number[];
      readonly redirects: readonly Redirect[];
      readonly stood: Addresses;
    }
  /** Who may visit the site (null) or the branch under a page; undefined takes back what was said there. */
  | { readonly kind: 'entry'; readonly place: PageId | null; readonly entry: Entry | undefined }
  /** The page visitors see where nobody may visit yet, or the site has come down. */
  | { readonly kind: 'shown-instead'; readonly page: PageId | undefined }
  /** The last day the site can be visited, in UTC. */
  | { readonly kind: 'last-day'; readonly day: string | undefined }
  | { readonly kind: 'undo'; readonly of: number };

export interface RecordedDecision {
  /** Position in the site's history, from 1, without gaps. */
  readonly seq: number;
  readonly decision: Decision;
}

/** What happened rather than was decided: it cannot be taken back, and what came before it still can. */
export function isFact({ kind }: Pick<Decision, 'kind'>): boolean {
  return kind === 'export-taken' || kind === 'crawled' || kind === 'swept';
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
