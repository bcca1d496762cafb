/** People: the first owner, signing in, roles. */
import { hash, verify } from '@node-rs/argon2';
import { DomainError } from '@fastigium/contracts/errors';
import type { Role } from '@fastigium/contracts/endpoint';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database, Queries } from '../../db/database.ts';
import type { Caller } from '../../http/caller.ts';

export type Person = Caller & Record<string, unknown>;

const COLUMNS = 'id, team_id as team, name, email, role';

// Argon2id with 19 MiB, 2 passes, 1 lane: the first choice of the OWASP password storage sheet
// (from memory) and well above the least of RFC 9106 section 4's memory-constrained option in time.
const ARGON2 = { memoryCost: 19 * 1024, timeCost: 2, parallelism: 1 };

export async function personById(queries: Queries, id: string): Promise<Person | undefined> {
  return queries.maybeOne<Person>(`select ${COLUMNS} from person where id = $1 and removed_at is null`, [id]);
}

export async function needsOwner(queries: Queries): Promise<boolean> {
  return (await queries.maybeOne('select 1 from person limit 1')) === undefined;
}

/** Creates the team and its owner, if there is nobody yet; two at the same moment make one. */
export async function createOwner(
  db: Database,
  owner: { name: string; email: string; password: string },
): Promise<Person> {
  const passwordHash = await hash(owner.password, ARGON2);
  return db.transaction(async (tx) => {
    await tx.run('lock table team in exclusive mode');
    if (!(await needsOwner(tx))) throw new DomainError('owner-exists');
    const team = await tx.one<{ id: string }>('insert into team (name) values ($1) returning id', [
      `${owner.name}’s team`,
    ]);
    return tx.one<Person>(
      `insert into person (team_id, name, email, password_hash, role) values ($1, $2, $3, $4, 'owner') returning ${COLUMNS}`,
      [team.id, owner.name, owner.email, passwordHash],
    );
  });
}

export async function addPerson(
  db: Queries,
  team: string,
  person: { name: string; email: string; password: string; role: Role },
): Promise<Person> {
  const passwordHash = await hash(person.password, ARGON2);
  return db.one<Person>(
    `insert into person (team_id, name, email, password_hash, role) values ($1, $2, $3, $4, $5) returning ${COLUMNS}`,
    [team, person.name, person.email, passwordHash, person.role],
  );
}

export interface SignIn {
  check(email: string, password: string, address: string): Promise<Person>;
}

/** Wrong attempts allowed for one account and for one network address, per quarter of an hour. */
const ATTEMPTS = { account: 10, address: 50, windowSeconds: 15 * 60 };

export function signIn(db: Database): SignIn {
  const limiter = (prefix: string, points: number) =>
    new RateLimiterPostgres({
      storeClient: db.pool,
      storeType: 'pool',
      tableName: 'sign_in_attempt',
      tableCreated: true,
      keyPrefix: prefix,
      points,
      duration: ATTEMPTS.windowSeconds,
    });
  const byAccount = limiter('account', ATTEMPTS.account);
  const byAddress = limiter('address', ATTEMPTS.address);
  // Verified when there is no such person, so that the time taken does not tell who exists.
  const nobody = hash('nobody has this password', ARGON2);

  async function consume(of: RateLimiterPostgres, key: string): Promise<void> {
    try {
      await of.consume(key);
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error;
      throw new DomainError('sign-in-throttled', { seconds: Math.max(1, Math.ceil(error.msBeforeNext / 1000)) });
    }
  }

  return {
    async check(email, password, address) {
      const account = email.toLowerCase();
      await consume(byAddress, address);
      await consume(byAccount, account);
      const row = await db.maybeOne<Person & { passwordHash: string }>(
        `select ${COLUMNS}, password_hash as "passwordHash" from person where lower(email) = $1 and removed_at is null`,
        [account],
      );
      const isRight = await verify(row?.passwordHash ?? (await nobody), password);
      if (!row || !isRight) throw new DomainError('sign-in-wrong');
      await byAccount.delete(account);
      const { passwordHash: _, ...person } = row;
      return person;
    },
  };
}
