/** What was gathered so far, the newest first. */
import type { Gathering } from '@fastigium/contracts/api/redirects';
import type { Queries } from '../../../db/database.ts';
import { deriveInitials } from '../../shared/initials.ts';

const MOST = 100;

interface Row extends Record<string, unknown> {
  readonly id: string;
  readonly source: Gathering['source'];
  readonly name: string;
  readonly at: Date;
  readonly read: number;
  readonly fresh: number;
  readonly files: number;
  readonly noise: number;
  readonly leftOut: number;
  readonly job: string | null;
  readonly notRead: number;
  readonly problems: Gathering['problems'];
  readonly person: string;
  readonly personName: string;
}

export async function readGatherings(queries: Queries, site: string): Promise<Gathering[]> {
  const rows = await queries.many<Row>(
    `select g.id, g.source, g.name, g.at, g.read, g.fresh, g.files, g.noise, g.left_out as "leftOut", g.job_id as job, g.not_read as "notRead", g.problems, p.id as person, p.name as "personName"
       from gathering g join person p on p.id = g.by where g.site_id = $1 order by g.at desc limit $2`,
    [site, MOST],
  );
  return rows.map(({ person, personName, at, ...row }) => ({
    ...row,
    at: at.toISOString(),
    by: { id: person, name: personName, initials: deriveInitials(personName) },
  }));
}
