/** Limits of statements and connections (PostgreSQL, "Client Connection Defaults", statement_timeout). */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { freshDatabase } from '../../tests/harness.ts';
import { connect, type Database } from './database.ts';

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

it('a statement somebody waits for at a screen has half a minute, one of a job a quarter of an hour', async () => {
  const limit = async (queries: Database) =>
    (await queries.one<{ limit: string }>(`select current_setting('statement_timeout') as limit`)).limit;
  expect([await limit(db), await limit(db.forWork), await limit(db.forWork.forWork)]).toEqual([
    '30s',
    '15min',
    '15min',
  ]);
});

it('one that takes longer is left and says so, and its transaction with it', async () => {
  await db.run('create table made (n int)');
  const slow = db.transaction(async (tx) => {
    await tx.run('insert into made values (1)');
    await tx.run(`set local statement_timeout = '50ms'`);
    await tx.run('select pg_sleep(30)');
  });
  await expect(slow).rejects.toMatchObject({ code: 'database-slow' });
  expect(await db.many('select n from made')).toEqual([]);
});

it('jobs that take all connections of theirs leave those of screens alone, and the other way round', async () => {
  for (const [busy, other] of [
    [db.forWork, db],
    [db, db.forWork],
  ] as const) {
    let end = () => {};
    const ended = new Promise<void>((resolve) => {
      end = resolve;
    });
    const most = busy.pool.options.max;
    const held = Array.from({ length: most }, () => busy.transaction(() => ended));
    while (busy.pool.totalCount - busy.pool.idleCount < most) await other.one('select 1 as one');
    expect(await other.one('select 2 as two')).toEqual({ two: 2 });
    end();
    await Promise.all(held);
  }
});

it('is another source once it was renewed, for both', async () => {
  const before = db.source;
  expect(db.forWork.source).toBe(before);
  await db.transaction((tx) => {
    expect([tx.source, tx.readsCommitted]).toEqual([before, false]);
    return Promise.resolve();
  });
  db.renew();
  expect(db.source).not.toBe(before);
  expect(db.forWork.source).toBe(db.source);
  expect([await db.one('select 1 as one'), await db.forWork.one('select 1 as one')]).toEqual([{ one: 1 }, { one: 1 }]);
});
