/** What of this machine may be used: paths within those the operator has opened, whatever links lead out of them. */
import { DomainError } from '@fastigium/contracts/errors';
import { realpath } from 'node:fs/promises';
import { dirname, join, normalize, sep } from 'node:path';

/**
 * Views of the kernel and its devices (Filesystem Hierarchy Standard 3.0; sections 3.6, 6.1.5 and 6.1.7, from memory): no
 * site stands there, whatever is opened, and a folder that is made there may never be done.
 */
const NO_PLACES = ['/dev', '/proc', '/sys'];

const isBelow = (path: string, root: string): boolean =>
  path === root || path.startsWith(root.endsWith(sep) ? root : root + sep);

/** @param path whole; it need not be there yet. @param open whole paths of files or folders */
export async function isWithin(path: string, open: readonly string[]): Promise<boolean> {
  const real = await resolvePath(path);
  if (NO_PLACES.some((each) => isBelow(real, each))) return false;
  for (const each of open) {
    const root = await resolvePath(each);
    if (isBelow(real, root)) return true;
  }
  return false;
}

/** @param setting the name of what opens others */
export function placeShut(path: string, open: readonly string[], setting: string): DomainError {
  return new DomainError('host-place-shut', { path, open: open.join(', ') || 'none', setting });
}

/** With links followed as far as there is something. */
async function resolvePath(path: string): Promise<string> {
  const plain = normalize(path);
  try {
    return await realpath(plain);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT' || dirname(plain) === plain) return plain;
    return join(await resolvePath(dirname(plain)), plain.slice(dirname(plain).length));
  }
}
