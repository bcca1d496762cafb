/** Who sees which site. The rule stands in the database (`sees_site`), where every question asks it. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';

/** A site of another team, or one that somebody is not shown, is as good as none. */
export async function requireSite(queries: Queries, person: string, site: string): Promise<void> {
  const { sees } = await queries.one<{ sees: boolean }>('select sees_site($1, $2) as sees', [person, site]);
  if (!sees) throw new DomainError('not-found', { what: 'site' });
}

/** @param sites null: all of the team, and those to come */
export async function setSeenSites(
  tx: Queries,
  team: string,
  person: string,
  sites: readonly string[] | null,
): Promise<void> {
  await tx.run('update person set sees_all = $2 where id = $1', [person, sites === null]);
  await tx.run('delete from site_member where person_id = $1', [person]);
  if (sites === null) return;
  const wanted = [...new Set(sites)];
  const taken = await tx.run(
    'insert into site_member (person_id, site_id) select $1, id from site where team_id = $2 and id = any($3)',
    [person, team, wanted],
  );
  if (taken !== wanted.length) throw new DomainError('not-found', { what: 'site' });
}

/** Whoever makes a site sees it, also where they do not see all. */
export async function showOwnSite(tx: Queries, person: string, site: string): Promise<void> {
  await tx.run(
    'insert into site_member (person_id, site_id) select id, $2 from person where id = $1 and not sees_all on conflict do nothing',
    [person, site],
  );
}
