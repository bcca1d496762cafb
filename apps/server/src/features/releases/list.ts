/** The ladder of releases. */
import type { Release } from '@fastigium/contracts/api/releases';
import type { Queries } from '../../db/database.ts';
import { initials } from '../people/initials.ts';

export async function releases(queries: Queries, site: string): Promise<Release[]> {
  const rows = await queries.many<Omit<Release, 'by' | 'createdAt' | 'liveAt' | 'error'> & {
    personId: string; personName: string; createdAt: Date; liveAt: Date | null; error: { message: string } | null;
  }>(
    `select r.id, r.number, r.state, r.note, p.id as "personId", p.name as "personName", r.created_at as "createdAt", r.live_at as "liveAt",
            r.rollback_of as "rollbackOf", r.files as "filesTotal", r.files_sent as "filesSent", r.bytes_sent as "bytesSent", r.error, r.job_id as job, i.verdict
       from release r join person p on p.id = r.created_by left join inspection i on i.release_id = r.id where r.site_id = $1 order by r.number desc limit 200`,
    [site],
  );
  return rows.map(({ personId, personName, createdAt, liveAt, error, ...row }) => ({
    ...row,
    by: { id: personId, name: personName, initials: initials(personName) },
    createdAt: createdAt.toISOString(),
    liveAt: liveAt?.toISOString() ?? null,
    error: error?.message ?? null,
  }));
}
