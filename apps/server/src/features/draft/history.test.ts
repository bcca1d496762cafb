/** Decisions are read once, and what is remembered of them is always what the database has. */
import { emptyDraft, foldDecisions } from '@fastigium/core/site';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openHouse, SMALL_SITE, zip, type House } from '../../../tests/harness.ts';
import type { Queries } from '../../db/database.ts';
import { foldDraftAt, readHistory, readLatestDraft } from './history.ts';

let house: House;
let site: string;
let page: string;
beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Remembered');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  page = (await house.owner.pages(site))[0]?.id ?? '';
});
afterAll(() => house.stop());

const title = async (text: string) =>
  expect((await house.owner.decide(site, { kind: 'title', page, title: text })).status).toBe(201);

/** The same database, and how many decisions were read whole from it. */
function counting(queries: Queries): { queries: Queries; bodies: () => number } {
  let bodies = 0;
  const counted: Queries = Object.create(queries, {
    many: {
      value: async (sql: string, values?: readonly unknown[]) => {
        const rows = await queries.many(sql, values);
        bodies += rows.filter(({ body }) => body !== undefined && body !== null).length;
        return rows;
      },
    },
  }) as Queries;
  return { queries: counted, bodies: () => bodies };
}

it('reads only what came after what it knows, and folds what it knows once', async () => {
  const { queries, bodies } = counting(house.server.deps.db);
  await title('One');
  await title('Two');
  const before = await readHistory(queries, site);
  const read = bodies();
  expect(await readHistory(queries, site)).toBe(before);
  expect(foldDraftAt(before, Infinity)).toBe(await readLatestDraft(queries, site));
  expect(bodies()).toBe(read);
  await title('Three');
  const after = await readHistory(queries, site);
  expect(bodies()).toBe(read + 1);
  expect(after.slice(0, before.length)).toEqual(before);
  expect((await readLatestDraft(queries, site)).titles.get(page)).toBe('Three');
  // An earlier version is what it was, and so is the one before all.
  expect(foldDraftAt(after, before.length)).toBe(foldDraftAt(before, Infinity));
  expect(foldDraftAt(after, 1).titles.get(page)).toBe('One');
  expect(foldDraftAt(after, 0)).toEqual(emptyDraft);
  expect(foldDraftAt(after, Infinity)).toEqual(foldDecisions(after));
});

it('remembers nothing of a transaction that was rolled back', async () => {
  const { db } = house.server.deps;
  const before = await readHistory(db, site);
  const next = before.length + 1;
  await expect(
    db.transaction(async (tx) => {
      await tx.run(
        `insert into decision (site_id, seq, body, message) values ($1, $2, $3, '{"code":"decision.home-set","parameters":{}}')`,
        [site, next, JSON.stringify({ kind: 'title', page, title: 'Never' })],
      );
      expect((await readLatestDraft(tx, site)).titles.get(page)).toBe('Never');
      throw new Error('no');
    }),
  ).rejects.toThrow('no');
  expect((await readLatestDraft(db, site)).titles.get(page)).not.toBe('Never');
  await title('Really');
  expect((await readLatestDraft(db, site)).titles.get(page)).toBe('Really');
});

it('reads everything anew where a backup of an earlier time was put back', async () => {
  const { db } = house.server.deps;
  await title('Later');
  const { length } = await readHistory(db, site);
  await db.run('delete from decision where site_id = $1 and seq = $2', [site, length]);
  await db.run('update site set version = $2 where id = $1', [site, length - 1]);
  expect((await readHistory(db, site)).length).toBe(length - 1);
  await title('Another');
  expect((await readHistory(db, site)).length).toBe(length);
  expect((await readLatestDraft(db, site)).titles.get(page)).toBe('Another');
});
