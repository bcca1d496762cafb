/** The draft: what the decisions add up to, over the files as they were imported. */
import type { Entry } from '../access/index.ts';
import { findAddressOfFile, writeInStyle, type AddressStyle } from '../address/index.ts';
import type { HeadSetting } from '../head/index.ts';
import type { MenuItem } from '../menus/index.ts';
import type { PatternRedirect, Redirect } from '../redirects/index.ts';
import type { SectionRef, Touch } from '../touches/index.ts';
import type { AddedNode, IconFile, Place, TakenSource } from './nodes.ts';
import type { PageId } from './pageId.ts';
import type { Removal } from './removal.ts';

export interface DraftMenu {
  readonly items: readonly MenuItem[];
  /** Written also where a page has another list in its place. */
  readonly whereItDiffers: boolean;
}

export interface Draft {
  /** Titles set here; every other page keeps the one in its source. */
  readonly titles: ReadonlyMap<PageId, string>;
  /** Addresses inside the site, before the style, that differ from the one the page's file gives it. */
  readonly addresses: ReadonlyMap<PageId, string>;
  /** Addresses a page had before the one it has; the one of its file is not among them. */
  readonly formerAddresses: ReadonlyMap<PageId, ReadonlySet<string>>;
  /** Addresses a page had in exports before this one, by their files. */
  readonly exportAddresses: ReadonlyMap<PageId, ReadonlySet<string>>;
  /** Addresses of the site it was crawled from, whole, from that site's root on. */
  readonly crawledFrom: ReadonlyMap<PageId, ReadonlySet<string>>;
  /** Paths of pictures and documents by the addresses they answered at, as the last crawl found them. */
  readonly crawledFiles: ReadonlyMap<string, string>;
  readonly style: AddressStyle;
  readonly formerStyles: ReadonlySet<AddressStyle>;
  /** The page chosen as home; undefined while the imported front page is it. */
  readonly home: PageId | undefined;
  readonly nodes: ReadonlyMap<PageId, AddedNode>;
  /** Pages whose text is as a release had it. */
  readonly sources: ReadonlyMap<PageId, TakenSource>;
  /** Places decided, in the order they were decided; everything else stands by its address. */
  readonly places: readonly (readonly [PageId, Place])[];
  readonly notReady: ReadonlySet<PageId>;
  /** Pages that menus leave out. */
  readonly hidden: ReadonlySet<PageId>;
  readonly assets: ReadonlyMap<string, { readonly hash: string; readonly sizeBytes: number }>;
  /** By the number of their decision, in order. */
  readonly touches: ReadonlyMap<number, Touch>;
  readonly menus: ReadonlyMap<string, DraftMenu>;
  readonly listings: ReadonlyMap<PageId, { readonly perPage: number }>;
  /** By place and name, see settingKey; titles of single pages are not among them. */
  readonly head: ReadonlyMap<string, HeadSetting>;
  readonly icons: readonly IconFile[];
  /** By the normal form of the old address. */
  readonly redirects: ReadonlyMap<string, Redirect>;
  /** The number of the decision that settled an old address. */
  readonly settledIn: ReadonlyMap<string, number>;
  /** In the order they are tried. */
  readonly patterns: ReadonlyMap<string, PatternRedirect>;
  /** The path the whole site is published under, `/museum`; empty at the root. */
  readonly basePath: string;
  /** Where it stood before; what was found there redirects. */
  readonly formerBasePaths: ReadonlySet<string>;
  /** What can be put back, by the number of the decision that removed it, in order. */
  readonly removals: ReadonlyMap<number, Removal>;
  /** Pages, groups and outside links that are passed over, with their removal; also those swept since. They keep their places. */
  readonly removed: ReadonlyMap<PageId, number>;
  /** By page and sectionKey. */
  readonly removedSections: ReadonlyMap<PageId, ReadonlyMap<string, RemovedSection>>;
  readonly removedPatterns: ReadonlyMap<string, { readonly pattern: PatternRedirect; readonly removal: number }>;
  /** By path in the site. */
  readonly removedFiles: ReadonlyMap<string, number>;
  /** Who may visit, by the page a branch begins at; null for the site. Where nothing is said, everyone may. */
  readonly entries: ReadonlyMap<PageId | null, Entry>;
  readonly shownInstead: PageId | undefined;
  /** `2027-03-31` */
  readonly lastDay: string | undefined;
  /** Where pages stood whose files are deleted, so that those beside them stay where they are. */
  readonly stood: ReadonlyMap<PageId, string>;
}

