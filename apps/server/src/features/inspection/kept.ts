/** Inspections in PostgreSQL: one a release, the last. */
import type { AspectResult, Inspection, InspectionFinding } from '@fastigium/contracts/api/inspection';
import { DomainError } from '@fastigium/contracts/errors';
import type { Finding, Verdict } from '@fastigium/core/inspection';
import type { Queries } from '../../db/database.ts';
import { deriveInitials } from '../shared/initials.ts';
import { reportFactsSchema, type ReportFacts } from './facts.ts';

interface Inspected {
  readonly site: string;
  readonly release: string;
  readonly origin: string;
  readonly by: string;
  readonly atMs: number;
  readonly verdict: Verdict;
  readonly results: readonly AspectResult[];
  readonly findings: readonly Finding[];
  readonly unasked: number;
  readonly facts: ReportFacts;
}

export async function keepInspection(
  tx: Queries,
  { site, release, origin, by, atMs, verdict, results, findings, unasked, facts }: Inspected,
): Promise<void> {
  await tx.run('delete from inspection where release_id = $1', [release]);
  await tx.run(
    'insert into inspection (release_id, site_id, origin, at, by, verdict, results, unasked, facts) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
    [release, site, origin, new Date(atMs), by, verdict, JSON.stringify(results), unasked, JSON.stringify(facts)],
  );
  // What visitors do not get stands first.
  const inOrder = [...findings].sort((a, b) => Number(a.weight === 'note') - Number(b.weight === 'note'));
  await tx.run(
    `insert into inspection_finding (release_id, position, aspect, address, message, weight)
     select $1, r.n, r.aspect, r.address, r.message, r.weight from unnest($2::text[], $3::text[], $4::jsonb[], $5::text[]) with ordinality as r(aspect, address, message, weight, n)`,
    [
      release,
      inOrder.map(({ aspect }) => aspect),
      inOrder.map(({ address }) => address),
      inOrder.map(({ message }) => JSON.stringify(message)),
      inOrder.map(({ weight }) => weight),
    ],
  );
}

const MOST_FINDINGS = 1000;

/** Null while the release was not looked at. */
export async function readInspection(
  queries: Queries,
  site: string,
  number: number,
): Promise<(Inspection & { readonly facts: ReportFacts }) | null> {
  const release = await queries.maybeOne<{ id: string }>('select id from release where site_id = $1 and number = $2', [
    site,
    number,
  ]);
  if (!release) throw new DomainError('release-not-kept', { number });
  const row = await queries.maybeOne<{
    origin: string;
    at: Date;
    verdict: Verdict;
    results: AspectResult[];
    unasked: number;
    facts: unknown;
    byId: string;
    byName: string;
  }>(
    'select i.origin, i.at, i.verdict, i.results, i.unasked, i.facts, p.id as "byId", p.name as "byName" from inspection i join person p on p.id = i.by where i.release_id = $1',
    [release.id],
  );
  if (!row) return null;
  const findings = await queries.many<InspectionFinding & Record<string, unknown>>(
    'select aspect, address, message, weight from inspection_finding where release_id = $1 order by position limit $2',
    [release.id, MOST_FINDINGS],
  );
  const { all } = await queries.one<{ all: number }>(
    'select count(*)::int as "all" from inspection_finding where release_id = $1',
    [release.id],
  );
  const facts = reportFactsSchema.parse(row.facts);
  return {
    release: number,
    origin: row.origin,
    at: row.at.toISOString(),
    by: { id: row.byId, name: row.byName, initials: deriveInitials(row.byName) },
    verdict: row.verdict,
    results: row.results,
    unasked: row.unasked,
    findings,
    findingsInAll: all,
    before: facts.since,
    oldAddresses: facts.oldAddresses,
    facts,
  };
}
