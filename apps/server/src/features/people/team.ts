/** The team: who has access, in which role, and how somebody comes in. */
import type { People } from '@fastigium/contracts/api/people';
import type { Role } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import type { Database, Queries } from '../../db/database.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { announceAccess } from './access.ts';
import { deriveInitials } from '../shared/initials.ts';
import { createLinkToken } from './linkToken.ts';
import { addPerson, type Person } from './people.ts';
import { setSeenSites } from './seenSites.ts';

const DAY_MS = 24 * 60 * 60 * 1000;

/** @param forOwner owners are told what the others may see and when they were here */
export async function readTeamPeople(queries: Queries, team: string, forOwner: boolean): Promise<People> {
  const { name } = await queries.one<{ name: string }>('select name from team where id = $1', [team]);
  const members = await queries.many<
    Omit<People['members'][number], 'since' | 'initials' | 'access'> & {
      since: Date;
      sites: string[] | null;
      factors: number;
      sessions: number;
      lastSeen: Date | null;
    }
  >(
    `select p.id, p.name, p.email, p.role, p.created_at as since,
            case when p.role = 'owner' or (p.sees_all and p.role <> 'client') then null
                 else array(select site_id from site_member m where m.person_id = p.id) end as sites,
            (select count(*) from second_factor f where f.person_id = p.id and f.is_proved)::int as factors,
            s.sessions, s.last_seen as "lastSeen"
       from person p
       left join lateral (select count(*)::int as sessions, max(seen_at) as last_seen from session s
                           where s.person_id = p.id and s.idle_until > now() and s.ends_at > now()) s on true
      where p.team_id = $1 and p.removed_at is null order by p.created_at`,
    [team],
  );
  const invitations = await queries.many<{ id: string; role: Role; by: string; until: Date }>(
    'select i.id, i.role, p.name as by, i.expires_at as until from invitation i join person p on p.id = i.created_by where i.team_id = $1 and i.used_by is null and i.expires_at > now() order by i.created_at',
    [team],
  );
  return {
    team: name,
    members: members.map(({ since, sites, factors, sessions, lastSeen, ...member }) => ({
      ...member,
      initials: deriveInitials(member.name),
      since: since.toISOString(),
      access: forOwner ? { sites, factors, sessions, lastSeen: lastSeen?.toISOString() ?? null } : null,
    })),
    invitations: invitations.map(({ until, ...each }) => ({ ...each, until: until.toISOString() })),
  };
}

/** @param sites the invited will see; null: all */
export async function invite(
  queries: Queries,
  by: Person,
  { role, days, sites }: { readonly role: Role; readonly days: number; readonly sites: readonly string[] | null },
): Promise<{ token: string; until: string }> {
  const token = createLinkToken();
  const until = new Date(Date.now() + days * DAY_MS);
  const wanted = sites === null ? null : [...new Set(sites)];
  if (wanted !== null) {
    const { known } = await queries.one<{ known: number }>(
      'select count(*)::int as known from site where team_id = $1 and id = any($2)',
      [by.team, wanted],
    );
    if (known !== wanted.length) throw new DomainError('not-found', { what: 'site' });
  }
  await queries.run(
    'insert into invitation (team_id, token_hash, role, created_by, expires_at, sites) values ($1, $2, $3, $4, $5, $6)',
    [by.team, hashSha256(token), role, by.id, until, wanted],
  );
  return { token, until: until.toISOString() };
}

export async function withdraw(queries: Queries, team: string, invitation: string): Promise<void> {
  const gone = await queries.maybeOne(
    'delete from invitation where id = $1 and team_id = $2 and used_by is null returning 1',
    [invitation, team],
  );
  if (!gone) throw new DomainError('not-found', { what: 'invitation' });
}

interface Invitation extends Record<string, unknown> {
  id: string;
  team: string;
  teamName: string;
  role: Role;
  by: string;
  until: Date;
  sites: string[] | null;
}

export async function requireInvitation(
  queries: Queries,
  token: string,
  lock: '' | 'for update of i' = '',
): Promise<Invitation> {
  const found = await queries.maybeOne<Invitation>(
    `select i.id, i.team_id as team, t.name as "teamName", i.role, p.name as by, i.expires_at as until, i.sites from invitation i join team t on t.id = i.team_id join person p on p.id = i.created_by
      where i.token_hash = $1 and i.used_by is null and i.expires_at > now() and p.removed_at is null and p.role = 'owner' ${lock}`,
    [hashSha256(token)],
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
    const { id, team, role, sites } = await requireInvitation(tx, token, 'for update of i');
    try {
      const joined = await addPerson(tx, team, { ...person, role });
      if (sites !== null) {
        // One that was removed meanwhile is shown to nobody.
        const there = await tx.many<{ id: string }>('select id from site where id = any($1)', [sites]);
        await setSeenSites(
          tx,
          team,
          joined.id,
          there.map((site) => site.id),
        );
      }
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
    await changeRow(
      tx,
      'update person set role = $3 where id = $1 and team_id = $2 and removed_at is null returning 1',
      [id, team, role],
    );
    if (role !== 'owner') await endInvitationsOf(tx, id);
    await announceAccess(tx, id);
  });
}

/** @param sites null: all */
export async function showSites(
  db: Database,
  team: string,
  id: string,
  sites: readonly string[] | null,
): Promise<void> {
  await db.transaction(async (tx) => {
    const { role } = await requireMember(tx, team, id);
    if (role === 'client' && sites === null) throw new DomainError('input-invalid', { detail: reason('choose-sites') });
    await setSeenSites(tx, team, id, sites);
    await announceAccess(tx, id);
  });
}

/** Throws a DomainError `not-found` where there is no such person (any more). */
export async function requireMember(
  queries: Queries,
  team: string,
  id: string,
): Promise<{ name: string; role: Role; email: string }> {
  const row = await queries.maybeOne<{ name: string; role: Role; email: string }>(
    'select name, role, email from person where id = $1 and team_id = $2 and removed_at is null',
    [id, team],
  );
  if (!row) throw new DomainError('not-found', { what: 'person' });
  return row;
}

/** Sessions end with the next request, since every one asks who is there. */
export async function removePerson(db: Database, team: string, id: string): Promise<void> {
  await withOwners(db, team, async (tx, owners) => {
    if (owners.length === 1 && owners[0] === id) throw new DomainError('last-owner');
    await changeRow(
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

async function changeRow(tx: Queries, sql: string, values: readonly unknown[]): Promise<void> {
  if (!(await tx.maybeOne(sql, [...values]))) throw new DomainError('not-found', { what: 'person' });
}
