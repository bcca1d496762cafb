/**
 * Keeping what was gathered: one row for each address, whoever saw it. All of it is put down in a table of its own
 * first and taken from there piece by piece. Each row is inserted or found by its key, never joined, so that the cost is
 * that of the input: a join planned for tables that were small a moment ago goes through all of them for every row.
 */
import type { Gathered, OldSource } from '@fastigium/contracts/api/redirects';
import { progressStep } from '@fastigium/contracts/messages/progress';
import type { NotRead } from '@fastigium/core/redirects';
import { gatherSightings, type GatheredAddresses, type Sighting } from '@fastigium/core/redirects/gather';
import type { Transaction } from '../../../db/database.ts';
import { announce } from '../../../db/events.ts';
import type { JobRun } from '../../../jobs/queue.ts';
import { readOldDomains } from '../../draft/oldDomains.ts';
import { writeCopiedRows } from './copied.ts';
import { isListed } from './sources.ts';

const MOST_PROBLEMS = 200;
/** Taken in well under a second; between two pieces work can be stopped. */
const AT_ONCE = 10_000;

export interface Found {
  readonly site: string;
  readonly source: OldSource;
  /** Whether visits come on top of what the same kind of source counted before, as with rotated logs. */
  readonly addUp?: boolean;
  /** Whose addresses those without a host are; undefined for the site itself. */
  readonly domain?: string | undefined;
}

/** What a person brought in: it is listed with what could not be read of it. */
export interface FoundBySomebody extends Found {
  readonly by: string;
  readonly name: string;
  /** SHA-256 of a log, so that the same one is not counted twice. */
  readonly fingerprint?: string;
  /** The job that brought it in, where one did. */
  readonly job?: string | undefined;
}

/** Gathered addresses with their rows as `writeCopiedRows` writes them. */
export interface CopiedAddresses extends Omit<GatheredAddresses, 'rows'> {
  readonly rows: Iterable<Uint8Array>;
  readonly count: number;
}

export type Taken = Omit<GatheredAddresses, 'rows'> & { readonly fresh: number };

/** Addresses that few at a time come in, or that are in memory already. */
export async function takeSightings(tx: Transaction, found: Found, sightings: readonly Sighting[]): Promise<Taken> {
  const { rows, ...counts } = gatherSightings(sightings, {
    domains: new Set(await readOldDomains(tx, found.site)),
    domain: found.domain,
    isListed: isListed(found.source),
    isLive: found.source === 'live',
  });
  return takeCopied(tx, found, { ...counts, rows: writeCopiedRows(rows), count: rows.length });
}

/** @param job told how far it is, and stopped between two pieces; what was taken until then is rolled back with the transaction */
export async function takeCopied(
  tx: Transaction,
  found: Found,
  { rows, count, ...counts }: CopiedAddresses,
  job?: Pick<JobRun, 'report' | 'signal'>,
): Promise<Taken> {
  await tx.run('set constraints old_address_seen_site_id_address_fkey deferred');
  await tx.run(
    `create temp table if not exists gathered (
       n integer primary key, address text not null, visits bigint, last_seen timestamptz, status integer, title text,
       text text, headings text[] not null, language text, kind text not null, noise text
     ) on commit delete rows`,
  );
  await tx.run('delete from gathered');
  await tx.copyIn(
    'gathered (n, address, visits, last_seen, status, title, text, headings, language, kind, noise)',
    rows,
  );
  let fresh = 0;
  for (let from = 0; from < count; from += AT_ONCE) {
    job?.signal.throwIfAborted();
    job?.report({ step: progressStep('keeping-addresses'), done: from, total: count, unit: 'addresses' });
    fresh += await keepPiece(tx, found, from);
  }
  await announce(tx, { kind: 'redirects', site: found.site });
  return { ...counts, fresh };
}

/** The same for what a person brought in. */
export async function takeGathering(
  tx: Transaction,
  found: FoundBySomebody,
  sightings: readonly Sighting[],
  notRead: readonly NotRead[],
): Promise<Extract<Gathered, { state: 'taken' }>> {
  return listGathering(tx, found, await takeSightings(tx, found, sightings), { notRead, count: notRead.length });
}

/** Lists what was brought in, for whoever looks at what there is so far. @param lines that were not taken: their count, and the first of them */
export async function listGathering(
  tx: Transaction,
  found: FoundBySomebody,
  taken: Taken,
  { notRead, count }: { readonly notRead: readonly NotRead[]; readonly count: number },
): Promise<Extract<Gathered, { state: 'taken' }>> {
  const problems = notRead.slice(0, MOST_PROBLEMS);
  await tx.run(
    `insert into gathering (site_id, source, name, by, fingerprint, read, fresh, files, noise, left_out, not_read, problems, job_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
    [
      found.site,
      found.source,
      found.name,
      found.by,
      found.fingerprint ?? null,
      taken.read,
      taken.fresh,
      taken.files,
      taken.noise,
      taken.leftOut,
      count,
      JSON.stringify(problems).replaceAll('\\u0000', ''),
      found.job ?? null,
    ],
  );
  return { state: 'taken', source: found.source, name: found.name, ...taken, notRead: count, problems };
}

/** @returns how many of them nobody knew */
async function keepPiece(tx: Transaction, { site, source, addUp = false }: Found, from: number): Promise<number> {
  const piece = [site, from, from + AT_ONCE];
  await tx.run(
    `insert into old_address_seen as s (site_id, address, source, visits, last_seen)
     select $1, address, $4, visits, last_seen from gathered where n > $2 and n <= $3
     on conflict (site_id, address, source) do update set
       visits = case when $5 then coalesce(s.visits, 0) + coalesce(excluded.visits, 0) else coalesce(excluded.visits, s.visits) end,
       last_seen = greatest(s.last_seen, excluded.last_seen)`,
    [...piece, source, addUp],
  );
  const { fresh } = await tx.one<{ fresh: number }>(
    `with kept as (
       insert into old_address as o (site_id, address, visits, last_seen, status, title, text, headings, language, kind, noise)
       select $1, g.address,
              -- The same visits are counted once, whoever counted most.
              (select case when max(s.visits) is not null then least(max(s.visits), 2147483647)::int end
                 from old_address_seen s where s.site_id = $1 and s.address = g.address),
              g.last_seen, g.status, g.title, g.text, g.headings, g.language, g.kind, g.noise
         from gathered g where g.n > $2 and g.n <= $3
       on conflict (site_id, address) do update set
         visits = excluded.visits,
         last_seen = greatest(o.last_seen, excluded.last_seen),
         status = case when excluded.status is not null and (o.last_seen is null or excluded.last_seen is null or excluded.last_seen >= o.last_seen) then excluded.status else o.status end,
         title = coalesce(excluded.title, o.title), text = coalesce(excluded.text, o.text),
         headings = case when excluded.headings = '{}' then o.headings else excluded.headings end, language = coalesce(excluded.language, o.language),
         -- A list says more than a log's guess; what a person said stays.
         kind = case when o.kind_by is not null then o.kind when $4 or (o.kind = 'noise' and excluded.kind <> 'noise') then excluded.kind else o.kind end,
         noise = case when o.kind_by is not null then o.noise when $4 or (o.kind = 'noise' and excluded.kind <> 'noise') then excluded.noise else o.noise end
       returning (xmax = 0) as is_fresh
     ) select count(*) filter (where is_fresh)::int as fresh from kept`,
    [...piece, isListed(source)],
  );
  return fresh;
}
