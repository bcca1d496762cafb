/** Who removed what when, and until when it is kept. */
import type { PersonRef } from '@fastigium/contracts/api/common';
import { reckonKeptUntilMs, type Draft, type KeepingRule } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { deriveInitials } from '../shared/initials.ts';

export interface Kept {
  readonly by: PersonRef;
  readonly at: string;
  readonly keptUntil: string | null;
}

export async function readKeepingRule(queries: Queries, site: string): Promise<KeepingRule> {
  const { days, setAt } = await queries.one<{ days: number; setAt: Date | null }>(
    'select removals_kept_days as days, removals_limit_at as "setAt" from site where id = $1',
    [site],
  );
  return { keptDays: days, setAtMs: setAt?.getTime() };
}

/** By the number of the removal. */
export async function readKeptRemovals(queries: Queries, site: string, draft: Draft): Promise<Map<number, Kept>> {
  const rule = await readKeepingRule(queries, site);
  const people = await readPeople(queries, site, [...draft.removals.keys()]);
  return new Map(
    [...draft.removals.values()].flatMap((removal) => {
      const by = people.get(removal.seq);
      const until = reckonKeptUntilMs(removal, rule);
      return by
        ? [
            [
              removal.seq,
              {
                by,
                at: new Date(removal.atMs).toISOString(),
                keptUntil: until === undefined ? null : new Date(until).toISOString(),
              },
            ] as const,
          ]
        : [];
    }),
  );
}

/** Who made some decisions. */
export async function readPeople(
  queries: Queries,
  site: string,
  seqs: readonly number[],
): Promise<Map<number, PersonRef>> {
  const rows = await queries.many<{ seq: number; id: string; name: string }>(
    'select d.seq, p.id, p.name from decision d join person p on p.id = d.by where d.site_id = $1 and d.seq = any($2)',
    [site, seqs],
  );
  return new Map(rows.map(({ seq, id, name }) => [seq, { id, name, initials: deriveInitials(name) }]));
}
