/** Looks that were made: kept, read again, and forgotten when nothing can depend on them any more. */
import type { Sighting } from '@fastigium/core/dns';
import type { Queries } from '../../db/database.ts';
import { lookupFacts, type LookupFacts } from './facts.ts';

/** No record is kept longer than this by any resolver met so far; a week and some. */
const REMEMBERED_DAYS = 9;
const MOST_LOOKS = 600;

export async function keepLookup(tx: Queries, site: string, atMs: number, facts: LookupFacts): Promise<void> {
  await tx.run(
    'insert into address_lookup (site_id, at, facts) values ($1, $2, $3) on conflict (site_id, at) do update set facts = excluded.facts',
    [site, new Date(atMs), JSON.stringify(facts)],
  );
  await tx.run('delete from address_lookup where site_id = $1 and at < $2', [
    site,
    new Date(atMs - REMEMBERED_DAYS * 86_400_000),
  ]);
}

export async function readLatestLookup(
  queries: Queries,
  site: string,
): Promise<{ atMs: number; facts: LookupFacts } | undefined> {
  const row = await queries.maybeOne<{ at: Date; facts: unknown }>(
    'select at, facts from address_lookup where site_id = $1 order by at desc limit 1',
    [site],
  );
  return row && { atMs: row.at.getTime(), facts: lookupFacts.parse(row.facts) };
}

/** What authority and resolvers were seen to answer lately, oldest first. */
export async function readLateSightings(
  queries: Queries,
  site: string,
): Promise<{ authority: Sighting[]; sightings: Sighting[] }> {
  const rows = await queries.many<{ authority: unknown; sightings: unknown }>(
    `select facts -> 'authority' as authority, facts -> 'sightings' as sightings from (select at, facts from address_lookup where site_id = $1 order by at desc limit $2) l order by at`,
    [site, MOST_LOOKS],
  );
  const read = (value: unknown) => lookupFacts.shape.sightings.parse(value);
  return {
    authority: rows.flatMap((row) => read(row.authority)),
    sightings: rows.flatMap((row) => read(row.sightings)),
  };
}
