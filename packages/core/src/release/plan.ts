/** What compiling a page has to know, small enough to be sent to a thread and complete without the draft. */
import { fileOfAddress, isUnder } from '../address/index.ts';
import type { PlannedLine } from '../head/index.ts';
import type { ListingPlan } from '../listing/index.ts';
import { signature, type CurrentMark, type MenuItem, type SiteMenu } from '../menus/index.ts';
import { draftAddress, isOut, siteAddress, type Draft, type PageFile } from '../site/index.ts';
import { replacesEarlier, type Scope, type SectionRef, type Touch } from '../touches/index.ts';
import { underBase } from './basePath.ts';

/** One page. */
export interface PagePlan {
  readonly id: string;
  /** Where its source says it stands, inside the site, and where it answers, the base path included. */
  readonly before: string;
  readonly after: string;
  /** Path of the published file. */
  readonly path: string;
  readonly title: string | undefined;
  /** Those it lies in the scope of, in the order they were made. */
  readonly touches: readonly Touch[];
  /** Sections that are removed. */
  readonly sectionsOut: readonly SectionRef[];
  /** Lines of its head that are written; none before planHead filled them in. */
  readonly head: readonly PlannedLine[];
  /** For a page of a listing: what it lists, and where its entries stood in the import. */
  readonly listing?: { readonly plan: ListingPlan; readonly importedAddresses: readonly string[] };
}

/** What all pages of a draft have in common. */
export interface SharedPlan {
  readonly basePath: string;
  /** See movedAddresses; links to what is removed and led on among them. */
  readonly moves: ReadonlyMap<string, string>;
  /** See linksToRemoved. */
  readonly unlinked: ReadonlySet<string>;
  /** Addresses in the draft of the pages that touches and menus lead to; those held back are not among them. */
  readonly pageAddresses: ReadonlyMap<string, string>;
  readonly menus: readonly MenuPlan[];
}

export interface PlannedItem {
  readonly was: string | undefined;
  readonly to: string;
  readonly isOutside: boolean;
  readonly label: string;
  readonly newWindow: boolean;
  readonly children: readonly PlannedItem[];
}

/** A menu that is not as it was imported. */
export interface MenuPlan {
  /** Its id, see SiteMenu. */
  readonly menu: string;
  readonly way: string;
  readonly signature: string;
  /** Of other menus in the same place, which are none of its variants. */
  readonly others: readonly string[];
  readonly whereItDiffers: boolean;
  readonly items: readonly PlannedItem[];
  readonly mark: CurrentMark | undefined;
  readonly marksBranch: boolean;
}

/** Where the page's file is published; known without reading it. */
export function publishedPath(draft: Draft, page: PageFile): string {
  const isAsImported = draft.style === 'imported' && !draft.addresses.has(page.id);
  return underBase(draft.basePath, isAsImported ? page.sourcePath : (fileOfAddress(siteAddress(draft, page)) ?? page.sourcePath));
}

/** @param addressOf inside the site, of the page a branch begins at */
export function planPage(draft: Draft, page: PageFile, before: string, addressOf: (page: string) => string | undefined): PagePlan {
  const own = siteAddress(draft, page);
  const inScope = [...draft.touches.values()].filter(({ scope }) => isInScope(scope, page.id, own, addressOf));
  return {
    id: page.id, before, after: draftAddress(draft, page), path: publishedPath(draft, page), title: draft.titles.get(page.id), head: [],
    sectionsOut: [...(draft.removedSections.get(page.id)?.values() ?? [])].map(({ section }) => section),
    // The nearest scope has the last word among those of which a page has one.
    touches: inScope.filter((touch, index) => !replacesEarlier(touch.kind) || !inScope.some((other, at) => other.kind === touch.kind && isNearer(other.scope, at, touch.scope, index))),
  };
}

const NEARNESS = { everywhere: 0, branch: 1, page: 2 } as const;

function isNearer(other: Scope, at: number, scope: Scope, index: number): boolean {
  const [a, b] = [NEARNESS[other.kind], NEARNESS[scope.kind]];
  return a > b || (a === b && at > index);
}

/** A branch is a page and what lies below its address. */
export function isInScope(scope: Scope, page: string, address: string, addressOf: (page: string) => string | undefined): boolean {
  if (scope.kind === 'everywhere') return true;
  if (scope.page === page) return true;
  if (scope.kind === 'page') return false;
  const branch = addressOf(scope.page);
  return branch !== undefined && branch !== '/' && isUnder(address, branch);
}

/**
 * The menus that are not as they were imported: edited ones, and those with a page in them that menus
 * leave out or that is held back.
 *
 * @param pageAt the page an imported address path led to
 */
export function planMenus(
  draft: Draft, menus: readonly SiteMenu[], pageAddresses: ReadonlyMap<string, string>, pageAt: (path: string) => string | undefined,
): MenuPlan[] {
  return menus.flatMap((menu) => {
    const decided = draft.menus.get(menu.id);
    const items = decided?.items ?? importedItems(menu, pageAt);
    const isShort = !everyPage(items, (page) => pageAddresses.has(page) && !draft.hidden.has(page));
    if (!decided && !isShort) return [];
    return [{
      menu: menu.id, way: menu.way, signature: signature(menu.items), others: menus.filter((other) => other.way === menu.way && other.id !== menu.id).map((other) => signature(other.items)),
      whereItDiffers: decided?.whereItDiffers ?? false, mark: menu.mark, marksBranch: menu.marksBranch,
      items: items.flatMap((item) => planItem(draft, item, pageAddresses)),
    }];
  });
}

/** A menu as it was imported, its items meaning pages where they lead to some. */
export function importedItems(menu: Pick<SiteMenu, 'items'>, pageAt: (path: string) => string | undefined): MenuItem[] {
  return menu.items.map(({ to, label, newWindow, children }) => {
    const page = to.startsWith('/') ? pageAt(to) : undefined;
    return {
      target: page !== undefined ? { kind: 'page', page } : to.startsWith('/') ? { kind: 'address', address: to } : { kind: 'url', url: to },
      was: to, label, newWindow, children: importedItems({ items: children }, pageAt),
    };
  });
}

function everyPage(items: readonly MenuItem[], isRight: (page: string) => boolean): boolean {
  return items.every(({ target, children, removed }) => removed === undefined && (target.kind !== 'page' || isRight(target.page)) && everyPage(children, isRight));
}

/** What is below an item that is left out goes with it; where only its page is removed, it moves up in its place. */
function planItem(draft: Draft, { target, was, label, newWindow, children, removed }: MenuItem, pageAddresses: ReadonlyMap<string, string>): PlannedItem[] {
  if (removed !== undefined) return [];
  if (target.kind === 'page' && isOut(draft, target.page)) return children.flatMap((child) => planItem(draft, child, pageAddresses));
  const to = target.kind === 'page' ? (draft.hidden.has(target.page) ? undefined : pageAddresses.get(target.page))
    : target.kind === 'address' ? draft.basePath + target.address : target.url;
  if (to === undefined) return [];
  return [{ was, to, isOutside: target.kind === 'url', label, newWindow, children: children.flatMap((child) => planItem(draft, child, pageAddresses)) }];
}
