/** Manifests' shards in PostgreSQL. */
import { LRUCache } from 'lru-cache';
import { parseShard, findShard, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';

/** Texts of shards by hash, fetched in one go, as the core's functions want them. */
export async function readShardTexts(
  queries: Queries,
  hashes: Iterable<string | undefined>,
): Promise<(hash: string) => string> {
  const wanted = [...new Set([...hashes].filter((hash) => hash !== undefined && hash !== ''))];
  const texts = new Map<string, string>();
  if (wanted.length > 0) {
    const rows = await queries.many<{ hash: string; text: string }>(
      'select hash, text from manifest_shard where hash = any($1)',
      [wanted],
    );
    for (const { hash, text } of rows) texts.set(hash, text);
  }
  return (hash) => {
    const text = texts.get(hash);
    if (text === undefined) throw new Error(`manifest shard ${hash} is not kept`);
    return text;
  };
}

export async function keepShards(queries: Queries, texts: ReadonlyMap<string, string>): Promise<void> {
  if (texts.size === 0) return;
  await queries.run(
    `insert into manifest_shard (hash, text) select * from unnest($1::text[], $2::text[])
     on conflict (hash) do update set kept_at = now() where manifest_shard.kept_at < now() - interval '1 hour'`,
    [[...texts.keys()], [...texts.values()]],
  );
}

/** A shard is known by the hash of its text, so what was parsed once stays right for ever. Letters of the texts it came from. */
const parsed = new LRUCache<string, readonly ManifestEntry[]>({ maxSize: 32 * 1024 * 1024 });

/** All entries of a manifest, by path; shards that were read lately are not read again. */
export async function readAllEntries(queries: Queries, shards: ShardHashes): Promise<Map<string, ManifestEntry>> {
  const text = await readShardTexts(
    queries,
    shards.filter((hash) => !parsed.has(hash)),
  );
  const out = new Map<string, ManifestEntry>();
  for (const hash of shards) {
    if (hash === '') continue;
    let entries = parsed.get(hash);
    if (entries === undefined) {
      const source = text(hash);
      entries = parseShard(source);
      parsed.set(hash, entries, { size: source.length });
    }
    for (const entry of entries) out.set(entry.path, entry);
  }
  return out;
}

/** The entries of some paths, read from only the shards they fall into. */
export async function readEntries(
  queries: Queries,
  shards: ShardHashes,
  paths: readonly string[],
): Promise<Map<string, ManifestEntry>> {
  const hashes = paths.map((path) => shards[findShard(path)]);
  const text = await readShardTexts(queries, hashes);
  const wanted = new Set(paths);
  const out = new Map<string, ManifestEntry>();
  for (const hash of new Set(hashes)) {
    if (!hash) continue;
    for (const entry of parseShard(text(hash))) if (wanted.has(entry.path)) out.set(entry.path, entry);
  }
  return out;
}
