/** Publishing into a folder of this machine, which a web server there serves. */
import { randomUUID } from 'node:crypto';
import {
  access,
  link,
  lstat,
  mkdir,
  open,
  readdir,
  readFile,
  readlink,
  rename,
  rm,
  stat,
  statfs,
  symlink,
} from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { describeFullHost, probe, createReleaseFolders, type FilePlace } from './releaseFolders.ts';

export function createFolderHost(folder: string, url: string, log?: string): HostPort {
  const place = createFolderPlace(folder);
  return createReleaseFolders(
    (work) =>
      work(place).catch(async (error: unknown) => {
        throw await describeFolderError(error, folder);
      }),
    url,
    log,
  );
}

export async function probeFolder(folder: string): Promise<void> {
  try {
    await access(folder);
    await probe(createFolderPlace(folder));
  } catch (error) {
    throw await describeFolderError(error, folder);
  }
}

function createFolderPlace(folder: string): FilePlace {
  const at = (path: string) => join(folder, path);
  return {
    exists: (path) =>
      access(at(path)).then(
        () => true,
        () => false,
      ),
    read: (path) => readFile(at(path)).catch(handleMissing(undefined)),
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
      try {
        await link(at(from), at(to));
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        // From a try that was cut off, maybe before the content was whole.
        if ((await stat(at(to))).ino === (await stat(at(from))).ino) return;
        const temporary = `${at(to)}.${randomUUID()}`;
        await link(at(from), temporary);
        await rename(temporary, at(to));
      }
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
    sizeOf: (path) => stat(path).then(({ size }) => size, handleMissing(undefined)),
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
    readLink: (path) => readlink(at(path)).catch(handleMissing(undefined)),
    async list(path) {
      const names = await readdir(at(path)).catch(handleMissing<string[]>([]));
      return Promise.all(
        names.map(async (name) => ({ name, sizeBytes: (await lstat(join(at(path), name)).catch(() => NO_FILE)).size })),
      );
    },
  };
}

/** Gone between two looks. */
const NO_FILE = { size: -1 };

const handleMissing =
  <T>(value: T) =>
  (error: NodeJS.ErrnoException): T => {
    if (error.code === 'ENOENT') return value;
    throw error;
  };

async function describeFolderError(error: unknown, folder: string): Promise<unknown> {
  if (error instanceof DomainError) return error;
  const words: Readonly<Record<string, string>> = {
    ENOENT: 'it is not there',
    EACCES: 'Fastigium may not write in it',
    EPERM: 'Fastigium may not write in it',
    EROFS: 'it is read-only',
    ENOTDIR: 'it is a file, not a folder',
  };
  const { code = '', message } = error as NodeJS.ErrnoException;
  if (code === 'ENOSPC' || code === 'EDQUOT')
    return describeFullHost(
      await statfs(folder).then(
        ({ bavail, bsize }) => bavail * bsize,
        () => undefined,
      ),
      error,
    );
  return new DomainError('host-folder-unusable', { reason: words[code] ?? message }, { cause: error });
}
