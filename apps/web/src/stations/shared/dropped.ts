/** What was dropped or chosen: one archive, or files with their paths, which are packed into one. */
import { say } from './words.ts';

export interface Dropped {
  readonly name: string;
  readonly bytes: number;
  readonly files: readonly { readonly path: string; readonly file: File }[];
}

function describe(name: string, files: Dropped['files']): Dropped {
  if (files.length === 0) throw new Error(say('dropped.thereIsNoFileIn'));
  return { name, files, bytes: files.reduce((sum, { file }) => sum + file.size, 0) };
}

/** Sent as they are; what the server cannot unpack it refuses with the reason, rather than take it for a site of one file. */
const ARCHIVE = /\.(zip|tar|t[gxbz]z2?|tzst|tar\.(gz|zst|xz|bz2)|7z|rar)$/i;
const isArchive = (file: File) => ARCHIVE.test(file.name) || file.type === 'application/zip';

/** The name of a site that came so named. */
export const stripEnding = (name: string): string => name.replace(ARCHIVE, '');

export async function fromFiles(files: readonly File[]): Promise<Dropped> {
  const [first] = files;
  if (files.length === 1 && first && first.webkitRelativePath === '')
    return describe(first.name, [{ path: first.name, file: first }]);
  const folder = first?.webkitRelativePath.split('/')[0] ?? 'site';
  return describe(
    folder,
    files.map((file) => ({ path: file.webkitRelativePath || file.name, file })),
  );
}

export async function fromDrop(transfer: DataTransfer): Promise<Dropped> {
  // Entries have to be taken before anything is awaited: the transfer is emptied afterwards.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  const files: { path: string; file: File }[] = [];
  for (const entry of entries) await collect(entry, files);
  return describe(entries[0]?.name ?? 'site', files);
}

async function collect(entry: FileSystemEntry, into: { path: string; file: File }[]): Promise<void> {
  if (isFile(entry)) {
    const file = await new Promise<File>((resolve, reject) => entry.file(resolve, reject));
    into.push({ path: entry.fullPath.replace(/^\//, ''), file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A reader hands out a hundred or so at a time; an empty answer is the end (File and Directory Entries API).
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (batch.length === 0) return;
    for (const child of batch) await collect(child, into);
  }
}

function isFile(entry: FileSystemEntry): entry is FileSystemFileEntry {
  return entry.isFile;
}

export async function packAsZip({ files }: Dropped): Promise<Blob> {
  const [only] = files;
  if (files.length === 1 && only && isArchive(only.file)) return only.file;
  const { downloadZip } = await import('client-zip');
  return downloadZip(
    files.map(({ path, file }) => ({ name: path, input: file, lastModified: new Date(file.lastModified) })),
  ).blob();
}
