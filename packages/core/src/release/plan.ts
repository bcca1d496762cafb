/** What compiling a page has to know, small enough to be sent to a thread and complete without the draft. */
import { findFileOfAddress, isFront, isUnder } from '../address/index.ts';
import { splitPath } from '../html/index.ts';
import type { PlannedLine } from '../head/index.ts';
import type { ListingPlan } from '../listing/index.ts';
import {
  isVariant,
  keyItem,
  plainTarget,
  settleWords,
  signItems,
  signTopItems,
  type CurrentMark,
  type FoundItem,
  type MenuItem,
  type MenuTarget,
  type SiteMenu,
} from '../menus/index.ts';
import { findDraftAddress, isOut, findSiteAddress, type Draft, type PageFile } from '../site/index.ts';
import { replacesEarlier, type Scope, type SectionRef, type Touch } from '../touches/index.ts';
import { placeUnderBase } from './basePath.ts';

/** One page. */
export interface PagePlan {
  readonly id: string;
  /** Where its source says it stands, inside the site, and where it answers, the base path included. */
  readonly before: string;
  readonly after: string;
  /** Path of the published file. */
  readonly path: string;
  readonly title: string | undefined;
  /** Whether it was made as a copy of another page, which stands where its links were written. */
  readonly isCopy: boolean;
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
  /** Address in the draft, the base path included, with a fragment; a whole URL; empty where it leads nowhere. */
  readonly to: string;
  readonly label: string;
  readonly newWindow: boolean;
  readonly children: readonly PlannedItem[];
}

/** A menu that is not as it was imported. */
export interface MenuPlan {
  /** Its id, see SiteMenu. */
  readonly menu: string;
  /** Where pages have it. */
  readonly ways: readonly string[];
  /** As the imported pages have it. */
  readonly found: readonly FoundItem[];
  /** Signatures of other menus in the same place, which are none of its variants. */
  readonly others: readonly string[];
  readonly opensBranch: boolean;
  /** Somebody pointed at it: it counts wherever it stands. */
  readonly isPointed?: true;
  readonly whereItDiffers: boolean;
  readonly items: readonly PlannedItem[];
  readonly mark: CurrentMark | undefined;
  readonly marksBranch: boolean;
}

/** Where the page's file is published; known without reading it. */
export function findPublishedPath(draft: Draft, page: PageFile): string {
  const isAsImported = draft.style === 'imported' && !draft.addresses.has(page.id);
  return placeUnderBase(
    draft.basePath,
    isAsImported ? page.sourcePath : (findFileOfAddress(findSiteAddress(draft, page)) ?? page.sourcePath),
  );
}

/** @param addressOf inside the site, of the page a branch begins at */
export function planPage(
  draft: Draft,
  page: PageFile,
  before: string,
  addressOf: (page: string) => string | undefined,
): PagePlan {
  const address = findSiteAddress(draft, page);
  const inScope = [...draft.touches.values()].filter(({ scope }) => isInScope(scope, page.id, address, addressOf));
  return {
    id: page.id,
    before,
    after: findDraftAddress(draft, page),
    path: findPublishedPath(draft, page),
    title: draft.titles.get(page.id),
    isCopy: isCopy(draft, page.id),
    head: [],
    sectionsOut: [...(draft.removedSections.get(page.id)?.values() ?? [])].map(({ section }) => section),
    // The nearest scope has the last word among those of which a page has one.
    touches: inScope.filter(
      (touch, index) =>
        !replacesEarlier(touch.kind) ||
        !inScope.some((other, at) => other.kind === touch.kind && isNearer(other.scope, at, touch.scope, index)),
    ),
  };
}

function isCopy({ nodes }: Draft, id: string): boolean {
  const node = nodes.get(id);
  return node?.kind === 'page' && node.copyOf !== undefined;
}

const NEARNESS = { everywhere: 0, branch: 1, page: 2 } as const;

function isNearer(other: Scope, at: number, scope: Scope, index: number): boolean {
  const [a, b] = [NEARNESS[other.kind], NEARNESS[scope.kind]];
  return a > b || (a === b && at > index);
}

