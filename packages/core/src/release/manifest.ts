/**
 * A release's manifest: every path with its content, in a two-level hash tree.
 *
 * Paths are spread over 256 shards by a hash of the path; a shard is known by the SHA-256 of its
 * text, the manifest by the SHA-256 of its shards' hashes. So two releases are compared, stored and
 * sent at the cost of what differs between them, however large the site is, and equal contents have
 * equal roots on every machine. The shape is Merkle's (US 4309569; RFC 9162 section 2.1 has a
 * binary relative); the flat fan-out keeps a shard of a 10,000-file site near 40 entries.
 */
import type { FileHeaders } from './mediaType.ts';

export interface ManifestEntry {
  /** Path of the published file, without leading slash: `visit/index.html`. */
  readonly path: string;
  /** SHA-256 of the content, 64 lower-case hex digits. */
  readonly hash: string;
  readonly sizeBytes: number;
  readonly headers: FileHeaders;
}

export const SHARD_COUNT = 256;

/** Text to 64 hex digits; the caller brings its platform's SHA-256. */
export type Sha256 = (text: string) => string;

/** Hashes of the 256 shards, in order; the empty string for a shard without entries. */
export type ShardHashes = readonly string[];

export const emptyManifest: ShardHashes = Array.from({ length: SHARD_COUNT }, () => '');

/** 32-bit FNV-1a over UTF-16 units, folded to 8 bits (IETF draft-eastlake-fnv, section 3). */
export function findShard(path: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < path.length; i += 1) {
    hash = Math.imul(hash ^ path.charCodeAt(i), 0x01000193);
  }
  return (hash ^ (hash >>> 8) ^ (hash >>> 16) ^ (hash >>> 24)) & 0xff;
}

/** A shard's canonical text: a line an entry, by path. */
export function serialiseShard(entries: Iterable<ManifestEntry>): string {
  return [...entries]
    .sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0))
    .map(({ path, hash, sizeBytes, headers }) => {
      const sorted = Object.entries(headers).sort(([a], [b]) => (a < b ? -1 : 1));
      return `${JSON.stringify([path, hash, sizeBytes, Object.fromEntries(sorted)])}\n`;
    })
    .join('');
}

/** The inverse of `serialiseShard`; only for text this module wrote and whose hash was checked. */
export function parseShard(text: string): ManifestEntry[] {
  return text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => {
      const [path, hash, sizeBytes, headers] = JSON.parse(line) as [string, string, number, FileHeaders];
      return { path, hash, sizeBytes, headers };
    });
}

export function computeRoot(shards: ShardHashes, sha256: Sha256): string {
  return sha256(shards.join('\n'));
}

/** What turns one manifest into another. A path stands in at most one of the two lists. */
export interface ManifestDelta {
  readonly put: readonly ManifestEntry[];
  readonly remove: readonly string[];
}

/** Shards a delta touches, ascending. */
export function findTouchedShards({ put, remove }: ManifestDelta): number[] {
  const touched = new Set<number>();
  for (const { path } of put) touched.add(findShard(path));
  for (const path of remove) touched.add(findShard(path));
  return [...touched].sort((a, b) => a - b);
}

export interface ChangedManifest {
  readonly shards: ShardHashes;
  /** Text of every shard that is new, by its hash. */
  readonly texts: ReadonlyMap<string, string>;
  /** How many entries and bytes there are more than before; negative for fewer. */
  readonly filesMore: number;
  readonly bytesMore: number;
}

/** @param shardText the text of a shard of `before`, asked only for the shards the delta touches. */
export function applyDelta(
  before: ShardHashes,
  shardText: (hash: string) => string,
  delta: ManifestDelta,
  sha256: Sha256,
): ChangedManifest {
  const shards = [...before];
  const texts = new Map<string, string>();
  let filesMore = 0;
  let bytesMore = 0;
  const removed = new Set(delta.remove);
  const put = new Map<number, ManifestEntry[]>();
  for (const entry of delta.put) {
    const index = findShard(entry.path);
    const group = put.get(index);
    if (group) group.push(entry);
    else put.set(index, [entry]);
  }
  for (const index of findTouchedShards(delta)) {
    const hash = shards[index] ?? '';
    const entries = new Map((hash === '' ? [] : parseShard(shardText(hash))).map((entry) => [entry.path, entry]));
    const [filesBefore, bytesBefore] = [entries.size, sumBytes(entries.values())];
    for (const path of entries.keys()) if (removed.has(path)) entries.delete(path);
    for (const entry of put.get(index) ?? []) entries.set(entry.path, entry);
    filesMore += entries.size - filesBefore;
    bytesMore += sumBytes(entries.values()) - bytesBefore;
    const text = serialiseShard(entries.values());
    const changed = text === '' ? '' : sha256(text);
    if (changed !== '') texts.set(changed, text);
    shards[index] = changed;
  }
  return { shards, texts, filesMore, bytesMore };
}

function sumBytes(entries: Iterable<ManifestEntry>): number {
  let sum = 0;
  for (const { sizeBytes } of entries) sum += sizeBytes;
  return sum;
}

/** Indices of the shards in which two manifests differ. */
export function findDifferingShards(a: ShardHashes, b: ShardHashes): number[] {
  return emptyManifest.map((_, index) => index).filter((index) => (a[index] ?? '') !== (b[index] ?? ''));
}
