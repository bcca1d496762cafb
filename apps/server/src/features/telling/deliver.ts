/** Sending what is to be told, again and again until it arrived or nobody believes in it any more. */
import type { HookKind, Told } from '@fastigium/contracts/api/telling';
import { retryAfterMs } from '@fastigium/core/reach';
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { repeat, type Repeated } from '../../jobs/repeat.ts';
import { hookPurpose } from './hooks.ts';
import { requestOf } from './requests.ts';

const CHECK_EVERY_MS = 1000;
/** While one process sends, no other takes the same one. */
const CLAIM_MS = 60_000;
/** The pauses grow fourfold from a minute, so the last try is two days after the first. */
export const MOST_ATTEMPTS = 8;
const LIMITS = { bytes: 64 * 1024, withinMs: 10_000 } as const;
const KEPT_DAYS = 30;

interface Due extends Record<string, unknown> {
  readonly id: string;
  readonly hook: string;
  readonly kind: HookKind;
  readonly url: string;
  readonly secret: Buffer;
  readonly body: Told;
  readonly attempts: number;
}

export function startTelling(deps: Deps, log: Logger): Repeated {
  return repeat(CHECK_EVERY_MS, () => deliverAtDue(deps, log), log, 'telling others');
}

async function deliverAtDue(deps: Deps, log: Logger): Promise<void> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<Due>(
    `update delivery d set next_at = $2, attempts = attempts + 1 from hook h
      where d.hook_id = h.id and d.id in (select id from delivery where state = 'waiting' and next_at <= $1 order by next_at for update skip locked limit 10)
      returning d.id, h.id as hook, h.kind, h.url, h.secret, d.body, d.attempts`,
    [new Date(nowMs), new Date(nowMs + CLAIM_MS)],
  );
  await Promise.all(
    due.map((each) =>
      deliver(deps, each).catch((error: unknown) => log.warn({ err: error, delivery: each.id }, 'telling failed')),
    ),
  );
  if (due.length > 0)
    await deps.db.run(
      `delete from delivery where state <> 'waiting' and at < $1::timestamptz - make_interval(days => $2)`,
      [new Date(nowMs), KEPT_DAYS],
    );
}

async function deliver(deps: Deps, { id, hook, kind, url, secret, body, attempts }: Due): Promise<void> {
  const request = requestOf(kind, body, { id, secret: deps.seal.open(hookPurpose(hook), secret) });
  if (!request) {
    await deps.db.run(`update delivery set state = 'arrived', problem = null where id = $1`, [id]);
    return;
  }
  const answer = await deps.world.fetch(new URL(url), LIMITS, new AbortController().signal, request);
  const isThere = answer.ok && answer.status >= 200 && answer.status < 300;
  const problem = answer.ok ? (isThere ? null : `answers ${answer.status}`) : answer.detail.slice(0, 300);
  const state = isThere ? 'arrived' : attempts >= MOST_ATTEMPTS ? 'given-up' : 'waiting';
  await deps.db.run('update delivery set state = $2, status = $3, problem = $4, next_at = $5 where id = $1', [
    id,
    state,
    answer.ok ? answer.status : null,
    problem,
    new Date(deps.world.clock.nowMs() + retryAfterMs(attempts)),
  ]);
}
