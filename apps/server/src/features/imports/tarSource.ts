/**
 * A tar archive, plain or packed with gzip. Source: POSIX.1-2017, pax (the ustar and pax interchange formats), and
 * RFC 1952 for gzip. Its files cannot be reached one by one, so they are laid out once in a file of our own.
 */
import { reason } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import { createReadStream, rmSync } from 'node:fs';
import { mkdtemp, open, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { extract } from 'tar-stream';
import type { ImportLimits } from '../../config/config.ts';
import { acceptEntries, type ListedEntry } from './acceptEntries.ts';
import { SITE_FOLDER, findSiteFolder } from '../shared/sitePaths.ts';
import type { ImportSource, SourceEntry } from './source.ts';
import { RELEASE_FILE } from './takenAlong.ts';

/** Where a file's content lies in the file of contents. */
interface Place {
  readonly start: number;
  readonly bytes: number;
}

export async function openTarSource(
  file: string,
  isGzip: boolean,
  limits: ImportLimits,
  signal: AbortSignal,
): Promise<ImportSource> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-tar-'));
  const contents = await open(join(folder, 'contents'), 'w+');
  const close = () => {
    // It goes with its folder, closed or not.
    contents.close().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  };
  try {
    const { accepted, notes } = acceptEntries((await layOut(file, isGzip, contents, limits, signal)).values(), limits);
    const site = findSiteFolder([...accepted.keys()]);
    const entries = [...accepted]
      .filter(([path]) => path.startsWith(site))
      .map(([path, place]) => createTarEntry(contents, path.slice(site.length), place));
    const beside = site === SITE_FOLDER ? accepted.get(RELEASE_FILE) : undefined;
    return { entries, notes, beside: beside && createTarEntry(contents, RELEASE_FILE, beside), close };
  } catch (error) {
    close();
    if (error instanceof DomainError || signal.aborted) throw error;
    throw new DomainError('archive-unreadable', { detail: (error as Error).message }, { cause: error });
  }
}

/** By name: of a file that was added again, the later one counts, as it does for every program that unpacks. */
async function layOut(
  file: string,
  isGzip: boolean,
  contents: FileHandle,
  limits: ImportLimits,
  signal: AbortSignal,
): Promise<Map<string, ListedEntry<Place>>> {
  const listed = new Map<string, ListedEntry<Place>>();
  // The oldest form names no format; its checksum is proved all the same. The package's types do not know the option.
  const entries = extract({ allowUnknownFormat: true } as Parameters<typeof extract>[0]);
  const read = isGzip
    ? pipeline(createReadStream(file), createGunzip(), entries, { signal })
    : pipeline(createReadStream(file), entries, { signal });
  let end = 0;
  const take = async () => {
    for await (const entry of entries) {
      const { name, type, linkname } = entry.header;
      const start = end;
      // What is too large is not kept, only counted, so that it can be named.
      const bytes = await copyContent(entry as AsyncIterable<Buffer>, contents, start, limits, (sum) => {
        if (start + sum > limits.totalBytes)
          throw new DomainError('archive-expands', {
            detail: reason('more-bytes-than', { most: limits.totalBytes }),
          });
      });
      end += bytes > limits.fileBytes ? 0 : bytes;
      if (type === 'directory') continue;
      // A file with two names stands whole under the first of them only.
      const same = type === 'link' ? listed.get(linkname ?? '') : undefined;
      const place = same?.entry ?? { start, bytes };
      const isLink = !same && type !== 'file' && type !== 'contiguous-file';
      listed.set(name, { name, isDoubtful: name.includes('\uFFFD'), isLink, bytes: place.bytes, entry: place });
      if (listed.size > limits.files)
        throw new DomainError('archive-expands', { detail: reason('more-files-than', { most: limits.files }) });
    }
  };
  try {
    await Promise.all([read, take()]);
  } catch (error) {
    entries.destroy();
    await read.catch(() => undefined);
    throw error;
  }
  return listed;
}

async function copyContent(
  entry: AsyncIterable<Buffer>,
  contents: FileHandle,
  start: number,
  limits: ImportLimits,
  onSum: (bytes: number) => void,
): Promise<number> {
  let bytes = 0;
  for await (const piece of entry) {
    bytes += piece.length;
    onSum(bytes);
    if (bytes <= limits.fileBytes) await contents.write(piece, 0, piece.length, start + bytes - piece.length);
  }
  return bytes;
}

function createTarEntry(contents: FileHandle, path: string, { start, bytes }: Place): SourceEntry {
  return {
    path,
    declaredBytes: bytes,
    read: async (signal) => {
      signal.throwIfAborted();
      const { buffer } = await contents.read(Buffer.alloc(bytes), 0, bytes, start);
      return buffer;
    },
  };
}
