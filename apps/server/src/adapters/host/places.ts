/** What of this machine may be used: paths within those the operator has opened, whatever links lead out of them. */
import { DomainError } from '@fastigium/contracts/errors';
import { realpath } from 'node:fs/promises';
import { dirname, join, normalize, sep } from 'node:path';

/** @param path whole; it need not be there yet. @param open whole paths of files or folders */
export async function isWithin(path: string, open: readonly string[]): Promise<boolean> {
  const real = await resolved(path);
  for (const each of open) {
    const root = await resolved(each);
    if (real === root || real.startsWith(root.endsWith(sep) ? root : root + sep)) return true;
  }
  return false;
}

/** @param setting the name of what opens others */
export function placeShut(path: string, open: readonly string[], setting: string): DomainError {
  return new DomainError('host-place-shut', { path, open: open.join(', ') || 'none', setting });
}

/** With links followed as far as there is something. */
async function resolved(path: string): Promise<string> {
  const plain = normalize(path);
  try {
    return await realpath(plain);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT' || dirname(plain) === plain) return plain;
    return join(await resolved(dirname(plain)), plain.slice(dirname(plain).length));
  }
}
