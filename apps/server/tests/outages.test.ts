/** What PostgreSQL itself says when a connection is lost, as what it is: an outage that passes, and nobody's mistake. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { setTimeout as pause } from 'node:timers/promises';
import { connect, type Database, type Queries } from '../src/db/database.ts';
import { freshDatabase } from './harness.ts';

let database: Awaited<ReturnType<typeof freshDatabase>>;
let db: Database;
beforeAll(async () => {
  database = await freshDatabase();
  db = connect(
    () => database.url,
    () => {},
  );
});
afterAll(async () => {
  await db.close();
  await database.drop();
});

// SQLSTATEs of PostgreSQL's manual, appendix A, each brought about in the server.
const OUTAGES: Readonly<Record<string, (tx: Queries) => Promise<unknown>>> = {
  'its clock jumps over a transaction’s time (25P03)': async (tx) => {
    await tx.run('set local idle_in_transaction_session_timeout = 40');
    await pause(300);
    await tx.run('select 1');
  },
  'an administrator ends the connection (57P01)': (tx) => tx.run('select pg_terminate_backend(pg_backend_pid())'),
  'it takes no change (25006)': async (tx) => {
    await tx.run('set local transaction_read_only = on');
    await tx.run('create table nothing ()');
  },
  'two waited for each other (40P01)': (tx) =>
    tx.run(`do $$ begin raise exception 'waited' using errcode = '40P01'; end $$`),
};

it.each(Object.entries(OUTAGES))('where %s, it is told to try again', async (_, work) => {
  await expect(db.transaction(work)).rejects.toMatchObject({ code: 'database-away' });
  // The next one has a connection that works.
  expect(await db.one('select 1 as one')).toEqual({ one: 1 });
});

it('a mistake of ours is none of these', async () => {
  await expect(db.run('select nothing_of_the_kind')).rejects.not.toMatchObject({ code: 'database-away' });
});
