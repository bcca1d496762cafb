/** Where links go that point at a page which moved. */
import { addressOfFile } from '../address/index.ts';
import { isAdded, siteAddress, type Draft, type PageFile } from './draft.ts';

/**
 * New addresses inside the site by old address path, for every way a link may spell the old one: `/visit/`,
 * `/visit/index.html` and `/visit`.
 *
 * Links to "/" are left alone: they mean the home page, whichever page that is.
 */
export function movedAddresses(draft: Draft, moved: Iterable<PageFile>): Map<string, string> {
  const out = new Map<string, string>();
  for (const page of moved) {
    // A page added here took nobody's place: no imported link means it.
    if (isAdded(draft, page.id)) continue;
    const before = addressOfFile(page.sourcePath);
    const after = siteAddress(draft, page);
    if (before === after || before === '/') continue;
    for (const spelling of spellings(page.sourcePath)) out.set(spelling, after);
  }
  return out;
}

/** All address paths that reach an imported file. */
export function spellings(sourcePath: string): string[] {
  const address = addressOfFile(sourcePath);
  const out = [address];
  if (address.endsWith('/')) {
    out.push(address + sourcePath.slice(sourcePath.lastIndexOf('/') + 1));
    if (address !== '/') out.push(address.slice(0, -1));
  }
  return out;
}
