/** How each page of a checked draft looks, as a hash of everything its appearance is made of. */
import { isPageFile } from '@fastigium/core/address';
import { listAppearanceParts } from '@fastigium/core/appearance';
import { parseShard, type ShardHashes } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { readShardTexts } from '../shared/manifests.ts';

/** @param shards the draft that was checked; its facts were kept then */
export async function readAppearances(
  queries: Queries,
  site: string,
  shards: ShardHashes,
): Promise<Map<string, string>> {
  const text = await readShardTexts(queries, [...shards]);
  const hashes = new Map(
    shards.flatMap((hash) => (hash === '' ? [] : parseShard(text(hash)))).map(({ path, hash }) => [path, hash]),
  );
  const facts = await queries.many<{ path: string; links: { to: string; element: string }[] }>(
    `select path, coalesce((select jsonb_agg(jsonb_build_object('to', l->'to', 'element', l->'element')) from jsonb_array_elements(facts->'links') l where l->>'element' not in ('a', 'area', 'form')), '[]') as links
       from page_fact where site_id = $1`,
    [site],
  );
  const refersTo = new Map(facts.map(({ path, links }) => [path, links.map(({ to }) => to)]));
  const sources = { hashOf: (path: string) => hashes.get(path), refersTo: (path: string) => refersTo.get(path) ?? [] };
  const pages = facts.map(({ path }) => path).filter((path) => isPageFile(path) && hashes.has(path));
  return new Map(pages.map((path) => [path, hashSha256(listAppearanceParts(path, sources).join('\n'))]));
}
