/** Manifests' shards in PostgreSQL. */
import { parseShard, shardOf, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import type { Queries } from '../db/database.ts';

/** Texts of shards by hash, fetched in one go, as the core's functions want them. */
export async function shardTexts(queries: Queries, hashes: Iterable<string | undefined>): Promise<(hash: string) => string> {
  const wanted = [...new Set([...hashes].filter((hash) => hash !== undefined && hash !== ''))];
  const texts = new Map<string, string>();
  if (wanted.length > 0) {
    const rows = await queries.many<{ hash: string; text: string }>('select hash, text from manifest_shard where hash = any($1)', [wanted]);
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
  await queries.run('insert into manifest_shard (hash, text) select * from unnest($1::text[], $2::text[]) on conflict do nothing', [
    [...texts.keys()], [...texts.values()],
  ]);
}

/** The entries of some paths, read from only the shards they fall into. */
export async function entriesOf(queries: Queries, shards: ShardHashes, paths: readonly string[]): Promise<Map<string, ManifestEntry>> {
  const hashes = paths.map((path) => shards[shardOf(path)]);
  const text = await shardTexts(queries, hashes);
  const wanted = new Set(paths);
  const out = new Map<string, ManifestEntry>();
  for (const hash of new Set(hashes)) {
    if (!hash) continue;
    for (const entry of parseShard(text(hash))) if (wanted.has(entry.path)) out.set(entry.path, entry);
  }
  return out;
}
