/**
 * PostgreSQL through node-postgres: query verbs that say how many rows they promise, and
 * transactions that cannot be left by accident.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import pg from 'pg';
import { copyIn } from './copyIn.ts';
import { copyOut } from './copyOut.ts';
import { toDomainError } from './sqlstate.ts';

export type Row = Record<string, unknown>;
type Value = unknown;

/** What features query through; inside a transaction it is that transaction's connection. */
export interface Queries {
  /** Exactly one row, or it throws. */
  one<R extends Row>(sql: string, values?: readonly Value[]): Promise<R>;
  maybeOne<R extends Row>(sql: string, values?: readonly Value[]): Promise<R | undefined>;
  many<R extends Row>(sql: string, values?: readonly Value[]): Promise<R[]>;
  /** Rows affected. */
  run(sql: string, values?: readonly Value[]): Promise<number>;
  /** Every column of every row as PostgreSQL holds it, for many bytes at once; what it depends on stands in the query. */
  raw(select: string): Promise<(Buffer | null)[][]>;
  /** The same object as long as the same server answers: what it has that never changes may be remembered by it. */
  readonly source: object;
  /** Whether all that is read is there to stay: inside a transaction its own changes may still be rolled back. */
  readonly readsCommitted: boolean;
}

/** What is possible inside a transaction alone. */
export interface Transaction extends Queries {
  /** Many rows at once, in the text form of COPY. @param into a table with its columns, as in `gathered (n, address)` */
  copyIn(into: string, rows: Iterable<Uint8Array>): Promise<void>;
}

export interface Database extends Queries {
  /** Commits when `work` returns and rolls back when it throws. */
  transaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T>;
  /** Another one after the database has moved. */
  readonly pool: pg.Pool;
  /** The same database for work nobody waits for at a screen: connections of its own, whose statements may take longer. */
  readonly forWork: Database;
  /** Goes on over new connections to wherever the database is found now; what waits at the others is told that they broke. */
  renew(): void;
  close(): Promise<void>;
}

