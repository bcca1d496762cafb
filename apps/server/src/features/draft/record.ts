/** Appending a decision to the history of a site whose row is locked. */
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { Decision } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import { enqueue } from '../../jobs/queue.ts';

/** Whoever decided; nobody where a time ran out, and then somebody whom the work that follows is done for. */
export type Author =
  | { readonly id: string; readonly name: string; readonly worker?: undefined }
  | { readonly id: string | null; readonly name: string; readonly worker: string };

/** A decision and what it did, for the history. */
export interface Step {
  readonly decision: Decision;
  readonly message: DecisionMessage;
}

/** A site whose row is locked, with the version of its draft. */
type Locked = { readonly id: string; readonly version: number };

/** @param message what it did, for the history @returns the version of the draft it makes */
export async function recordDecision(
  tx: Queries,
  site: Locked,
  by: Author,
  decision: Decision,
  message: DecisionMessage,
): Promise<number> {
  return recordDecisions(tx, site, by, [{ decision, message }]);
}

/** Several at once, as one change of the draft. @returns the version they make; announced and compiled where there is none as well */
export async function recordDecisions(
  tx: Queries,
  { id: site, version: before }: Locked,
  by: Author,
  steps: readonly Step[],
): Promise<number> {
  const version = before + steps.length;
  await tx.run(
    `insert into decision (site_id, seq, body, message, by)
     select $1, $2 + k.n, k.body, k.message, $3 from unnest($4::jsonb[], $5::jsonb[]) with ordinality as k(body, message, n)`,
    [
      site,
      before,
      by.id,
      steps.map(({ decision }) => JSON.stringify(decision)),
      steps.map(({ message }) => JSON.stringify(message)),
    ],
  );
  await tx.run('update site set version = $2 where id = $1', [site, version]);
  await announce(tx, { kind: 'draft', site, version, by: by.name });
  await compileSoon(tx, site, by.id ?? by.worker ?? '');
  return version;
}

/** One waiting compile is enough: it takes up everything decided until it starts. */
export async function compileSoon(tx: Queries, site: string, by: string): Promise<void> {
  const waiting = await tx.maybeOne(
    `select 1 from job where site_id = $1 and kind = 'compile' and state = 'waiting' limit 1`,
    [site],
  );
  if (!waiting) await enqueue(tx, { kind: 'compile', site, body: {}, by });
}
