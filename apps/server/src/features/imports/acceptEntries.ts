/** Which entries of an archive become files of the site, whatever the archive's kind. */
import type { ImportLimits } from '../../config/config.ts';
import { checkSitePath } from '../shared/sitePaths.ts';
import type { Note } from './source.ts';

export interface ListedEntry<Entry> {
  /** As the archive writes it. */
  readonly name: string;
  /** The letters of the name are a guess. */
  readonly isDoubtful: boolean;
  readonly isLink: boolean;
  readonly bytes: number;
  readonly entry: Entry;
}

export interface AcceptedEntries<Entry> {
  /** By path in the site, in its one form. */
  readonly accepted: Map<string, Entry>;
  readonly notes: readonly Note[];
  /** Of all that was accepted by its name. */
  readonly totalBytes: number;
}

/** Takes what may be a file of a site, and says of all else why it is left out. */
export function acceptEntries<Entry>(
  listed: Iterable<ListedEntry<Entry>>,
  limits: ImportLimits,
): AcceptedEntries<Entry> {
  const notes: Note[] = [];
  const accepted = new Map<string, Entry>();
  let totalBytes = 0;
  for (const { name, isDoubtful, isLink, bytes, entry } of listed) {
    const verdict = checkSitePath(name);
    if (!verdict.ok) notes.push({ code: verdict.note, path: name });
    else if (isLink) notes.push({ code: 'symbolic-link', path: verdict.path });
    else if (accepted.has(verdict.path)) notes.push({ code: 'doubled-path', path: verdict.path });
    else if (bytes > limits.fileBytes) notes.push({ code: 'too-large', path: verdict.path });
    else {
      if (isDoubtful) notes.push({ code: 'name-encoding', path: verdict.path });
      accepted.set(verdict.path, entry);
      totalBytes += bytes;
    }
  }
  const folders = listFolders(accepted.keys());
  for (const path of accepted.keys()) {
    if (folders.has(path) && accepted.delete(path)) notes.push({ code: 'file-and-folder', path });
  }
  return { accepted, notes, totalBytes };
}

/** Paths that are folders of other paths too. */
function listFolders(paths: Iterable<string>): Set<string> {
  const folders = new Set<string>();
  for (const path of paths)
    for (let at = path.lastIndexOf('/'); at > 0; at = path.lastIndexOf('/', at - 1)) folders.add(path.slice(0, at));
  return folders;
}
