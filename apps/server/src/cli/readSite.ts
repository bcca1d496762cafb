/** A finished site from a folder or an archive, whole in memory, under the same limits and rules as an import. */
import { reason } from '@fastigium/contracts/messages/reason';
import type { SiteFile } from '@fastigium/core/checks';
import { noteOf } from '@fastigium/contracts/messages/importNote';
import { DomainError } from '@fastigium/contracts/errors';
import { stat } from 'node:fs/promises';
import { resolve } from 'node:path';
import { IMPORT_LIMITS } from '../config/config.ts';
import { openArchiveSource } from '../features/imports/archiveSource.ts';
import { openFolderSource } from '../features/imports/folderSource.ts';
import { EntryUnreadable } from '../features/imports/source.ts';
import { hashSha256 } from '../threads/tasks.ts';
import { speak } from '../words.ts';

export interface ReadSite {
  readonly files: readonly SiteFile[];
  /** What was left out, and why. */
  readonly notes: readonly { readonly path: string; readonly words: string }[];
}

export async function readSite(what: string): Promise<ReadSite> {
  const path = resolve(what);
  const facts = await stat(path);
  const source = facts.isDirectory()
    ? await openFolderSource(path, IMPORT_LIMITS)
    : await openArchiveSource(path, facts.size, IMPORT_LIMITS, new AbortController().signal);
  const notes = source.notes.map(({ code, path: file }) => ({ path: file, words: speak(noteOf(code)) }));
  const files: SiteFile[] = [];
  let totalBytes = 0;
  try {
    for (const entry of source.entries) {
      try {
        const bytes = await entry.read(new AbortController().signal);
        totalBytes += bytes.length;
        if (totalBytes > IMPORT_LIMITS.totalBytes)
          throw new DomainError('archive-expands', {
            detail: reason('more-bytes-than', { most: IMPORT_LIMITS.totalBytes }),
          });
        files.push({ path: entry.path, bytes, hash: hashSha256(bytes) });
      } catch (error) {
        if (!(error instanceof EntryUnreadable)) throw error;
        notes.push({ path: entry.path, words: speak(noteOf('unreadable')) });
      }
    }
  } finally {
    source.close();
  }
  if (files.length === 0) throw new DomainError('archive-empty');
  return { files, notes };
}
