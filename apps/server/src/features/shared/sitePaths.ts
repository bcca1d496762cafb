/** Which paths of an archive or a folder become files of a site. */
import type { NoteCode } from '@fastigium/contracts/messages/importNote';

/** The folder of a release that is taken along which is the site itself. */
export const SITE_FOLDER = 'site/';

// Longer names fail on common file systems and in the address lines of servers.
const MOST_PATH_LETTERS = 1024;

const LEFTOVER = /(^|\/)(__MACOSX\/.*|\.DS_Store|\._[^/]*|Thumbs\.db|desktop\.ini)$/i;

export type PathVerdict =
  { readonly ok: true; readonly path: string } | { readonly ok: false; readonly note: NoteCode };

/**
 * Brings a path to the one form kept here: forward slashes, no `.` segments, Unicode NFC (so that
 * an archive from a system that decomposes letters still matches its links). Anything that leads
 * out of the site, by `..`, a root, a drive or a NUL, is refused whole rather than cleaned.
 */
export function checkSitePath(name: string): PathVerdict {
  const slashed = name.replace(/\\/g, '/').normalize('NFC');
  if (slashed.startsWith('/') || /^[A-Za-z]:/.test(slashed) || /[\0-\x1f]/.test(slashed))
    return { ok: false, note: 'path-outside' };
  const segments = slashed.split('/').filter((segment) => segment !== '' && segment !== '.');
  if (segments.length === 0 || segments.includes('..')) return { ok: false, note: 'path-outside' };
  const path = segments.join('/');
  if (path.length > MOST_PATH_LETTERS) return { ok: false, note: 'path-too-long' };
  if (LEFTOVER.test(path)) return { ok: false, note: 'leftover' };
  return { ok: true, path };
}

/**
 * The folder that all files lie in, when the site was packed with its folder: `site/`. Empty when
 * the front page lies at the top, or the files lie in more than one folder.
 */
export function findCommonFolder(paths: readonly string[]): string {
  const first = paths[0]?.split('/') ?? [];
  let prefix = '';
  for (const segment of first.slice(0, -1)) {
    const longer = `${prefix}${segment}/`;
    if (paths.some((path) => !path.startsWith(longer))) break;
    prefix = longer;
    if (paths.some((path) => /^index\.html?$/i.test(path.slice(prefix.length)))) break;
  }
  return prefix;
}

/** Where the site lies: in a release that was taken along, in the folder named so; what is beside it is for servers. */
export function findSiteFolder(paths: readonly string[]): string {
  const isTakenAlong =
    paths.includes('release.json') &&
    paths.some((path) => path.startsWith(SITE_FOLDER)) &&
    paths.every((path) => BESIDE.test(path) || path.startsWith(SITE_FOLDER));
  return isTakenAlong ? SITE_FOLDER : findCommonFolder(paths);
}
const BESIDE = /^(release\.json|read-me\.txt|nginx\/[^/]+|apache\/[^/]+)$/;

/** Later ones of the paths that differ only in case from one before. */
export function findCaseClashes(paths: readonly string[]): string[] {
  const seen = new Set<string>();
  return paths.filter((path) => {
    const folded = path.toLowerCase();
    if (seen.has(folded)) return true;
    seen.add(folded);
    return false;
  });
}
