/** What differs between two releases, file by file. */
import {
  findDifferingShards,
  parseShard,
  type ManifestDelta,
  type ManifestEntry,
  type ShardHashes,
} from './manifest.ts';

export interface ReleaseDifference {
  readonly added: readonly ManifestEntry[];
  readonly changed: readonly { readonly before: ManifestEntry; readonly after: ManifestEntry }[];
  readonly removed: readonly ManifestEntry[];
  /** The same content under another path: nothing has to be sent for it. */
  readonly moved: readonly { readonly before: ManifestEntry; readonly after: ManifestEntry }[];
}

/** @param shardText the text of a shard by its hash, asked only for shards that differ. */
export function compareReleases(
  before: ShardHashes,
  after: ShardHashes,
  shardText: (hash: string) => string,
): ReleaseDifference {
  const entriesOf = (hash: string | undefined) => (hash ? parseShard(shardText(hash)) : []);
  const old = new Map<string, ManifestEntry>();
  const now = new Map<string, ManifestEntry>();
  for (const index of findDifferingShards(before, after)) {
    for (const entry of entriesOf(before[index])) old.set(entry.path, entry);
    for (const entry of entriesOf(after[index])) now.set(entry.path, entry);
  }
  const changed: { before: ManifestEntry; after: ManifestEntry }[] = [];
  const added: ManifestEntry[] = [];
  for (const entry of now.values()) {
    const was = old.get(entry.path);
    if (was === undefined) added.push(entry);
    else if (!isSameEntry(was, entry)) changed.push({ before: was, after: entry });
  }
  const removed = [...old.values()].filter(({ path }) => !now.has(path));
  return { changed: changed.sort((a, b) => compareByPath(a.after, b.after)), ...pairMoves(added, removed) };
}

function isSameEntry(a: ManifestEntry, b: ManifestEntry): boolean {
  if (a.hash !== b.hash) return false;
  const names = new Set([...Object.keys(a.headers), ...Object.keys(b.headers)]);
  return [...names].every((name) => a.headers[name] === b.headers[name]);
}

function compareByPath(a: ManifestEntry, b: ManifestEntry): number {
  return a.path < b.path ? -1 : a.path > b.path ? 1 : 0;
}

/** Pairs each added entry with a removed one of the same content, in path order. */
function pairMoves(added: readonly ManifestEntry[], removed: readonly ManifestEntry[]) {
  const byHash = new Map<string, ManifestEntry[]>();
  for (const entry of [...removed].sort(compareByPath))
    byHash.set(entry.hash, [...(byHash.get(entry.hash) ?? []), entry]);
  const moved: { before: ManifestEntry; after: ManifestEntry }[] = [];
  const reallyAdded = [...added].sort(compareByPath).filter((entry) => {
    const before = byHash.get(entry.hash)?.shift();
    if (before) moved.push({ before, after: entry });
    return before === undefined;
  });
  return { moved, added: reallyAdded, removed: [...byHash.values()].flat().sort(compareByPath) };
}

/** The delta that makes `after` out of `before`. */
export function deriveDelta({ added, changed, removed, moved }: ReleaseDifference): ManifestDelta {
  return {
    put: [...added, ...changed.map(({ after }) => after), ...moved.map(({ after }) => after)],
    remove: [...removed, ...moved.map(({ before }) => before)].map(({ path }) => path),
  };
}
