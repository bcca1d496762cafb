/** A zip archive, read by its central directory and never trusted. */
import { reason } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import { open as openFile, type FileHandle } from 'node:fs/promises';
import { promisify } from 'node:util';
import { open, type Entry, type Options, type ZipFile } from 'yauzl';
import type { ImportLimits } from '../../config/config.ts';
import { acceptEntries } from './acceptEntries.ts';
import { SITE_FOLDER, findSiteFolder } from '../shared/sitePaths.ts';
import { EntryUnreadable, type ImportSource, type SourceEntry } from './source.ts';
import { RELEASE_FILE } from './takenAlong.ts';
import { trimZip } from './trimZip.ts';
import { decodeZipName } from './zipName.ts';

const openZip = promisify<string, Options, ZipFile>(open);

/**
 * An archive of text packs to a twentieth at best; a hundredfold is still let pass while it is
 * small, since a page of spaces is no attack.
 */
const MOST_RATIO = 100;
const RATIO_COUNTS_FROM_BYTES = 64 * 1024 * 1024;

// Upper half of the external attributes, for archives made on Unix (APPNOTE 4.4.15; S_IFLNK of POSIX).
const isSymbolicLink = (entry: Entry) => ((entry.externalFileAttributes >>> 16) & 0o170000) === 0o120000;

/** `file` may be trimmed into a copy beside it, which is the caller's to remove. */
export async function openZipSource(file: string, sizeBytes: number, limits: ImportLimits): Promise<ImportSource> {
  const { zip, path: archive } = await openArchive(file);
  try {
    const listed = (await listEntries(zip, archive, limits)).map((entry) => {
      const { name, doubtful } = decodeZipName(
        entry.fileName as unknown as Buffer,
        entry.generalPurposeBitFlag,
        entry.extraFields,
      );
      return { name, isDoubtful: doubtful, isLink: isSymbolicLink(entry), bytes: entry.uncompressedSize, entry };
    });
    const { accepted, notes, totalBytes } = acceptEntries(
      listed.filter(({ name }) => !name.endsWith('/')),
      limits,
    );
    refuseBomb(totalBytes, sizeBytes, limits);
    const folder = findSiteFolder([...accepted.keys()]);
    const entries = [...accepted]
      .filter(([path]) => path.startsWith(folder))
      .map(([path, entry]) => createZipEntry(zip, path.slice(folder.length), entry));
    const beside = folder === SITE_FOLDER ? accepted.get(RELEASE_FILE) : undefined;
    return { entries, notes, beside: beside && createZipEntry(zip, RELEASE_FILE, beside), close: () => zip.close() };
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function openArchive(file: string): Promise<{ zip: ZipFile; path: string }> {
  // Names are decoded here, since the package refuses the whole archive for one bad name.
  const options = { lazyEntries: true, decodeStrings: false, autoClose: false, validateEntrySizes: true };
  const trimmed = `${file}.trimmed`;
  try {
    const path = (await trimZip(file, trimmed)) ? trimmed : file;
    return { zip: await openZip(path, options), path };
  } catch (error) {
    throw new DomainError('archive-unreadable', { detail: (error as Error).message }, { cause: error });
  }
}

function refuseBomb(totalBytes: number, archiveBytes: number, limits: ImportLimits): void {
  if (totalBytes > limits.totalBytes)
    throw new DomainError('archive-expands', { detail: reason('so-many-bytes', { size: totalBytes }) });
  if (totalBytes > RATIO_COUNTS_FROM_BYTES && totalBytes > archiveBytes * MOST_RATIO) {
    throw new DomainError('archive-expands', {
      detail: reason('expands-far', { size: totalBytes, archive: archiveBytes }),
    });
  }
}

/**
 * Every entry the directory holds, not only as many as its end says: the count has 16 bits, and programs that pack
 * more than 65,535 files without the larger form let it run over (common practice, no source).
 */
async function listEntries(zip: ZipFile, archive: string, limits: ImportLimits): Promise<Entry[]> {
  const handle = await openFile(archive);
  try {
    return await new Promise((resolve, reject) => {
      const entries: Entry[] = [];
      const fail = (error: Error) =>
        reject(new DomainError('archive-unreadable', { detail: error.message }, { cause: error }));
      zip.on('error', fail);
      zip.on('end', () => {
        // The package's types call this place in the file a truth value.
        void isEntryAt(handle, Number(zip.readEntryCursor)).then((isMore) => {
          if (!isMore) {
            resolve(entries);
            return;
          }
          zip.entryCount += 1;
          zip.readEntry();
        }, fail);
      });
      zip.on('entry', (entry: Entry) => {
        entries.push(entry);
        // Counted here and not taken from the directory's own count, which an archive may lie about.
        if (entries.length > limits.files) {
          reject(new DomainError('archive-expands', { detail: reason('more-files-than', { most: limits.files }) }));
          return;
        }
        zip.readEntry();
      });
      zip.readEntry();
    });
  } finally {
    await handle.close();
  }
}

// PKWARE APPNOTE 6.3.10, section 4.3.12: the signature of an entry in the central directory.
const CENTRAL_SIGNATURE = 0x02014b50;

async function isEntryAt(handle: FileHandle, place: number): Promise<boolean> {
  const { bytesRead, buffer } = await handle.read(Buffer.alloc(4), 0, 4, place);
  return bytesRead === 4 && buffer.readUInt32LE(0) === CENTRAL_SIGNATURE;
}

function createZipEntry(zip: ZipFile, path: string, entry: Entry): SourceEntry {
  return {
    path,
    declaredBytes: entry.uncompressedSize,
    read: (signal) =>
      new Promise((resolve, reject) => {
        if (entry.isEncrypted()) {
          reject(new EntryUnreadable('it is encrypted'));
          return;
        }
        zip.openReadStream(entry, (error, stream) => {
          if (error) {
            reject(new EntryUnreadable(error.message, { cause: error }));
            return;
          }
          const pieces: Buffer[] = [];
          const abort = () => stream.destroy(signal.reason as Error);
          signal.addEventListener('abort', abort, { once: true });
          stream.on('data', (piece: Buffer) => pieces.push(piece));
          stream.on('error', (cause: Error) => {
            signal.removeEventListener('abort', abort);
            reject(signal.aborted ? cause : new EntryUnreadable(cause.message, { cause }));
          });
          stream.on('end', () => {
            signal.removeEventListener('abort', abort);
            resolve(Buffer.concat(pieces));
          });
        });
      }),
  };
}
