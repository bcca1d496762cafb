import type { Database, Queries } from '../../db/database.ts';
import { enqueue } from '../../jobs/queue.ts';

/** One waiting job is enough: it takes up everything known until it starts. @returns the job */
export async function suggestSoon(tx: Queries, site: string, by: string): Promise<string> {
  const waiting = await tx.maybeOne<{ id: string }>(
    `select id from job where site_id = $1 and kind = 'suggest' and state = 'waiting' limit 1`,
    [site],
  );
  return waiting?.id ?? enqueue(tx, { kind: 'suggest', site, body: {}, by });
}

/** After a job that changed pages: where there are old addresses, they are compared anew. */
export async function suggestAgain(db: Database, after: { readonly id: string; readonly site: string }): Promise<void> {
  const { by, some } = await db.one<{ by: string; some: boolean }>(
    'select created_by as by, exists (select 1 from old_address where site_id = $2) as some from job where id = $1',
    [after.id, after.site],
  );
  if (some) await db.transaction((tx) => suggestSoon(tx, after.site, by));
}
