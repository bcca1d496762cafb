/**
 * Between files and addresses: which address a file of a static site answers at, and which file
 * answers an address. The rule is the one nearly every web server has as its default: a folder's
 * `index.html` answers at the folder's address with its slash, any other file at its own path
 * (common practice).
 */
import { decodePath, encodePath } from './percent.ts';

const INDEX = /(^|\/)index\.html?$/i;
const PAGE = /\.(html?|xhtml)$/i;

/** Whether a file is a page, by its name. */
export function isPageFile(path: string): boolean {
  return PAGE.test(path);
}

/** `visit/index.html` answers at `/visit/`, `about us.html` at `/about%20us.html`. */
export function findAddressOfFile(path: string): string {
  return `/${encodePath(path.replace(INDEX, '$1'))}`;
}

/** Whether an address path means the front page, as a folder or by its file. */
export function isFront(path: string): boolean {
  return /^\/(index\.html?)?$/i.test(path);
}

/**
 * The file that is published for a page's address: `/visit/` is `visit/index.html`, and `/visit` is
 * `visit.html`, since a folder of that name may hold the pages below it.
 */
export function findFileOfAddress(address: string): string | undefined {
  const path = decodePath(address.slice(1));
  if (path === undefined) return undefined;
  if (path === '' || path.endsWith('/')) return `${path}index.html`;
  return PAGE.test(path) ? path : `${path}.html`;
}

/** Files that may answer an address path, the first that exists does. */
export function listCandidateFiles(path: string): readonly string[] {
  const file = decodePath(path.slice(1));
  if (file === undefined) return [];
  return file === '' || file.endsWith('/') ? [`${file}index.html`, `${file}index.htm`] : [file];
}
