/** The draft: what the decisions add up to, over the files as they were imported. */
import { addressOfFile, inStyle, type AddressStyle } from '../address/index.ts';
import { settingKey, type HeadSetting } from '../head/index.ts';
import type { MenuItem } from '../menus/index.ts';
import type { PatternRedirect, Redirect } from '../redirects/index.ts';
import { touchIdentity, type Touch } from '../touches/index.ts';
import { activeDecisions, type AddedNode, type Addresses, type Decision, type IconFile, type PageId, type Place, type RecordedDecision } from './decisions.ts';

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
  /** Addresses of the site it was crawled from, whole, from that site's root on. */
  readonly crawledFrom: ReadonlyMap<PageId, ReadonlySet<string>>;
  /** Paths of pictures and documents by the addresses they answered at, as the last crawl found them. */
  readonly crawledFiles: ReadonlyMap<string, string>;
  readonly style: AddressStyle;
  readonly formerStyles: ReadonlySet<AddressStyle>;
  /** The page chosen as home; undefined while the imported front page is it. */
  readonly home: PageId | undefined;
  readonly nodes: ReadonlyMap<PageId, AddedNode>;
  /** Places decided, in the order they were decided; everything else stands by its address. */
  readonly places: ReadonlyMap<PageId, Place>;
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
}

type Mutable<T> = T extends ReadonlyMap<infer K, infer V> ? Map<K, V> : T extends ReadonlySet<infer V> ? Set<V> : T;
type MutableDraft = { -readonly [K in keyof Draft]: Mutable<Draft[K]> };

const fresh = (): MutableDraft => ({
  titles: new Map(), addresses: new Map(), formerAddresses: new Map(), crawledFrom: new Map(), crawledFiles: new Map(), style: 'imported', formerStyles: new Set(), home: undefined, nodes: new Map(), places: new Map(),
  notReady: new Set(), hidden: new Set(), assets: new Map(), touches: new Map(), menus: new Map(), listings: new Map(), head: new Map(), icons: [], redirects: new Map(), settledIn: new Map(), patterns: new Map(), basePath: '', formerBasePaths: new Set(),
});

export const emptyDraft: Draft = fresh();

/** Adds up a history. The same history gives the same draft, on whatever machine. */
export function foldDecisions(history: readonly RecordedDecision[]): Draft {
  const draft = fresh();
  // Where the page that is home stands when it is not.
  const homeReturns: { to: string | undefined } = { to: undefined };
  for (const { seq, decision } of activeDecisions(history)) apply(draft, decision, seq, homeReturns);
  return draft;
}

function apply(draft: MutableDraft, decision: Decision, seq: number, homeReturns: { to: string | undefined }): void {
  switch (decision.kind) {
    case 'title': draft.titles.set(decision.page, decision.title); return;
    case 'home': setHome(draft, decision, homeReturns); return;
    case 'address': readdress(draft, decision.addresses); return;
    case 'place':
      // Set anew, so that the order of places is the order in which they were decided.
      draft.places.delete(decision.node);
      draft.places.set(decision.node, decision.place);
      readdress(draft, decision.addresses);
      return;
    case 'node-added':
      draft.nodes.set(decision.node.id, decision.node);
      draft.places.set(decision.node.id, decision.place);
      if (decision.title !== undefined) draft.titles.set(decision.node.id, decision.title);
      if (decision.node.kind === 'page') {
        draft.addresses.set(decision.node.id, decision.node.address);
        if (decision.node.copyOf !== undefined) {
          copyTouches(draft, decision.node.copyOf, decision.node.id, seq);
          copyHead(draft, decision.node.copyOf, decision.node.id);
        }
      }
      return;
    case 'node-removed': draft.nodes.delete(decision.node); draft.places.delete(decision.node); return;
    case 'ready': setMember(draft.notReady, decision.page, !decision.ready); return;
    case 'in-menus': setMember(draft.hidden, decision.page, !decision.shown); return;
    case 'address-style':
      draft.formerStyles.add(draft.style);
      draft.formerStyles.delete(decision.style);
      draft.style = decision.style;
      return;
    case 'asset-added': draft.assets.set(decision.path, { hash: decision.hash, sizeBytes: decision.sizeBytes }); return;
    case 'touch':
      forgetLike(draft, decision.touch);
      draft.touches.set(seq, decision.touch);
      return;
    case 'touch-removed': draft.touches.delete(decision.of); return;
    case 'menu': draft.menus.set(decision.menu, { items: decision.items, whereItDiffers: decision.whereItDiffers }); return;
    case 'menu-removed': draft.menus.delete(decision.menu); return;
    case 'listing': draft.listings.set(decision.page, { perPage: decision.perPage }); return;
    case 'listing-removed': draft.listings.delete(decision.page); return;
    case 'export-taken':
      for (const [page, address] of Object.entries(decision.former)) draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(address));
      return;
    case 'crawled':
      for (const [page, addresses] of Object.entries(decision.from)) draft.crawledFrom.set(page, new Set([...(draft.crawledFrom.get(page) ?? []), ...addresses]));
      draft.crawledFiles.clear();
      for (const [address, path] of Object.entries(decision.files)) draft.crawledFiles.set(address, path);
      return;
    case 'head': for (const setting of decision.settings) setHead(draft, setting); return;
    case 'icons': draft.icons = decision.icons; return;
    case 'redirect': settle(draft, decision.redirect, seq); return;
    case 'redirects':
      for (const from of decision.removed) unsettle(draft, from);
      for (const redirect of decision.redirects) settle(draft, redirect, seq);
      for (const { id, pattern } of decision.patterns ?? []) draft.patterns.set(id, pattern);
      return;
    case 'redirect-removed': unsettle(draft, decision.from); return;
    case 'pattern': draft.patterns.set(decision.id, decision.pattern); return;
    case 'pattern-removed': draft.patterns.delete(decision.id); return;
    case 'patterns-ordered':
      for (const id of decision.ids) {
        const pattern = draft.patterns.get(id);
        if (!pattern) continue;
        // Set anew, it comes last; in their order, all of them do.
        draft.patterns.delete(id);
        draft.patterns.set(id, pattern);
      }
      return;
    case 'base-path':
      draft.formerBasePaths.add(draft.basePath);
      draft.formerBasePaths.delete(decision.path);
      draft.basePath = decision.path;
      return;
    case 'undo': return;
  }
}

