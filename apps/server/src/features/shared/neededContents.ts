/** Which contents something still refers to: what is deleted is only what nothing does. */
import { parseShard } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';

const SHARDS_AT_ONCE = 256;

/**
 * Of some contents, those that a file of an import, a release, a draft or a decision has. Asked while contents are held
 * alone (`holdContents`), it stays true to the end of the transaction.
 *
 * @param swept pages that were removed for good: the decisions that added them need nothing any more
 */
export async function readNeededContents(
  tx: Queries,
  hashes: ReadonlySet<string>,
  swept: ReadonlySet<string> = new Set(),
): Promise<Set<string>> {
  const needed = new Set(
    (
      await tx.many<{ hash: string }>(
        `select distinct hash from source_file where hash = any($1)
         union select rules_hash from release where rules_hash = any($1)
         union select h.hash #>> '{}' from decision d, jsonb_path_query(d.body, '$.**.hash') as h(hash)
                where h.hash #>> '{}' = any($1)
                  and not (d.body->>'kind' = 'node-added' and d.body->'node'->>'id' = any($2))`,
        [[...hashes], [...swept]],
      )
    ).map(({ hash }) => hash),
  );
  const shards = (
    await tx.many<{ hash: string }>(
      'select distinct unnest(shards) as hash from (select shards from release where shards is not null union all select shards from draft) s',
    )
  ).map(({ hash }) => hash);
  for (let from = 0; from < shards.length && needed.size < hashes.size; from += SHARDS_AT_ONCE) {
    const texts = await tx.many<{ text: string }>('select text from manifest_shard where hash = any($1)', [
      shards.slice(from, from + SHARDS_AT_ONCE),
    ]);
    for (const { text } of texts) for (const { hash } of parseShard(text)) if (hashes.has(hash)) needed.add(hash);
  }
  return needed;
}
