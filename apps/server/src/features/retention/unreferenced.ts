/**
 * Contents and shards that nothing refers to any more: of drafts as they were between two changes, of exports that newer
 * ones took the place of, of sites that are gone.
 */
import type { Deps } from '../../deps.ts';
import { holdContents } from '../shared/contents.ts';
import { readNeededContents } from '../shared/neededContents.ts';

/** Whoever keeps something is about to refer to it; by then it is done or never will be. */
const YOUNG = `interval '1 day'`;
const CONTENTS_AT_ONCE = 2000;

const SHARDS_IN_USE = `select unnest(shards) from release where shards is not null
  union select unnest(shards) from draft union select unnest(shards) from check_state`;

/** @returns how many went */
export async function deleteUnreferenced({ db }: Pick<Deps, 'db'>): Promise<{ shards: number; contents: number }> {
  const shards = await db.transaction(async (tx) => {
    await holdContents(tx, 'alone');
    return tx.run(
      `delete from manifest_shard where kept_at < now() - ${YOUNG} and hash not in (select h from (${SHARDS_IN_USE}) as used(h) where h <> '')`,
    );
  });
  const candidates = await db.many<{ hash: string }>(
    `with used as materialized (
       select hash from source_file
       union select rules_hash from release where rules_hash is not null
       union select h.hash #>> '{}' from decision d, jsonb_path_query(d.body, '$.**.hash') as h(hash)
       union select (regexp_matches(text, '"([0-9a-f]{64})"', 'g'))[1] from manifest_shard
     )
     select c.hash from content c left join import i on i.id = c.import_id
      where c.kept_at < now() - ${YOUNG} and coalesce(i.state, '') not in ('waiting', 'reading')
        and not exists (select 1 from used where used.hash = c.hash)`,
  );
  let contents = 0;
  for (let from = 0; from < candidates.length; from += CONTENTS_AT_ONCE) {
    const hashes = new Set(candidates.slice(from, from + CONTENTS_AT_ONCE).map(({ hash }) => hash));
    // Somebody may refer to one of them since it was found; asked again while nobody can begin to.
    contents += await db.transaction(async (tx) => {
      await holdContents(tx, 'alone');
      // What a release that is being compiled takes over from the draft it refers to only at its end.
      if (await tx.maybeOne(`select 1 from release where state = 'sending' and shards is null limit 1`)) return 0;
      const needed = await readNeededContents(tx, hashes);
      return tx.run(`delete from content where hash = any($1) and kept_at < now() - ${YOUNG}`, [
        [...hashes].filter((hash) => !needed.has(hash)),
      ]);
    });
  }
  return { shards, contents };
}
