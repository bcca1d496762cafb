/** What somebody is told when they come by. */
import type { Notice } from '@fastigium/contracts/api/removals';
import type { NoticeMessage } from '@fastigium/contracts/messages/notice';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';

export async function tell(
  tx: Queries,
  site: string,
  person: string,
  message: NoticeMessage,
  nowMs: number,
): Promise<void> {
  await tx.run('insert into notice (site_id, person_id, message, at) values ($1, $2, $3, $4)', [
    site,
    person,
    JSON.stringify(message),
    new Date(nowMs),
  ]);
  await announce(tx, { kind: 'notice', site });
}

export async function readNotices(queries: Queries, site: string, person: string): Promise<Notice[]> {
  const rows = await queries.many<{ id: string; message: NoticeMessage; at: Date }>(
    'select id, message, at from notice where site_id = $1 and person_id = $2 and seen_at is null order by at',
    [site, person],
  );
  return rows.map(({ id, message, at }) => ({ id, message, at: at.toISOString() }));
}

export async function markNoticeSeen(
  queries: Queries,
  site: string,
  person: string,
  id: string,
): Promise<{ done: true }> {
  await queries.run(
    'update notice set seen_at = now() where id = $3 and site_id = $1 and person_id = $2 and seen_at is null',
    [site, person, id],
  );
  return { done: true };
}
