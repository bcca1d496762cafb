/** What belongs together over two requests: a right password and its second factor, a challenge and its answer. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../../db/database.ts';
import { hashSha256 } from '../../../threads/tasks.ts';
import { createLinkToken } from '../linkToken.ts';

type Purpose = 'sign in' | 'new passkey';

const STEP_MINUTES = 5;
const MOST_TRIES = 5;

/** Something that begins with one request and ends with another. @returns the token that ends it */
export async function beginStep(
  queries: Queries,
  person: string,
  purpose: Purpose,
  challenge: string,
): Promise<string> {
  const token = createLinkToken();
  await queries.run('delete from sign_in_step where expires_at < now()');
  await queries.run(
    `insert into sign_in_step (token_hash, person_id, purpose, challenge, expires_at) values ($1, $2, $3, $4, now() + make_interval(mins => $5))`,
    [hashSha256(token), person, purpose, challenge, STEP_MINUTES],
  );
  return token;
}

/** One more try at it; throws a DomainError `second-ended` where there is none left. */
export async function tryStep(
  queries: Queries,
  token: string,
  purpose: Purpose,
): Promise<{ person: string; challenge: string }> {
  const row = await queries.maybeOne<{ person: string; challenge: string }>(
    `update sign_in_step set tries = tries + 1 where token_hash = $1 and purpose = $2 and expires_at > now() and tries < $3
     returning person_id as person, challenge`,
    [hashSha256(token), purpose, MOST_TRIES],
  );
  if (!row) throw new DomainError('second-ended');
  return row;
}

/** Whose step it is, before anything is tried; throws a DomainError `second-ended`. */
export async function requirePersonOfStep(queries: Queries, step: string): Promise<string> {
  const row = await queries.maybeOne<{ person: string }>(
    `select person_id as person from sign_in_step where token_hash = $1 and purpose = 'sign in' and expires_at > now()`,
    [hashSha256(step)],
  );
  if (!row) throw new DomainError('second-ended');
  return row.person;
}

export async function endStep(queries: Queries, token: string): Promise<void> {
  await queries.run('delete from sign_in_step where token_hash = $1', [hashSha256(token)]);
}
