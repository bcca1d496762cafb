/** Who is told what, and what became of it. */
import { randomBytes, randomUUID } from 'node:crypto';
import type { Delivery, Hook, HookEvent } from '@fastigium/contracts/api/telling';
import { DomainError } from '@fastigium/contracts/errors';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { initials } from '../people/initials.ts';
import { keepTelling } from './outbox.ts';

const SHOWN_DELIVERIES = 20;

export const hookPurpose = (hook: string): string => `hook ${hook}`;

export async function hooksOf(queries: Queries, site: string): Promise<Hook[]> {
  const hooks = await queries.many<{ id: string; url: string; events: HookEvent[]; byId: string; byName: string }>('select h.id, h.url, h.events, p.id as "byId", p.name as "byName" from hook h join person p on p.id = h.by where h.site_id = $1 order by h.at', [site]);
  const rows = await queries.many<Omit<Delivery, 'at' | 'nextAt'> & { hook: string; at: Date; nextAt: Date }>(
    `select * from (select d.id, d.hook_id as hook, d.event, d.at, d.state, d.attempts, d.next_at as "nextAt", d.status, d.problem, row_number() over (partition by d.hook_id order by d.at desc, d.id) as n
       from delivery d join hook h on h.id = d.hook_id where h.site_id = $1) x where n <= $2 order by at desc, id`, [site, SHOWN_DELIVERIES],
  );
  return hooks.map(({ id, url, events, byId, byName }) => ({
    id, url, events, by: { id: byId, name: byName, initials: initials(byName) },
    deliveries: rows.filter(({ hook }) => hook === id).map((row): Delivery => ({
      id: row.id, event: row.event, at: row.at.toISOString(), state: row.state, attempts: row.attempts, nextAt: row.state === 'waiting' ? row.nextAt.toISOString() : null, status: row.status, problem: row.problem,
    })),
  }));
}

export async function addHook(deps: Deps, site: string, by: string, { url, events }: { url: string; events: readonly HookEvent[] }): Promise<{ hook: Hook; secret: string }> {
  const [id, secret] = [randomUUID(), randomBytes(24).toString('base64url')];
  try {
    await deps.db.run('insert into hook (id, site_id, url, secret, events, by, at) values ($1, $2, $3, $4, $5, $6, $7)', [
      id, site, url, deps.seal.seal(hookPurpose(id), secret), [...new Set(events)], by, new Date(deps.world.clock.nowMs()),
    ]);
  } catch (error) {
    if (isUniqueViolation(error, 'hook_site_id_url_key')) throw new DomainError('hook-there', { url }, { cause: error });
    throw error;
  }
  const hook = (await hooksOf(deps.db, site)).find((each) => each.id === id);
  if (!hook) throw new DomainError('not-found', { what: 'such address' });
  return { hook, secret };
}

export async function removeHook(queries: Queries, site: string, hook: string): Promise<void> {
  if ((await queries.run('delete from hook where id = $1 and site_id = $2', [hook, site])) === 0) throw new DomainError('not-found', { what: 'such address' });
}

export async function tryHook(deps: Deps, site: string, hook: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    if (!(await tx.maybeOne('select 1 from hook where id = $1 and site_id = $2', [hook, site]))) throw new DomainError('not-found', { what: 'such address' });
    await keepTelling(tx, deps, [hook], site, { event: 'try', words: 'Nothing happened; somebody wanted to see whether this arrives.' });
  });
}
