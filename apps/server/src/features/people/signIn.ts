/**
 * Signing in, throttled so that a stranger who guesses gets nowhere and locks nobody out: what is counted against an
 * account is counted for each network address by itself. Where many addresses guess at one account, every attempt at it
 * takes longer, the right person's too, but none is turned away for it.
 */
import { hash, verify } from '@node-rs/argon2';
import { DomainError } from '@fastigium/contracts/errors';
import ipaddr from 'ipaddr.js';
import { setTimeout as pause } from 'node:timers/promises';
import type pg from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../../db/database.ts';
import { PERSON_COLUMNS, type Person } from './people.ts';

export interface SignIn {
  /** @param address of the network, as a socket gives it. Throws a DomainError `sign-in-wrong` or `sign-in-throttled`. */
  check(email: string, password: string, address: string): Promise<Person>;
  /**
   * Counts a second factor that is tried, whose owner's password is known to whoever tries; throws a DomainError
   * `sign-in-throttled`. Passkeys and recovery codes are not counted: nobody guesses one, so whoever tries codes by the
   * thousand locks nobody out.
   */
  countSecond(person: string, address: string): Promise<void>;
  /**
   * Before what whoever sits at an open screen must not do: whether it is their password. Throws a DomainError
   * `password-wrong`, or `sign-in-throttled` for a while where it was guessed at from that address.
   */
  checkOwn(person: string, password: string, address: string): Promise<void>;
  /** A link by mail that is asked for: a few for each address, so that nobody's mailbox is filled by strangers. */
  countForgotten(email: string, address: string): Promise<void>;
}

/** Attempts in a quarter of an hour: at one account from one address, and from one address at all. */
const ATTEMPTS = { pair: 10, address: 50, windowSeconds: 15 * 60 };
/** Of a million codes, three are right at a time: so many tries an hour find one in decades. */
const SECONDS_AN_HOUR = 60;
const MAILS_AN_HOUR = 3;
/** From so many attempts at one account on, whoever makes them, each waits a little longer, up to the most. */
const SLOWED = { from: 20, stepMs: 100, mostMs: 2000 };

export function signIn(db: Database): SignIn {
  const limiter = (prefix: string, points: number, duration: number = ATTEMPTS.windowSeconds) =>
    new RateLimiterPostgres({
      // Asked each time: the pool is another one after the database has moved.
      storeClient: { query: (query: pg.QueryConfig) => db.pool.query(query) },
      storeType: 'client',
      tableName: 'sign_in_attempt',
      tableCreated: true,
      keyPrefix: prefix,
      points,
      duration,
    });
  const byPair = limiter('pair', ATTEMPTS.pair);
  const byAddress = limiter('address', ATTEMPTS.address);
  const byAccount = limiter('account', Number.MAX_SAFE_INTEGER);
  const bySecond = limiter('second', SECONDS_AN_HOUR, 3600);
  const byOwn = limiter('own', ATTEMPTS.pair);
  const byMail = limiter('mail', MAILS_AN_HOUR, 3600);
  // Verified when there is no such person, so that the time taken does not tell who exists.
  const nobody = hash('nobody has this password');

  return {
    async check(email, password, from) {
      const account = email.toLowerCase();
      const address = readNetwork(from);
      const pair = `${account} ${address}`;
      await consume(byAddress, address);
      await consume(byPair, pair);
      const { consumedPoints } = await byAccount.consume(account);
      await pause(Math.min(SLOWED.mostMs, Math.max(0, consumedPoints - SLOWED.from) * SLOWED.stepMs));
      const row = await db.maybeOne<Person & { passwordHash: string }>(
        `select ${PERSON_COLUMNS}, password_hash as "passwordHash" from person where lower(email) = $1 and removed_at is null`,
        [account],
      );
      const isRight = await verify(row?.passwordHash ?? (await nobody), password);
      if (!row || !isRight) throw new DomainError('sign-in-wrong');
      await byPair.delete(pair);
      await byAddress.reward(address);
      const { passwordHash: _, ...person } = row;
      return person;
    },
    async countSecond(person, from) {
      await consume(byAddress, readNetwork(from));
      await consume(bySecond, person);
    },
    async checkOwn(person, password, from) {
      const pair = `${person} ${readNetwork(from)}`;
      await consume(byOwn, pair);
      const { passwordHash } = await db.one<{ passwordHash: string }>(
        'select password_hash as "passwordHash" from person where id = $1',
        [person],
      );
      if (!(await verify(passwordHash, password))) throw new DomainError('password-wrong');
      await byOwn.delete(pair);
    },
    async countForgotten(email, from) {
      await consume(byAddress, readNetwork(from));
      await consume(byMail, email.toLowerCase());
    },
  };
}

async function consume(limiter: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await limiter.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new DomainError('sign-in-throttled', { seconds: Math.max(1, Math.ceil(error.msBeforeNext / 1000)) });
  }
}

/** One subscriber has as many addresses of IPv6 as they like: the first 64 bits are theirs (RFC 6177, section 2). */
function readNetwork(address: string): string {
  if (!ipaddr.isValid(address)) return address;
  const plain = ipaddr.process(address);
  return plain.kind() === 'ipv6' ? plain.toNormalizedString().split(':').slice(0, 4).join(':') : plain.toString();
}
