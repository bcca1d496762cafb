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

/** @param message what it did, for the history @returns the version of the draft it makes */
export async function recordDecision(
  tx: Queries,
  { id: site, version: before }: { readonly id: string; readonly version: number },
  by: Author,
  decision: Decision,
  message: DecisionMessage,
): Promise<number> {
  const version = before + 1;
  await tx.run('insert into decision (site_id, seq, body, message, by) values ($1, $2, $3, $4, $5)', [
    site,
    version,
    JSON.stringify(decision),
    JSON.stringify(message),
    by.id,
  ]);
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
