/** Publishing into a folder of this machine, which a web server there serves. */
import { randomUUID } from 'node:crypto';
import { access, link, mkdir, open, readdir, readFile, readlink, rename, rm, stat, symlink } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { probe, releaseFolders, type FilePlace } from './releaseFolders.ts';

export function folderHost(folder: string, url: string, log?: string): HostPort {
  const place = folderPlace(folder);
  return releaseFolders(
    (work) =>
      work(place).catch((error: unknown) => {
        throw wordsOf(error);
      }),
    url,
    log,
  );
}

export async function probeFolder(folder: string): Promise<void> {
  try {
    await access(folder);
    await probe(folderPlace(folder));
  } catch (error) {
    throw wordsOf(error);
  }
}

function folderPlace(folder: string): FilePlace {
  const at = (path: string) => join(folder, path);
  return {
    exists: (path) =>
      access(at(path)).then(
        () => true,
        () => false,
      ),
    read: (path) => readFile(at(path)).catch(ifMissing(undefined)),
    async write(path, bytes) {
      await mkdir(dirname(at(path)), { recursive: true });
      const temporary = `${at(path)}.${randomUUID()}`;
      try {
        const file = await open(temporary, 'wx');
        try {
          await file.writeFile(bytes);
          await file.sync();
        } finally {
          await file.close();
        }
        await rename(temporary, at(path));
      } catch (error) {
        await rm(temporary, { force: true }).catch(() => {});
        throw error;
      }
    },
    async link(from, to) {
      await link(at(from), at(to)).catch((error: NodeJS.ErrnoException) => {
        // An earlier try was cut off after this one.
        if (error.code !== 'EEXIST') throw error;
      });
    },
    remove: (path) => rm(at(path), { recursive: true, force: true }),
    async makeFolder(path) {
      await mkdir(at(path), { recursive: true });
    },
    async pointLink(path, target) {
      const temporary = `${at(path)}.${randomUUID()}`;
      await symlink(target, temporary);
      // rename(2) replaces the link itself, in one step.
      await rename(temporary, at(path));
    },
    sizeOf: (path) => stat(path).then(({ size }) => size, ifMissing(undefined)),
    async readPart(path, from, length) {
      const file = await open(path, 'r');
      try {
        const bytes = Buffer.alloc(length);
        const { bytesRead } = await file.read(bytes, 0, length, from);
        return bytes.subarray(0, bytesRead);
      } finally {
        await file.close();
      }
    },
    readLink: (path) => readlink(at(path)).catch(ifMissing(undefined)),
    list: (path) => readdir(at(path)).catch(ifMissing([])),
  };
}

const ifMissing =
  <T>(value: T) =>
  (error: NodeJS.ErrnoException): T => {
    if (error.code === 'ENOENT') return value;
    throw error;
  };

function wordsOf(error: unknown): unknown {
  if (error instanceof DomainError) return error;
  const words: Readonly<Record<string, string>> = {
    ENOENT: 'it is not there',
    EACCES: 'Fastigium may not write in it',
    EPERM: 'Fastigium may not write in it',
    ENOSPC: 'the disk is full',
    EROFS: 'it is read-only',
    ENOTDIR: 'it is a file, not a folder',
    EDQUOT: 'the quota is used up',
  };
  const { code = '', message } = error as NodeJS.ErrnoException;
  return new DomainError('host-folder-unusable', { reason: words[code] ?? message }, { cause: error });
}
