/** Where an import's files come from: an archive or a folder, read one file at a time. */
import type { NoteCode } from '@fastigium/contracts/messages/importNote';

export interface SourceEntry {
  /** Path in the site, in its one form. */
  readonly path: string;
  readonly declaredBytes: number;
  /** The whole content; throws EntryUnreadable where the source is damaged. */
  read(signal: AbortSignal): Promise<Buffer>;
}

export interface Note {
  readonly code: NoteCode;
  readonly path: string;
}

export interface ImportSource {
  readonly entries: readonly SourceEntry[];
  /** What an archive of a release says beside its files. */
  readonly beside?: SourceEntry | undefined;
  /** What was left out already, and why. */
  readonly notes: readonly Note[];
  close(): void;
}

/** A single file could not be read; the import goes on without it. */
export class EntryUnreadable extends Error {}
