/** Which releases are kept: the last few, and those that are pinned. The live one always is. */
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { parseShard, type ShardHashes } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { readShardTexts } from '../shared/manifests.ts';

export async function countKept(queries: Queries, site: string): Promise<number> {
  return (await queries.one<{ count: number }>('select releases_kept as count from site where id = $1', [site])).count;
}

export async function keepReleases(deps: Deps, site: string, by: string, count: number): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('update site set releases_kept = $2 where id = $1', [site, count]);
    await letOldGo(tx, site, by);
    await announce(tx, { kind: 'release', site });
  });
}

export async function pin(
  deps: Deps,
  site: string,
  by: string,
  { number, isPinned }: { readonly number: number; readonly isPinned: boolean },
): Promise<void> {
  await deps.db.transaction(async (tx) => {
    const found = await tx.maybeOne(
      `update release set is_pinned = $3 where site_id = $1 and number = $2 and state in ('live', 'past') returning 1`,
      [site, number, isPinned],
    );
    if (!found) throw new DomainError('release-not-kept', { number });
    if (!isPinned) await letOldGo(tx, site, by);
    await announce(tx, { kind: 'release', site });
  });
}

/** Failed and cancelled ones were never live, so they count for nothing. */
export async function letOldGo(tx: Queries, site: string, by: string): Promise<void> {
  const gone = await tx.many(
    `update release set state = 'let-go' where site_id = $1 and state = 'past' and not is_pinned
       and number not in (select number from release where site_id = $1 and state in ('live', 'past') order by number desc limit (select releases_kept from site where id = $1)) returning 1`,
    [site],
  );
  if (gone.length > 0) await enqueue(tx, { kind: 'sweep', site, body: {}, by });
}

/** Only within a publish, since a host may not lose what the next release was just told to be there. A host that is away is told at the next. */
export async function tellHost(deps: Deps, site: string, host: HostPort, hostName: string): Promise<void> {
  for (const { id } of await deps.db.many<{ id: string }>(
    `select id from release where site_id = $1 and state = 'let-go' and at_host order by number limit 50`,
    [site],
  )) {
    try {
      await host.letGo(hostName, id);
    } catch (error) {
      if (error instanceof DomainError) return;
      throw error;
    }
    await deps.db.run('update release set at_host = false where id = $1', [id]);
  }
}

/** What releases that were let go had. @returns hashes of contents that may not be needed any more */
export async function takeLetGo(tx: Queries, site: string): Promise<string[]> {
  const rows = await tx.many<{ shards: ShardHashes; rulesHash: string | null }>(
    `select shards, rules_hash as "rulesHash" from release where site_id = $1 and state = 'let-go' and shards is not null`,
    [site],
  );
  await tx.run(`update release set shards = null, rules_hash = null where site_id = $1 and state = 'let-go'`, [site]);
  const hashes = [...new Set(rows.flatMap(({ shards }) => shards))].filter((hash) => hash !== '');
  const text = await readShardTexts(tx, hashes);
  return [
    ...new Set([
      ...hashes.flatMap((hash) => parseShard(text(hash)).map((entry) => entry.hash)),
      ...rows.flatMap(({ rulesHash }) => rulesHash ?? []),
    ]),
  ];
}
