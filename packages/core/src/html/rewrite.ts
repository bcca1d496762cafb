/**
 * Links that follow: the edits a page needs because it moved itself, or because pages it points at
 * did. A link that still leads to the right place is not touched, so its bytes stay.
 */
import { formatAddress, relativeReference, resolveHref } from '../address/index.ts';
import type { PageDocument } from './document.ts';
import { baseHref, linkPlaces } from './links.ts';
import type { Edit } from './splice.ts';

export interface LinkMoves {
  /** The page's own address when it was written, and now. */
  readonly before: string;
  readonly after: string;
  /** New address for an address path that moved; undefined for everything else. */
  readonly movedTo: (path: string) => string | undefined;
}

export function linkEdits(document: PageDocument, moves: LinkMoves): Edit[] {
  const base = baseHref(document);
  const edits: Edit[] = [];
  for (const place of linkPlaces(document)) {
    const hrefs = place.hrefs.map((href) => follow(href, base, moves));
    if (hrefs.every((href, i) => href === place.hrefs[i])) continue;
    edits.push({ start: place.start, end: place.end, text: place.write(hrefs) });
  }
  return edits;
}

/**
 * Whether a reference, as it stands, leads to a path from a page's new place. One that climbs above
 * the root does not count, although browsers stop there: it would break once the site has a path.
 */
function leadsTo(href: string, page: string, base: string | undefined, path: string): boolean {
  const now = resolveHref(href, page, base);
  if (now.kind !== 'inside' || now.address.path !== path) return false;
  if (base !== undefined || /^[/\\]/.test(href)) return true;
  const deeper = resolveHref(href, `/-${page}`);
  return deeper.kind === 'inside' && deeper.address.path === `/-${path}`;
}

function follow(href: string, base: string | undefined, { before, after, movedTo }: LinkMoves): string {
  // "#part" and "" mean the page itself wherever it stands, unless a <base> says otherwise.
  if (base === undefined && (href === '' || href.startsWith('#'))) return href;
  const meant = resolveHref(href, before, base);
  if (meant.kind !== 'inside') return href;
  const movedPath = movedTo(meant.address.path);
  const path = movedPath ?? meant.address.path;
  if (leadsTo(href, after, base, path)) return href;
  const target = formatAddress({ path, query: meant.address.query });
  const isRooted = href.startsWith('/') || base !== undefined;
  const written = isRooted ? target : relativeReference(after, target);
  return meant.fragment === undefined ? written : `${written}#${meant.fragment}`;
}
