/**
 * Links that follow: the edits a page needs because it moved itself, or because pages it points at
 * did. A link that still leads to the right place is not touched, so its bytes stay.
 */
import { relativiseReference, resolveHref } from '../address/index.ts';
import type { PageDocument } from './document.ts';
import { readBaseHref, linkPlaces, splitPath } from './links.ts';
import type { Edit } from './splice.ts';

export interface LinkMoves {
  /** The page's own address when it was written, and now. */
  readonly before: string;
  readonly after: string;
  /** Whether the page is a copy that stands beside the one it was made of: places in the page itself are its own. */
  readonly isCopy?: boolean;
  /** New address for an address path that moved; undefined for everything else. A path with a hash behind it means elements there. */
  readonly movedTo: (path: string) => string | undefined;
}

export function linkEdits(document: PageDocument, moves: LinkMoves): Edit[] {
  const base = readBaseHref(document);
  const edits: Edit[] = [];
  for (const place of linkPlaces(document)) {
    const hrefs = place.hrefs.map((href) => follow(href, base, moves));
    if (hrefs.every((href, i) => href === place.hrefs[i])) continue;
    edits.push(...place.rewrite(hrefs));
  }
  return edits;
}

/**
 * Whether a reference, as it stands, leads to a path from a page's new place. One that would only now climb
 * above the root does not count, although browsers stop there: it would break once the site has a path. One
 * that climbed there before is as its author left it.
 */
function leadsTo(href: string, base: string | undefined, { before, after }: LinkMoves, path: string): boolean {
  const now = resolveHref(href, after, base);
  if (now.kind !== 'inside' || now.address.path !== path) return false;
  return base !== undefined || staysInside(href, after) || !staysInside(href, before);
}

/** Whether a reference keeps below the root without a browser's help. */
function staysInside(href: string, page: string): boolean {
  if (/^[/\\]/.test(href)) return true;
  const deeper = resolveHref(href, `/-${page}`);
  return deeper.kind === 'inside' && deeper.address.path.startsWith('/-/');
}

function follow(href: string, base: string | undefined, moves: LinkMoves): string {
  const { before, after, movedTo } = moves;
  // "#part" and "" mean the page itself wherever it stands, unless a <base> says otherwise.
  if (base === undefined && (href === '' || href.startsWith('#'))) return href;
  const meant = resolveHref(href, before, base);
  if (meant.kind !== 'inside') return href;
  const isOwnPlace = moves.isCopy === true && meant.address.path === before && meant.fragment !== undefined;
  const followed =
    (meant.fragment === undefined ? undefined : movedTo(`${meant.address.path}#`)) ?? movedTo(meant.address.path);
  const path = isOwnPlace ? after : (followed ?? meant.address.path);
  if (leadsTo(href, base, moves, path)) return href;
  const isRooted = href.startsWith('/') || base !== undefined;
  return (isRooted ? path : relativiseReference(after, path)) + splitPath(href)[1];
}
