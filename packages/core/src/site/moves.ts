/** Where links go that point at a page which moved. */
import { findAddressOfFile } from '../address/index.ts';
import { isAdded, isOut, findSiteAddress, type Draft, type PageFile } from './draft.ts';
import type { Removal } from './removal.ts';
import { findStandIn } from './standIn.ts';

/**
 * New addresses inside the site by old address path, for every way a link may spell the old one: `/visit/`,
 * `/visit/index.html` and `/visit`.
 *
 * Links to "/" are left alone: they mean the home page, whichever page that is. One to an element there means that
 * element, so it follows the page that has it: its key ends in a hash, `/#`.
 */
export function findMovedAddresses(draft: Draft, moved: Iterable<PageFile>): Map<string, string> {
  const out = new Map<string, string>();
  for (const page of moved) {
    // A page added here took nobody's place: no imported link means it.
    if (isAdded(draft, page.id) || isOut(draft, page.id)) continue;
    const before = findAddressOfFile(page.sourcePath);
    const after = findSiteAddress(draft, page);
    if (before === after) continue;
    for (const spelling of listSpellings(page.sourcePath)) out.set(before === '/' ? `${spelling}#` : spelling, after);
  }
  return out;
}

/** All address paths that reach an imported file. */
export function listSpellings(sourcePath: string): string[] {
  const address = findAddressOfFile(sourcePath);
  const out = [address];
  if (address.endsWith('/')) {
    out.push(address + sourcePath.slice(sourcePath.lastIndexOf('/') + 1));
    if (address !== '/') out.push(address.slice(0, -1));
  }
  return out;
}

export interface LinksToRemoved {
  /** Where links lead instead, inside the site, by every spelling of what they lead to in the import. */
  readonly leadOn: ReadonlyMap<string, string>;
  /** Addresses that links to are words only. */
  readonly unlinked: ReadonlySet<string>;
}

/** What becomes of links to what is removed, where they do not stay as they are. @param pages those removed, and those that stand in for them */
export function findLinksToRemoved(draft: Draft, pages: ReadonlyMap<string, PageFile>): LinksToRemoved {
  const leadOn = new Map<string, string>();
  const unlinked = new Set<string>();
  for (const removal of draft.removals.values()) {
    if (removal.links === 'kept') continue;
    const to = removal.links === 'lead-on' ? findStandInAddress(draft, removal, pages) : undefined;
    for (const spelling of listSpellingsOf(draft, removal, pages)) {
      if (to !== undefined) leadOn.set(spelling, to);
      else if (removal.links === 'unlinked') unlinked.add(spelling);
    }
  }
  return { leadOn, unlinked };
}

function listSpellingsOf(draft: Draft, { thing, left }: Removal, pages: ReadonlyMap<string, PageFile>): string[] {
  if (thing.kind === 'file') return [findAddressOfFile(thing.path)];
  return left.flatMap((id) => {
    const page = pages.get(id);
    return page && !isAdded(draft, id) ? listSpellings(page.sourcePath) : [];
  });
}

/** Inside the site, the address of what stands in; undefined where nothing does that a link could lead to. */
export function findStandInAddress(
  draft: Draft,
  removal: Pick<Removal, 'standIn'>,
  pages: ReadonlyMap<string, PageFile>,
): string | undefined {
  const standIn = findStandIn(draft, removal);
  if (standIn.kind === 'home') return '/';
  const page = standIn.kind === 'page' ? pages.get(standIn.page) : undefined;
  return page && !draft.notReady.has(page.id) ? findSiteAddress(draft, page) : undefined;
}
