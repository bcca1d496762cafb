/** What somebody is told when they come by. */
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';

export async function tell(tx: Queries, site: string, person: string, words: string, nowMs: number): Promise<void> {
  await tx.run('insert into notice (site_id, person_id, words, at) values ($1, $2, $3, $4)', [
    site,
    person,
    words,
    new Date(nowMs),
  ]);
  await announce(tx, { kind: 'notice', site });
}

export async function noticesFor(
  queries: Queries,
  site: string,
  person: string,
): Promise<{ id: string; words: string; at: string }[]> {
  const rows = await queries.many<{ id: string; words: string; at: Date }>(
    'select id, words, at from notice where site_id = $1 and person_id = $2 and seen_at is null order by at',
    [site, person],
  );
  return rows.map(({ id, words, at }) => ({ id, words, at: at.toISOString() }));
}

export async function noticeSeen(queries: Queries, site: string, person: string, id: string): Promise<{ done: true }> {
  await queries.run(
    'update notice set seen_at = now() where id = $3 and site_id = $1 and person_id = $2 and seen_at is null',
    [site, person, id],
  );
  return { done: true };
}
