/** The ladder of releases. */
import type { Release } from '@fastigium/contracts/api/releases';
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import type { ShardHashes } from '@fastigium/core/release';
import { deriveInitials } from './initials.ts';
import type { KeptError } from '@fastigium/contracts/errors';

/** What a release consists of. */
export interface ReleaseContents {
  readonly shards: ShardHashes;
  readonly rulesHash: string | null;
}

export async function readReleases(queries: Queries, site: string): Promise<Release[]> {
  const rows = await queries.many<
    Omit<Release, 'by' | 'createdAt' | 'liveAt' | 'error'> & {
      personId: string;
      personName: string;
      createdAt: Date;
      liveAt: Date | null;
      error: KeptError | null;
    }
  >(
    `select r.id, r.number, r.state, r.note, p.id as "personId", p.name as "personName", r.created_at as "createdAt", r.live_at as "liveAt",
            r.rollback_of as "rollbackOf", r.files as "filesTotal", r.files_sent as "filesSent", r.bytes_sent as "bytesSent", r.error, r.job_id as job, r.is_pinned as "isPinned", i.verdict
       from release r join person p on p.id = r.created_by left join inspection i on i.release_id = r.id where r.site_id = $1 order by r.number desc limit 200`,
    [site],
  );
  return rows.map(({ personId, personName, createdAt, liveAt, error, ...row }) => ({
    ...row,
    by: { id: personId, name: personName, initials: deriveInitials(personName) },
    createdAt: createdAt.toISOString(),
    liveAt: liveAt?.toISOString() ?? null,
    error,
  }));
}

/** Of releases that are kept, by their numbers. */
export async function readTwoReleases(
  queries: Queries,
  site: string,
  { before, after }: { readonly before: number; readonly after: number },
): Promise<[ReleaseContents, ReleaseContents]> {
  const rows = await queries.many<ReleaseContents & { number: number } & Record<string, unknown>>(
    `select number, shards, rules_hash as "rulesHash" from release where site_id = $1 and number = any($2) and shards is not null`,
    [site, [before, after]],
  );
  const contentsOf = (number: number): ReleaseContents => {
    const row = rows.find((each) => each.number === number);
    if (!row) throw new DomainError('release-not-kept', { number });
    return row;
  };
  return [contentsOf(before), contentsOf(after)];
}