function settle(draft: MutableDraft, redirect: Redirect, seq: number): void {
  draft.redirects.set(redirect.from, redirect);
  draft.settledIn.set(redirect.from, seq);
}

function unsettle(draft: MutableDraft, from: string): void {
  draft.redirects.delete(from);
  draft.settledIn.delete(from);
}

/** Numbered between their decision and the next one, so that each keeps a number of its own. */
function copyTouches(draft: MutableDraft, from: PageId, to: PageId, seq: number): void {
  const own = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === from);
  own.forEach((touch, index) => draft.touches.set(seq + (index + 1) / (own.length + 1), { ...touch, scope: { kind: 'page', page: to } }));
}

/** A title is what the page is called everywhere, not only in its head. */
function setHead(draft: MutableDraft, setting: HeadSetting): void {
  const { scope, name, text, own } = setting;
  if (name === 'title' && scope.kind === 'page') {
    if (typeof text === 'string') draft.titles.set(scope.page, text);
    else draft.titles.delete(scope.page);
    return;
  }
  const key = settingKey(setting);
  if (text === undefined && own === undefined) draft.head.delete(key);
  else draft.head.set(key, setting);
}

/** A copy begins with what was set for its page, but is no translation of what that one translates. */
function copyHead(draft: MutableDraft, from: PageId, to: PageId): void {
  for (const setting of [...draft.head.values()]) {
    if (setting.scope.kind === 'page' && setting.scope.page === from && setting.name !== 'translates') setHead(draft, { ...setting, scope: { kind: 'page', page: to } });
  }
}

function setMember(set: Set<string>, member: string, isIn: boolean): void {
  if (isIn) set.add(member);
  else set.delete(member);
}

/** Takes away those that a touch stands instead of. */
function forgetLike(draft: MutableDraft, touch: Touch): void {
  const identity = touchIdentity(touch);
  if (identity === undefined) return;
  for (const [seq, other] of draft.touches) if (touchIdentity(other) === identity) draft.touches.delete(seq);
}

function readdress(draft: MutableDraft, addresses: Addresses): void {
  for (const [page, address] of Object.entries(addresses)) {
    const before = draft.addresses.get(page);
    if (before !== undefined) draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(before));
    draft.addresses.set(page, address);
  }
}

function setHome(draft: MutableDraft, decision: Extract<Decision, { kind: 'home' }>, homeReturns: { to: string | undefined }): void {
  // Each home decision stands alone, so that undoing an earlier one cannot leave two pages at "/".
  if (draft.home !== undefined) {
    if (homeReturns.to === undefined) draft.addresses.delete(draft.home);
    else draft.addresses.set(draft.home, homeReturns.to);
  }
  draft.home = decision.page;
  if (decision.importedHome?.page === decision.page) {
    homeReturns.to = undefined;
    draft.addresses.delete(decision.page);
    return;
  }
  homeReturns.to = draft.addresses.get(decision.page);
  // What it was renamed to before goes on leading to it.
  if (homeReturns.to !== undefined) draft.formerAddresses.set(decision.page, new Set(draft.formerAddresses.get(decision.page)).add(homeReturns.to));
  draft.addresses.set(decision.page, '/');
  if (decision.importedHome) draft.addresses.set(decision.importedHome.page, decision.importedHome.address);
}

/** A page as the draft needs to know it. */
export interface PageFile {
  readonly id: PageId;
  /** The imported file's path, `visit/index.html`; of a page added here, the place its links were written from. */
  readonly sourcePath: string;
}

/** Where a page answers in the draft, the path the site is under included. */
export function draftAddress(draft: Draft, page: PageFile): string {
  return draft.basePath + siteAddress(draft, page);
}

/** The same inside the site, as if it stood at the root. */
export function siteAddress(draft: Draft, page: PageFile): string {
  return inStyle(plainAddress(draft, page), draft.style);
}

/** Inside the site and before its address style. */
export function plainAddress(draft: Draft, page: PageFile): string {
  return draft.addresses.get(page.id) ?? addressOfFile(page.sourcePath);
}

/** A page in the draft that no import brought. */
export function isAdded(draft: Draft, page: PageId): boolean {
  return draft.nodes.has(page);
}
