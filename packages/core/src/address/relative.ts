/**
 * The shortest honest relative reference from one address to another, for links that were written
 * relative in the source and have to be written anew after a page moved.
 * Source: the inverse of RFC 3986 section 5.2; the laws are held in relative.test.ts.
 */
import { splitAddress } from './address.ts';

export function relativiseReference(from: string, to: string): string {
  const source = splitAddress(from);
  const target = splitAddress(to);
  const query = target.query === undefined ? '' : `?${target.query}`;
  const fromFolders = source.path.split('/').slice(1, -1);
  const toParts = target.path.split('/').slice(1);
  const name = toParts.pop() ?? '';
  let shared = 0;
  while (shared < fromFolders.length && shared < toParts.length && fromFolders[shared] === toParts[shared]) {
    shared += 1;
  }
  const down = toParts.slice(shared);
  // Empty segments ("//") cannot be reached relatively without being read as a host: say it in full.
  if (down.includes('') && down[0] === '') return to;
  const path = '../'.repeat(fromFolders.length - shared) + down.map((part) => `${part}/`).join('') + name;
  if (path === '') return `./${query}`;
  // RFC 3986 section 4.2: a first segment with a colon would be read as a scheme.
  return (/^[^/]*:/.test(path) ? './' : '') + path + query;
}