// int8 (20) holds only sizes and counts here, all far below 2^53; numeric stays text, as it should.
pg.types.setTypeParser(20, (text) => {
  const value = Number(text);
  if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is beyond the safe integers`);
  return value;
});

const inTransaction = new AsyncLocalStorage<true>();

function createQueries(
  on: () => pg.Pool | pg.PoolClient,
  guard: () => void,
): Omit<Queries, 'source' | 'readsCommitted'> {
  const query = async (sql: string, values: readonly Value[] = []) => {
    guard();
    try {
      return await on().query<Row>(sql, [...values]);
    } catch (error) {
      throw toDomainError(error);
    }
  };
  return {
    async many<R extends Row>(sql: string, values?: readonly Value[]) {
      return (await query(sql, values)).rows as R[];
    },
    async maybeOne<R extends Row>(sql: string, values?: readonly Value[]) {
      const { rows } = await query(sql, values);
      if (rows.length > 1) throw new Error(`expected at most one row, got ${rows.length}`);
      return rows[0] as R | undefined;
    },
    async one<R extends Row>(sql: string, values?: readonly Value[]) {
      const { rows } = await query(sql, values);
      if (rows.length !== 1) throw new Error(`expected one row, got ${rows.length}`);
      return rows[0] as R;
    },
    async run(sql: string, values?: readonly Value[]) {
      return (await query(sql, values)).rowCount ?? 0;
    },
    async raw(select) {
      guard();
      try {
        const client = on();
        if (!(client instanceof pg.Pool)) return await copyOut(client, select);
        return await borrow(client, async (connection, giveUp) => {
          try {
            return await copyOut(connection, select);
          } catch (error) {
            giveUp(error as Error);
            throw error;
          }
        });
      } catch (error) {
        throw toDomainError(error);
      }
    },
  };
}

/** A connection for some work; one that is lost or given up meanwhile is not lent to the next. */
async function borrow<T>(
  pool: pg.Pool,
  work: (client: pg.PoolClient, giveUp: (error: Error) => void) => Promise<T>,
): Promise<T> {
  const client = await pool.connect().catch((error: unknown) => {
    throw toDomainError(error);
  });
  let broken: Error | undefined;
  const giveUp = (error: Error) => {
    broken = error;
  };
  // A connection that dies between two queries tells nobody else, and would end the process.
  client.on('error', giveUp);
  try {
    return await work(client, giveUp);
  } finally {
    client.off('error', giveUp);
    client.release(broken);
  }
}

const MOST_CONNECTIONS = 10;
/** What somebody waits for at a screen, and what a job does of what may be all pages of a large site. */
const STATEMENT_MS = { screen: 30_000, work: 15 * 60_000 };
const KEPT_ALIVE_AFTER_MS = 10_000;
/** Whoever asks waits no longer for a connection than this, whatever holds the others. */
const CONNECTED_WITHIN_MS = 5000;
/** Nothing outside is waited for inside a transaction, so one that is silent for so long has been forgotten. */
const IDLE_IN_TRANSACTION_MS = 60_000;

/** Without a word to the other side, which may not hear it: whoever waits at it is told that it broke. */
export function cutLine(client: pg.ClientBase | undefined): void {
  (client as unknown as { connection?: { stream?: { destroy(): void } } } | undefined)?.connection?.stream?.destroy();
}

/** @param url as the database is found now, which may be another server than before */
export function connect(url: () => string, onIdleError: (error: Error) => void): Database {
  let source = {};
  const open = (statementMs: number) => openPool(url, onIdleError, statementMs);
  const screen = open(STATEMENT_MS.screen);
  const work = open(STATEMENT_MS.work);
  const both: Pick<Database, 'renew' | 'close'> = {
    renew() {
      source = {};
      screen.renew();
      work.renew();
    },
    async close() {
      await Promise.all([screen.close(), work.close()]);
    },
  };
  const forWork: Database = createDatabase(work, () => source, {
    ...both,
    get forWork() {
      return forWork;
    },
  });
  return createDatabase(screen, () => source, { ...both, forWork });
}

interface RenewablePool {
  now(): pg.Pool;
  renew(): void;
  close(): Promise<void>;
}

function openPool(url: () => string, onIdleError: (error: Error) => void, statementMs: number): RenewablePool {
  const lines = new Set<pg.PoolClient>();
  let pool = open();

  function open(): pg.Pool {
    const opened = new pg.Pool({
      connectionString: url(),
      max: MOST_CONNECTIONS,
      idleTimeoutMillis: 30_000,
      connectionTimeoutMillis: CONNECTED_WITHIN_MS,
      // A line that is cut without a word would otherwise be waited at for hours.
      keepAlive: true,
      keepAliveInitialDelayMillis: KEPT_ALIVE_AFTER_MS,
      idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
      statement_timeout: statementMs,
    });
    // A connection that dies while idle must not end the process; the next query gets a new one.
    opened.on('error', onIdleError);
    opened.on('connect', (client) => lines.add(client));
    opened.on('remove', (client) => lines.delete(client));
    return opened;
  }

  return {
    now: () => pool,
    renew() {
      const before = pool;
      const hanging = [...lines];
      lines.clear();
      pool = open();
      for (const client of hanging) cutLine(client);
      before.end().catch(onIdleError);
    },
    close: () => pool.end(),
  };
}

function createDatabase(
  pool: RenewablePool,
  source: () => object,
  whole: Pick<Database, 'renew' | 'close' | 'forWork'>,
): Database {
  return {
    renew: whole.renew,
    close: whole.close,
    get forWork() {
      return whole.forWork;
    },
    ...createQueries(
      () => pool.now(),
      () => {
        // A second connection would not see the first one's changes and can deadlock with it.
        if (inTransaction.getStore()) throw new Error('use the transaction’s own queries inside a transaction');
      },
    ),
    get pool() {
      return pool.now();
    },
    get source() {
      return source();
    },
    readsCommitted: true,
    transaction: (work) =>
      borrow(pool.now(), async (client, giveUp) => {
        const readFrom = source();
        const queries = createQueries(
          () => client,
          () => {},
        );
        try {
          await client.query('begin');
          const result = await inTransaction.run(true, () =>
            work({
              ...queries,
              source: readFrom,
              readsCommitted: false,
              copyIn: (into, rows) => copyIn(client, into, rows),
            }),
          );
          await client.query('commit');
          return result;
        } catch (error) {
          await client.query('rollback').catch(giveUp);
          throw toDomainError(error);
        }
      }),
  };
}