/** What a release said of where pages are: visitors were answered there. */
export interface Released {
  readonly addresses: ReadonlyMap<PageId, string>;
  readonly style: AddressStyle;
  readonly basePath: string;
  /** Pages added here that it had. */
  readonly added: ReadonlySet<PageId>;
  readonly notReady: ReadonlySet<PageId>;
}

/** @param draft as a release had it */
export function readReleased({ addresses, style, basePath, nodes, notReady }: Draft): Released {
  return { addresses, style, basePath, added: new Set(nodes.keys()), notReady };
}

/** Where a release had a page, whole; undefined where it had none. */
export function findReleasedAddress(
  { addresses, style, basePath, added, notReady }: Released,
  page: PageFile,
  isAddedHere: boolean,
): string | undefined {
  if (notReady.has(page.id) || (isAddedHere && !added.has(page.id))) return undefined;
  return basePath + writeInStyle(addresses.get(page.id) ?? findAddressOfFile(page.sourcePath), style);
}

export interface RemovedSection {
  readonly section: SectionRef;
  readonly removal: number;
}

type Mutable<T> =
  T extends ReadonlyMap<infer K, infer V>
    ? Map<K, V>
    : T extends ReadonlySet<infer V>
      ? Set<V>
      : T extends readonly (readonly [infer A, infer B])[]
        ? (readonly [A, B])[]
        : T;
export type MutableDraft = { -readonly [K in keyof Draft]: Mutable<Draft[K]> };

export const createDraft = (): MutableDraft => ({
  titles: new Map(),
  addresses: new Map(),
  formerAddresses: new Map(),
  exportAddresses: new Map(),
  crawledFrom: new Map(),
  crawledFiles: new Map(),
  style: 'imported',
  formerStyles: new Set(),
  home: undefined,
  nodes: new Map(),
  sources: new Map(),
  places: [],
  notReady: new Set(),
  hidden: new Set(),
  assets: new Map(),
  touches: new Map(),
  menus: new Map(),
  listings: new Map(),
  head: new Map(),
  icons: [],
  redirects: new Map(),
  settledIn: new Map(),
  patterns: new Map(),
  basePath: '',
  formerBasePaths: new Set(),
  removals: new Map(),
  removed: new Map(),
  removedSections: new Map(),
  removedPatterns: new Map(),
  removedFiles: new Map(),
  stood: new Map(),
  entries: new Map(),
  shownInstead: undefined,
  lastDay: undefined,
});

export const emptyDraft: Draft = createDraft();

/** A page as the draft needs to know it. */
export interface PageFile {
  readonly id: PageId;
  /** The imported file's path, `visit/index.html`; of a page added here, the place its links were written from. */
  readonly sourcePath: string;
  /** Where its links were written from, if not there. */
  readonly writtenAt?: string | undefined;
}

/** Where a page answers in the draft, the path the site is under included. */
export function findDraftAddress(draft: Draft, page: PageFile): string {
  return draft.basePath + findSiteAddress(draft, page);
}

/** The same inside the site, as if it stood at the root. */
export function findSiteAddress(draft: Draft, page: PageFile): string {
  return writeInStyle(findPlainAddress(draft, page), draft.style);
}

/** Inside the site and before its address style. */
export function findPlainAddress(draft: Draft, page: PageFile): string {
  return draft.addresses.get(page.id) ?? findAddressOfFile(page.sourcePath);
}

/** The address a page's links were written from. */
export function findWrittenFrom({ writtenAt, sourcePath }: PageFile): string {
  return findAddressOfFile(writtenAt ?? sourcePath);
}

/** A page in the draft that no import brought. */
export function isAdded(draft: Draft, page: PageId): boolean {
  return draft.nodes.has(page);
}

/** Whether a page, group or outside link is removed: it keeps its place, and is in nothing that visitors get. */
export function isOut(draft: Draft, node: PageId): boolean {
  return draft.removed.has(node);
}

/** The same draft as if nothing had been removed. */
export function withRemoved(draft: Draft): Draft {
  return draft.removed.size === 0 && draft.removedFiles.size === 0
    ? draft
    : { ...draft, removed: new Map(), removedFiles: new Map() };
}
