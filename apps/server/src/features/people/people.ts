/** People: the first owner, signing in, roles. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Role } from '@fastigium/contracts/endpoint';
import type { Database, Queries } from '../../db/database.ts';
import type { Caller } from '../../http/caller.ts';
import { hashPassword } from './passwords.ts';

export type Person = Caller & Record<string, unknown>;

export const PERSON_COLUMNS = 'id, team_id as team, name, email, role';

export async function findPersonById(queries: Queries, id: string): Promise<Person | undefined> {
  return queries.maybeOne<Person>(`select ${PERSON_COLUMNS} from person where id = $1 and removed_at is null`, [id]);
}

export async function needsOwner(queries: Queries): Promise<boolean> {
  return (await queries.maybeOne('select 1 from person limit 1')) === undefined;
}

/** Of a password that was held against what is known before. Creates the team and its owner, if there is nobody yet; two at the same moment make one. */
export async function createOwner(
  db: Database,
  owner: { name: string; email: string; password: string },
): Promise<Person> {
  const passwordHash = await hashPassword(owner.password);
  return db.transaction(async (tx) => {
    await tx.run('lock table team in exclusive mode');
    if (!(await needsOwner(tx))) throw new DomainError('owner-exists');
    const team = await tx.one<{ id: string }>('insert into team (name) values ($1) returning id', [
      `${owner.name}’s team`,
    ]);
    return tx.one<Person>(
      `insert into person (team_id, name, email, password_hash, role) values ($1, $2, $3, $4, 'owner') returning ${PERSON_COLUMNS}`,
      [team.id, owner.name, owner.email, passwordHash],
    );
  });
}

export async function addPerson(
  db: Queries,
  team: string,
  person: { name: string; email: string; password: string; role: Role },
): Promise<Person> {
  const passwordHash = await hashPassword(person.password);
  return db.one<Person>(
    `insert into person (team_id, name, email, password_hash, role) values ($1, $2, $3, $4, $5) returning ${PERSON_COLUMNS}`,
    [team, person.name, person.email, passwordHash, person.role],
  );
}

export async function findPersonByEmail(queries: Queries, email: string): Promise<Person | undefined> {
  return queries.maybeOne<Person>(
    `select ${PERSON_COLUMNS} from person where lower(email) = $1 and removed_at is null`,
    [email.toLowerCase()],
  );
}
