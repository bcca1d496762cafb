/** Sending what is to be told, again and again until it arrived or nobody believes in it any more. */
import { reason } from '@fastigium/contracts/messages/reason';
import type { HookKind, Told } from '@fastigium/contracts/api/telling';
import { retryAfterMs } from '@fastigium/core/reach';
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { nameHookPurpose } from './hooks.ts';
import { prepareRequest } from './requests.ts';

const CHECK_EVERY_MS = 1000;
/** While one process sends, no other takes the same one. */
const CLAIM_MS = 60_000;
/** The pauses grow fourfold from a minute, so the last try is two days after the first. */
export const MOST_ATTEMPTS = 8;
const LIMITS = { bytes: 64 * 1024, withinMs: 10_000 } as const;

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
  return startSchedule(
    {
      name: 'telling another',
      everyMs: CHECK_EVERY_MS,
      atOnce: 20,
      withinMs: CLAIM_MS,
      claim: (most) => claimDue(deps, most),
      keyOf: ({ id }) => id,
      work: (each) => deliver(deps, each),
    },
    log,
  );
}

async function claimDue(deps: Deps, most: number): Promise<Due[]> {
  const nowMs = deps.world.clock.nowMs();
  return deps.db.many<Due>(
    `update delivery d set next_at = $2, attempts = attempts + 1 from hook h
      where d.hook_id = h.id and d.id in (select id from delivery where state = 'waiting' and next_at <= $1 order by next_at for update skip locked limit $3)
      returning d.id, h.id as hook, h.kind, h.url, h.secret, d.body, d.attempts`,
    [new Date(nowMs), new Date(nowMs + CLAIM_MS), most],
  );
}

async function deliver(deps: Deps, { id, hook, kind, url, secret, body, attempts }: Due): Promise<void> {
  const request = prepareRequest(kind, body, { id, secret: deps.seal.open(nameHookPurpose(hook), secret) });
  if (!request) {
    await deps.db.run(`update delivery set state = 'arrived', problem = null where id = $1`, [id]);
    return;
  }
  const answer = await deps.world.fetch(new URL(url), LIMITS, new AbortController().signal, request);
  const isThere = answer.ok && answer.status >= 200 && answer.status < 300;
  const problem = answer.ok ? (isThere ? null : reason('answers-status', { status: answer.status })) : answer.detail;
  const state = isThere ? 'arrived' : attempts >= MOST_ATTEMPTS ? 'given-up' : 'waiting';
  await deps.db.run('update delivery set state = $2, status = $3, problem = $4, next_at = $5 where id = $1', [
    id,
    state,
    answer.ok ? answer.status : null,
    problem === null ? null : JSON.stringify(problem),
    new Date(deps.world.clock.nowMs() + retryAfterMs(attempts)),
  ]);
}
