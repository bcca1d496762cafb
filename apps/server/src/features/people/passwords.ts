/** Passwords: what they must be, changing one's own, and setting a new one by a link. */
import { hash } from '@node-rs/argon2';
import { DomainError } from '@fastigium/contracts/errors';
import type { Database, Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import type { Threads } from '../../threads/pool.ts';
import { announceAccess } from './access.ts';
import { createLinkToken } from './linkToken.ts';

// Argon2id with 19 MiB, 2 passes, 1 lane: the first choice of the OWASP password storage sheet
// (from memory) and well above the least of RFC 9106 section 4's memory-constrained option in time.
const ARGON2 = { memoryCost: 19 * 1024, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2);

/** A link by an owner's hand takes a while to reach somebody; one by mail is read at once. */
const OWNER_LINK_HOURS = 24;
const MAIL_LINK_HOURS = 1;

/** Throws a DomainError `password-known` where a guesser would come to it early (NIST SP 800-63B-4, section 3.1.1.2). */
export async function requireHard(
  threads: Threads,
  password: string,
  { name, email }: { readonly name: string; readonly email: string },
): Promise<void> {
  const about = [name, ...name.split(/\s+/), email, ...email.split(/[@.]/), 'fastigium'].filter(
    (each) => each.length > 2,
  );
  const reason = await threads.judgePassword({ password, about });
  if (reason !== null) throw new DomainError('password-known', { reason });
}

/**
 * @param by the session that goes on, where all others of theirs end; or the link that is used up by it: two at the same
 * moment, and one is told `reset-ended`. Where the password could not be set, the link is as good as before.
 */
export async function setPassword(
  db: Database,
  person: string,
  password: string,
  by: { readonly session: string | undefined } | { readonly link: string },
): Promise<void> {
  const passwordHash = await hashPassword(password);
  await db.transaction(async (tx) => {
    if ('link' in by && (await tx.run('delete from password_reset where token_hash = $1', [hashSha256(by.link)])) === 0)
      throw new DomainError('reset-ended');
    await tx.run('update person set password_hash = $2, password_changed_at = now() where id = $1', [
      person,
      passwordHash,
    ]);
    // A link that was made for the old one opens nothing any more.
    await tx.run('delete from password_reset where person_id = $1', [person]);
    await tx.run('delete from sign_in_step where person_id = $1', [person]);
    await endSessions(tx, person, 'session' in by ? by.session : undefined);
  });
}

export async function endSessions(tx: Queries, person: string, keep?: string): Promise<void> {
  await tx.run('delete from session where person_id = $1 and id is distinct from $2', [person, keep ?? null]);
  await announceAccess(tx, person);
}

export interface ResetLink {
  readonly token: string;
  readonly until: string;
}

/** @param by the owner who makes it; undefined where it goes by mail */
export async function makeReset(queries: Queries, person: string, by?: string): Promise<ResetLink> {
  const token = createLinkToken();
  const { until } = await queries.one<{ until: Date }>(
    `insert into password_reset (token_hash, person_id, made_by, expires_at) values ($1, $2, $3, now() + make_interval(hours => $4)) returning expires_at as until`,
    [hashSha256(token), person, by ?? null, by === undefined ? MAIL_LINK_HOURS : OWNER_LINK_HOURS],
  );
  return { token, until: until.toISOString() };
}

export interface Reset extends Record<string, unknown> {
  readonly person: string;
  readonly team: string;
  readonly name: string;
  readonly email: string;
  readonly until: Date;
}

/** A link is as good as the power of whoever made it. */
export async function resetOf(queries: Queries, token: string): Promise<Reset> {
  const found = await queries.maybeOne<Reset>(
    `select p.id as person, p.team_id as team, p.name, p.email, r.expires_at as until
       from password_reset r join person p on p.id = r.person_id left join person o on o.id = r.made_by
      where r.token_hash = $1 and r.expires_at > now() and p.removed_at is null
        and (r.made_by is null or (o.removed_at is null and o.role = 'owner'))`,
    [hashSha256(token)],
  );
  if (!found) throw new DomainError('reset-ended');
  return found;
}
