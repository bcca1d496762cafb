/**
 * A site under a path: its files stand in that folder, and what pages and style sheets say from the root
 * is said from there. Relative references lead to the right place as they are, so their bytes stay.
 */
import { relativiseReference, resolveHref } from '../address/index.ts';
import { findCssUrls, decodeSource, splice } from '../html/index.ts';

/** The published path of a file: `visit/index.html` under `/museum` is `museum/visit/index.html`. */
export function placeUnderBase(basePath: string, path: string): string {
  return basePath === '' ? path : `${basePath.slice(1)}/${path}`;
}

/** The file's path inside the site; undefined for one that is not under the base path. */
export function stripBase(basePath: string, path: string): string | undefined {
  if (basePath === '') return path;
  const folder = `${basePath.slice(1)}/`;
  return path.startsWith(folder) ? path.slice(folder.length) : undefined;
}

/**
 * Where a link from the root leads: moved pages to their new address, everything under the base path.
 *
 * @param moves see movedAddresses
 */
export function mapMovesUnder(
  basePath: string,
  moves: ReadonlyMap<string, string>,
): (path: string) => string | undefined {
  if (basePath === '') return (path) => moves.get(path);
  return (path) => {
    const moved = moves.get(path);
    // Of elements at the front only those say something that moved away.
    return moved === undefined && path.endsWith('#') ? undefined : basePath + (moved ?? path);
  };
}

/**
 * A style sheet under the base path, with other pictures in place of some; the very same bytes where that
 * changes nothing.
 *
 * @param address of the style sheet inside the site
 * @param swaps see swapsOf
 */
export function compileStyle(
  bytes: Uint8Array,
  address: string,
  basePath: string,
  swaps: ReadonlyMap<string, string>,
): Uint8Array {
  if (basePath === '' && swaps.size === 0) return bytes;
  const source = decodeSource(bytes);
  const edits = findCssUrls(source.text).flatMap(({ url, start, end, write }) => {
    const href = url.trim();
    const meant = resolveHref(href, address);
    const swapped = meant.kind === 'inside' ? swaps.get(meant.address.path) : undefined;
    // Two slashes name another host (RFC 3986 section 4.2).
    const isRooted = /^\/(?!\/)/.test(href);
    if (swapped !== undefined)
      return [{ start, end, text: write(isRooted ? basePath + swapped : relativiseReference(address, swapped)) }];
    return isRooted && basePath !== '' ? [{ start, end, text: write(basePath + href) }] : [];
  });
  return splice(bytes, source, edits);
}
