/** A folder on the server's own disk, for the demo, the benchmarks and the command line. */
import { reason } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { ImportLimits } from '../../config/config.ts';
import { checkSitePath } from '../shared/sitePaths.ts';
import type { ImportSource, Note, SourceEntry } from './source.ts';

export async function openFolderSource(folder: string, limits: ImportLimits): Promise<ImportSource> {
  const entries: SourceEntry[] = [];
  const notes: Note[] = [];
  for (const item of await readdir(folder, { recursive: true, withFileTypes: true })) {
    const file = join(item.parentPath, item.name);
    const name = file.slice(folder.length).replace(/^\/+/, '');
    if (item.isDirectory()) continue;
    const verdict = checkSitePath(name);
    if (!verdict.ok) notes.push({ code: verdict.note, path: name });
    else if (!item.isFile()) notes.push({ code: 'symbolic-link', path: verdict.path });
    else {
      const { size } = await stat(file);
      if (size > limits.fileBytes) notes.push({ code: 'too-large', path: verdict.path });
      else entries.push({ path: verdict.path, declaredBytes: size, read: (signal) => readFile(file, { signal }) });
    }
    if (entries.length > limits.files)
      throw new DomainError('archive-expands', { detail: reason('more-files-than', { most: limits.files }) });
  }
  return { entries: entries.sort((a, b) => (a.path < b.path ? -1 : 1)), notes, close: () => {} };
}
