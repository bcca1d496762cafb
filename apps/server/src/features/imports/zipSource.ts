/** A zip archive, read by its central directory and never trusted. */
import { DomainError } from '@fastigium/contracts/errors';
import { promisify } from 'node:util';
import { open, type Entry, type Options, type ZipFile } from 'yauzl';
import type { ImportLimits } from '../../config.ts';
import { SITE_FOLDER, siteFolder, sitePath } from './paths.ts';
import { EntryUnreadable, type ImportSource, type Note, type SourceEntry } from './source.ts';
import { RELEASE_FILE } from './takenAlong.ts';
import { trimZip } from './trimZip.ts';
import { zipName } from './zipName.ts';

const openZip = promisify<string, Options, ZipFile>(open);

/**
 * An archive of text packs to a twentieth at best; a hundredfold is still let pass while it is
 * small, since a page of spaces is no attack.
 */
const MOST_RATIO = 100;
const RATIO_COUNTS_FROM_BYTES = 64 * 1024 * 1024;

// Upper half of the external attributes, for archives made on Unix (APPNOTE 4.4.15; S_IFLNK of POSIX).
const isSymbolicLink = (entry: Entry) => (entry.externalFileAttributes >>> 16 & 0o170000) === 0o120000;

export async function zipSource(file: string, sizeBytes: number, limits: ImportLimits): Promise<ImportSource> {
  const zip = await openArchive(file);
  try {
    const listed = await listEntries(zip, limits);
    const notes: Note[] = [];
    const accepted = new Map<string, Entry>();
    let total = 0;
    for (const entry of listed) {
      const { name, doubtful } = zipName(entry.fileName as unknown as Buffer, entry.generalPurposeBitFlag, entry.extraFields);
      if (name.endsWith('/')) continue;
      const verdict = sitePath(name);
      if (!verdict.ok) notes.push({ code: verdict.note, path: name });
      else if (isSymbolicLink(entry)) notes.push({ code: 'symbolic-link', path: verdict.path });
      else if (accepted.has(verdict.path)) notes.push({ code: 'doubled-path', path: verdict.path });
      else if (entry.uncompressedSize > limits.fileBytes) notes.push({ code: 'too-large', path: verdict.path });
      else {
        if (doubtful) notes.push({ code: 'name-encoding', path: verdict.path });
        accepted.set(verdict.path, entry);
        total += entry.uncompressedSize;
      }
    }
    const folders = foldersAmong(accepted.keys());
    for (const path of accepted.keys()) {
      if (folders.has(path) && accepted.delete(path)) notes.push({ code: 'file-and-folder', path });
    }
    refuseBomb(total, sizeBytes, limits);
    const folder = siteFolder([...accepted.keys()]);
    const entries = [...accepted].filter(([path]) => path.startsWith(folder)).map(([path, entry]) => zipEntry(zip, path.slice(folder.length), entry));
    const beside = folder === SITE_FOLDER ? accepted.get(RELEASE_FILE) : undefined;
    return { entries, notes, beside: beside && zipEntry(zip, RELEASE_FILE, beside), close: () => zip.close() };
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function openArchive(file: string): Promise<ZipFile> {
  // Names are decoded here, since the package refuses the whole archive for one bad name.
  const options = { lazyEntries: true, decodeStrings: false, autoClose: false, validateEntrySizes: true };
  const trimmed = `${file}.trimmed`;
  try {
    return await openZip((await trimZip(file, trimmed)) ? trimmed : file, options);
  } catch (error) {
    throw new DomainError('archive-unreadable', { detail: (error as Error).message }, { cause: error });
  }
}

/** Paths that are folders of other paths too. */
function foldersAmong(paths: Iterable<string>): Set<string> {
  const folders = new Set<string>();
  for (const path of paths) for (let at = path.lastIndexOf('/'); at > 0; at = path.lastIndexOf('/', at - 1)) folders.add(path.slice(0, at));
  return folders;
}

function refuseBomb(totalBytes: number, archiveBytes: number, limits: ImportLimits): void {
  const mebibytes = Math.round(totalBytes / 1024 / 1024);
  if (totalBytes > limits.totalBytes) throw new DomainError('archive-expands', { detail: `${mebibytes} MiB` });
  if (totalBytes > RATIO_COUNTS_FROM_BYTES && totalBytes > archiveBytes * MOST_RATIO) {
    throw new DomainError('archive-expands', { detail: `${mebibytes} MiB out of ${Math.ceil(archiveBytes / 1024)} KiB` });
  }
}

function listEntries(zip: ZipFile, limits: ImportLimits): Promise<Entry[]> {
  return new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    const fail = (error: Error) => reject(new DomainError('archive-unreadable', { detail: error.message }, { cause: error }));
    zip.on('error', fail);
    zip.on('end', () => resolve(entries));
    zip.on('entry', (entry: Entry) => {
      entries.push(entry);
      // Counted here and not taken from the directory's own count, which an archive may lie about.
      if (entries.length > limits.files) {
        reject(new DomainError('archive-expands', { detail: `more than ${limits.files.toLocaleString('en')} files` }));
        return;
      }
      zip.readEntry();
    });
    zip.readEntry();
  });
}

function zipEntry(zip: ZipFile, path: string, entry: Entry): SourceEntry {
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