/** A branch is a page and what lies below its address. */
export function isInScope(
  scope: Scope,
  page: string,
  address: string,
  addressOf: (page: string) => string | undefined,
): boolean {
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
  draft: Draft,
  menus: readonly SiteMenu[],
  pageAddresses: ReadonlyMap<string, string>,
  pageAt: (path: string) => string | undefined,
): MenuPlan[] {
  return menus.flatMap((menu) => {
    const decided = draft.menus.get(menu.id);
    const items = decided?.items ?? readImportedItems(menu, pageAt);
    const isShort = !isEveryPage(items, (page) => pageAddresses.has(page) && !draft.hidden.has(page));
    if (!decided && !isShort) return [];
    return [
      {
        menu: menu.id,
        ways: menu.ways,
        found: menu.items,
        opensBranch: menu.opensBranch,
        ...(menu.isPointed ? { isPointed: true } : {}),
        others: menus
          .filter((other) => other.id !== menu.id && other.ways.some((way) => menu.ways.includes(way)))
          .map((other) => signItems(other.items)),
        whereItDiffers: decided?.whereItDiffers ?? false,
        mark: menu.mark,
        marksBranch: menu.marksBranch,
        items: items.flatMap((item) => planItem(draft, item, pageAddresses)),
      },
    ];
  });
}

/** Whether a list found in a page is this menu's, to be written as planned. */
export function isOfMenu(
  { ways, found, others, whereItDiffers, opensBranch }: MenuPlan,
  list: { readonly way: string; readonly items: readonly FoundItem[] },
): boolean {
  if (!ways.includes(list.way)) return false;
  const items = settleWords(list.items, found);
  if (opensBranch ? signTopItems(items) === signTopItems(found) : signItems(items) === signItems(found)) return true;
  return whereItDiffers && isVariant(items, found) && !others.includes(signItems(items));
}

/**
 * A menu as it was imported: its items mean pages where they lead to some, and home where they lead to the front.
 *
 * @param pageAt the page an imported address path led to
 */
export function readImportedItems(
  menu: Pick<SiteMenu, 'items'>,
  pageAt: (path: string) => string | undefined,
): MenuItem[] {
  return menu.items.map(({ to, label, newWindow, children }) => ({
    target: readImportedTarget(to, pageAt),
    was: keyItem({ to, label }),
    label,
    newWindow,
    children: readImportedItems({ items: children }, pageAt),
  }));
}

/** @param to see FoundItem */
export function readImportedTarget(to: string, pageAt: (path: string) => string | undefined): MenuTarget {
  if (to === '') return { kind: 'none' };
  if (!to.startsWith('/')) return { kind: 'url', url: to };
  const [path, rest] = splitPath(to);
  const page = pageAt(path);
  // A query may tell answers apart that only a server knows.
  if (page === undefined || rest.startsWith('?')) return { kind: 'address', address: to };
  const fragment = rest.length > 1 ? { fragment: rest.slice(1) } : {};
  // An element of the front page is that page's, wherever it goes.
  return isFront(path) && rest === '' ? { kind: 'home' } : { kind: 'page', page, ...fragment };
}

function isEveryPage(items: readonly MenuItem[], isRight: (page: string) => boolean): boolean {
  return items.every(
    ({ target, children, removed }) =>
      removed === undefined && (target.kind !== 'page' || isRight(target.page)) && isEveryPage(children, isRight),
  );
}

/** What is below an item that is left out goes with it; where only its page is removed, it moves up in its place. */
function planItem(
  draft: Draft,
  { target, was, label, newWindow, children, removed }: MenuItem,
  pageAddresses: ReadonlyMap<string, string>,
): PlannedItem[] {
  if (removed !== undefined) return [];
  if (target.kind === 'page' && isOut(draft, target.page))
    return children.flatMap((child) => planItem(draft, child, pageAddresses));
  const to = planAddress(draft, target, pageAddresses);
  if (to === undefined) return [];
  return [
    {
      was: was === undefined ? undefined : plainTarget(was),
      to,
      label,
      newWindow,
      children: children.flatMap((child) => planItem(draft, child, pageAddresses)),
    },
  ];
}

function planAddress(draft: Draft, target: MenuTarget, pageAddresses: ReadonlyMap<string, string>): string | undefined {
  switch (target.kind) {
    case 'none':
      return '';
    case 'url':
      return target.url;
    case 'address':
      return draft.basePath + target.address;
    case 'home':
      return `${draft.basePath}/`;
    case 'page': {
      const address = draft.hidden.has(target.page) ? undefined : pageAddresses.get(target.page);
      return address === undefined ? undefined : address + withHash(target.fragment);
    }
  }
}

const withHash = (fragment: string | undefined): string => (fragment === undefined ? '' : `#${fragment}`);
