/** The team: who has access, in which role, and how somebody comes in. */
import type { People } from '@fastigium/contracts/api/people';
import type { Role } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import { randomBytes } from 'node:crypto';
import type { Database, Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import { sha256 } from '../../threads/tasks.ts';
import { initials } from './initials.ts';
import { addPerson, type Person } from './people.ts';

const DAY_MS = 24 * 60 * 60 * 1000;
/** 192 bits: nobody guesses a link (RFC 4086 section 8.2 asks for 128). */
const TOKEN_BYTES = 24;

export async function teamPeople(queries: Queries, team: string): Promise<People> {
  const { name } = await queries.one<{ name: string }>('select name from team where id = $1', [team]);
  const members = await queries.many<{ id: string; name: string; email: string; role: Role; since: Date }>(
    'select id, name, email, role, created_at as since from person where team_id = $1 and removed_at is null order by created_at',
    [team],
  );
  const invitations = await queries.many<{ id: string; role: Role; by: string; until: Date }>(
    'select i.id, i.role, p.name as by, i.expires_at as until from invitation i join person p on p.id = i.created_by where i.team_id = $1 and i.used_by is null and i.expires_at > now() order by i.created_at',
    [team],
  );
  return {
    team: name,
    members: members.map(({ since, ...member }) => ({
      ...member,
      initials: initials(member.name),
      since: since.toISOString(),
    })),
    invitations: invitations.map(({ until, ...each }) => ({ ...each, until: until.toISOString() })),
  };
}

export async function invite(
  queries: Queries,
  by: Person,
  role: Role,
  days: number,
): Promise<{ token: string; until: string }> {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  const until = new Date(Date.now() + days * DAY_MS);
  await queries.run(
    'insert into invitation (team_id, token_hash, role, created_by, expires_at) values ($1, $2, $3, $4, $5)',
    [by.team, sha256(token), role, by.id, until],
  );
  return { token, until: until.toISOString() };
}

export async function withdraw(queries: Queries, team: string, invitation: string): Promise<void> {
  const gone = await queries.maybeOne(
    'delete from invitation where id = $1 and team_id = $2 and used_by is null returning 1',
    [invitation, team],
  );
  if (!gone) throw new DomainError('not-found', { what: 'such invitation' });
}

interface Invitation extends Record<string, unknown> {
  id: string;
  team: string;
  teamName: string;
  role: Role;
  by: string;
  until: Date;
}

export async function invited(queries: Queries, token: string, lock: '' | 'for update of i' = ''): Promise<Invitation> {
  const found = await queries.maybeOne<Invitation>(
    `select i.id, i.team_id as team, t.name as "teamName", i.role, p.name as by, i.expires_at as until from invitation i join team t on t.id = i.team_id join person p on p.id = i.created_by
      where i.token_hash = $1 and i.used_by is null and i.expires_at > now() and p.removed_at is null and p.role = 'owner' ${lock}`,
    [sha256(token)],
  );
  if (!found) throw new DomainError('invitation-ended');
  return found;
}

/** An invitation is as good as its inviter's power: who is no owner any more has made none. */
async function endInvitationsOf(tx: Queries, id: string): Promise<void> {
  await tx.run('delete from invitation where created_by = $1 and used_by is null', [id]);
}

/** A link is good for one person: two at the same moment make one. */
export async function join(
  db: Database,
  token: string,
  person: { name: string; email: string; password: string },
): Promise<Person> {
  return db.transaction(async (tx) => {
    const { id, team, role } = await invited(tx, token, 'for update of i');
    try {
      const joined = await addPerson(tx, team, { ...person, role });
      await tx.run('update invitation set used_by = $2 where id = $1', [id, joined.id]);
      return joined;
    } catch (error) {
      if (isUniqueViolation(error, 'person_email'))
        throw new DomainError('email-taken', { email: person.email }, { cause: error });
      throw error;
    }
  });
}

export async function setRole(db: Database, team: string, id: string, role: Role): Promise<void> {
  await withOwners(db, team, async (tx, owners) => {
    if (role !== 'owner' && owners.length === 1 && owners[0] === id) throw new DomainError('last-owner');
    await changed(tx, 'update person set role = $3 where id = $1 and team_id = $2 and removed_at is null returning 1', [
      id,
      team,
      role,
    ]);
    if (role !== 'owner') await endInvitationsOf(tx, id);
    await announceAccess(tx, id);
  });
}

/** Streams that somebody has open look again whether they may. */
export async function announceAccess(tx: Queries, person: string): Promise<void> {
  await announce(tx, { kind: 'access', person });
}

/** Sessions end with the next request, since every one asks who is there. */
export async function removePerson(db: Database, team: string, id: string): Promise<void> {
  await withOwners(db, team, async (tx, owners) => {
    if (owners.length === 1 && owners[0] === id) throw new DomainError('last-owner');
    await changed(
      tx,
      'update person set removed_at = now() where id = $1 and team_id = $2 and removed_at is null returning 1',
      [id, team],
    );
    await endInvitationsOf(tx, id);
    await tx.run('delete from session where person_id = $1', [id]);
    await announceAccess(tx, id);
  });
}

/** One change of roles a team at a time, so that two owners cannot remove each other at the same moment. */
async function withOwners(
  db: Database,
  team: string,
  work: (tx: Queries, owners: readonly string[]) => Promise<void>,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.run('select 1 from team where id = $1 for update', [team]);
    const owners = await tx.many<{ id: string }>(
      `select id from person where team_id = $1 and role = 'owner' and removed_at is null`,
      [team],
    );
    await work(
      tx,
      owners.map(({ id }) => id),
    );
  });
}

async function changed(tx: Queries, sql: string, values: readonly unknown[]): Promise<void> {
  if (!(await tx.maybeOne(sql, [...values]))) throw new DomainError('not-found', { what: 'such person' });
}
