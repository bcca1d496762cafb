/** Who is told what, and what became of it. */
import { told } from '@fastigium/contracts/messages/told';
import { speak } from '../../words.ts';
import { randomBytes, randomUUID } from 'node:crypto';
import type { Delivery, Hook, HookEvent, HookKind } from '@fastigium/contracts/api/telling';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { addFile } from '../draft/assets.ts';
import { deriveInitials } from '../shared/initials.ts';
import { keepTelling } from './outbox.ts';
import { nameKeyFile } from './requests.ts';

const SHOWN_DELIVERIES = 20;

export const nameHookPurpose = (hook: string): string => `hook ${hook}`;

export async function readHooks(queries: Queries, site: string): Promise<Hook[]> {
  const hooks = await queries.many<{
    id: string;
    kind: HookKind;
    url: string;
    events: HookEvent[];
    byId: string;
    byName: string;
  }>(
    'select h.id, h.kind, h.url, h.events, p.id as "byId", p.name as "byName" from hook h join person p on p.id = h.by where h.site_id = $1 order by h.at',
    [site],
  );
  const rows = await queries.many<Omit<Delivery, 'at' | 'nextAt'> & { hook: string; at: Date; nextAt: Date }>(
    `select * from (select d.id, d.hook_id as hook, d.event, d.at, d.state, d.attempts, d.next_at as "nextAt", d.status, d.problem, row_number() over (partition by d.hook_id order by d.at desc, d.id) as n
       from delivery d join hook h on h.id = d.hook_id where h.site_id = $1) x where n <= $2 order by at desc, id`,
    [site, SHOWN_DELIVERIES],
  );
  return hooks.map(({ id, kind, url, events, byId, byName }) => ({
    id,
    kind,
    url,
    events,
    by: { id: byId, name: byName, initials: deriveInitials(byName) },
    deliveries: rows
      .filter(({ hook }) => hook === id)
      .map((row): Delivery => ({
        id: row.id,
        event: row.event,
        at: row.at.toISOString(),
        state: row.state,
        attempts: row.attempts,
        nextAt: row.state === 'waiting' ? row.nextAt.toISOString() : null,
        status: row.status,
        problem: row.problem,
      })),
  }));
}

/** What an index is told when: only that a release is live. An account is told nothing by itself. */
const OWN_EVENTS: Readonly<Record<Exclude<HookKind, 'webhook'>, readonly HookEvent[]>> = {
  index: ['release-live'],
  account: [],
};
const KEY_BYTES = 16;

export type NewHook =
  | { readonly kind: 'webhook'; readonly url: string; readonly events: readonly HookEvent[] }
  | { readonly kind: 'index'; readonly url: string }
  | { readonly kind: 'account'; readonly url: string; readonly token?: string | undefined };

export async function addHook(
  deps: Deps,
  site: string,
  by: { readonly id: string; readonly name: string },
  asked: NewHook,
): Promise<{ hook: Hook; secret: string | null }> {
  const { kind, url } = asked;
  const id = randomUUID();
  const secret =
    kind === 'account'
      ? (asked.token ?? readOfferedToken(deps, url))
      : kind === 'index'
        ? randomBytes(KEY_BYTES).toString('hex')
        : randomBytes(24).toString('base64url');
  const events = kind === 'webhook' ? [...new Set(asked.events)] : OWN_EVENTS[kind];
  try {
    await deps.db.transaction(async (tx) => {
      await tx.run(
        'insert into hook (id, site_id, kind, url, secret, events, by, at) values ($1, $2, $3, $4, $5, $6, $7, $8)',
        [
          id,
          site,
          kind,
          url,
          deps.seal.seal(nameHookPurpose(id), secret),
          events,
          by.id,
          new Date(deps.world.clock.nowMs()),
        ],
      );
      // Whoever can put a key on the site may speak for it, so it goes out with the next release.
      if (kind === 'index')
        await addFile(tx, site, by, {
          path: nameKeyFile(secret),
          bytes: Buffer.from(`${secret}\n`),
        });
    });
  } catch (error) {
    if (isUniqueViolation(error, 'hook_site_id_url_key'))
      throw new DomainError('hook-there', { url }, { cause: error });
    throw error;
  }
  const hook = (await readHooks(deps.db, site)).find((each) => each.id === id);
  if (!hook) throw new DomainError('not-found', { what: 'address' });
  return { hook, secret: kind === 'webhook' ? secret : null };
}

/** Of the account that is offered, which nobody has to know. */
function readOfferedToken(deps: Deps, url: string): string {
  const { account } = deps.config.world.offered;
  if (account?.url !== url) throw new DomainError('input-invalid', { detail: reason('token-needed') });
  return account.token;
}

export async function removeHook(queries: Queries, site: string, hook: string): Promise<void> {
  if ((await queries.run('delete from hook where id = $1 and site_id = $2', [hook, site])) === 0)
    throw new DomainError('not-found', { what: 'address' });
}

export async function tryHook(deps: Deps, site: string, hook: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    if (!(await tx.maybeOne(`select 1 from hook where id = $1 and site_id = $2 and kind = 'webhook'`, [hook, site])))
      throw new DomainError('not-found', { what: 'address' });
    await keepTelling(tx, deps, [hook], site, {
      event: 'try',
      words: speak(told('try')),
    });
  });
}
