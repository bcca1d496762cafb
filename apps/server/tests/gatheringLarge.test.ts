/** Large lists of old addresses: as jobs, with progress, stopped without a trace, at a cost that is the input's. Addresses are invented. */
import type { Gathered, Gathering } from '@fastigium/contracts/api/redirects';
import type { Job } from '@fastigium/contracts/api/jobs';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import type { Sighting } from '@fastigium/core/redirects/gather';
import { takeSightings } from '../src/features/redirects/gather/take.ts';
import { openHouse, type House } from './harness.ts';

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse({});
});
afterAll(() => house.stop());
beforeEach(async () => {
  site = await house.owner.newSite(`Large ${Math.random()}`);
});

const COUNT = 30_000;
const table = (count: number) =>
  `address,visits\n${Array.from({ length: count }, (_, n) => `/archive/${n % 97}/a-page-about-something-${n}.php,${n % 50}`).join('\n')}\n`;
const COLUMNS = `&hasNames=yes&columns=${encodeURIComponent('{"address":0,"visits":1}')}`;

const api = (path: string) => `/api/sites/${site}/${path}`;
const send = (text: string, more = '') =>
  house.owner.send<Gathered>('POST', api(`old-addresses/file?fileName=export.csv${more}`), Buffer.from(text), {
    'content-type': 'application/octet-stream',
  });
const gatherings = async () =>
  (await house.owner.get<{ done: Gathering[] }>(api('old-addresses/gatherings'))).body.done;
const count = async () =>
  (
    await house.server.deps.db.one<{ count: number }>(
      'select count(*)::int as count from old_address where site_id = $1',
      [site],
    )
  ).count;
function takingJob(body: Gathered): string {
  if (body.state !== 'taking') throw new Error(`it is ${body.state}`);
  return body.job;
}

/** Until some of it is in the transaction already. */
async function untilKeeping(job: string): Promise<void> {
  for (let tries = 0; tries < 2000; tries += 1) {
    const { progress, state } = (await house.owner.get<Job>(`/api/jobs/${job}`)).body;
    if (state !== 'waiting' && state !== 'running') throw new Error(`it is ${state} already`);
    if (progress?.step.code === 'step.keeping-addresses' && progress.done > 0) return;
    await pause(5);
  }
  throw new Error('it did not come to that');
}

it('asks how the columns are meant by the beginning, then takes all as a job, and lists what came of it', async () => {
  const asked = await send(table(COUNT));
  expect(asked.body).toMatchObject({ state: 'columns', hasNames: true, columns: { address: 0, visits: 1 } });
  expect(await gatherings()).toEqual([]);
  const { body } = await send(table(COUNT), COLUMNS);
  const job = takingJob(body);
  expect(await house.owner.ended(job)).toMatchObject({ state: 'done' });
  expect(await gatherings()).toMatchObject([
    { source: 'table', name: 'export.csv', read: COUNT, fresh: COUNT, noise: 0, leftOut: 0, notRead: 0, job },
  ]);
  expect(await count()).toBe(COUNT);
  // The same again knows them all, and counts none of their visits twice.
  expect(await house.owner.ended(takingJob((await send(table(COUNT), COLUMNS)).body))).toMatchObject({ state: 'done' });
  expect((await gatherings())[0]).toMatchObject({ read: COUNT, fresh: 0 });
  const { visits } = await house.server.deps.db.one<{ visits: number }>(
    'select sum(visits)::int as visits from old_address where site_id = $1',
    [site],
  );
  expect(visits).toBe(Array.from({ length: COUNT }, (_, n) => n % 50).reduce((a, b) => a + b));
});

it('finds each row by its key, also in tables that were small a moment ago', async () => {
  const { db } = house.server.deps;
  const read = async () => {
    await db.run('select pg_stat_force_next_flush()');
    return (
      await db.one<{ rows: number }>(
        `select sum(seq_tup_read)::bigint as rows from pg_stat_user_tables where relname in ('old_address', 'old_address_seen')`,
      )
    ).rows;
  };
  // What the planner believes then is that there is next to nothing, and so do plans that were made for it.
  await db.run('truncate old_address cascade');
  await db.run('vacuum analyze old_address, old_address_seen');
  const take = (sightings: readonly Sighting[]) =>
    db.forWork.transaction((tx) => takeSightings(tx, { site, source: 'table' }, sightings));
  await take([{ address: '/one', visits: 1 }]);
  const before = await read();
  const taken = await take(Array.from({ length: COUNT }, (_, n) => ({ address: `/a-page-about-something-${n}.php` })));
  expect(taken).toMatchObject({ read: COUNT, fresh: COUNT });
  // Suggestions and rows go through a site's addresses once or twice; once for each would be hundreds of millions.
  expect((await read()) - before).toBeLessThan(COUNT * 20);
});

it('can be stopped, and leaves nothing behind', async () => {
  const job = takingJob((await send(table(COUNT * 3), COLUMNS)).body);
  await untilKeeping(job);
  const stopped = await house.owner.post(`/api/jobs/${job}/cancel`, {});
  expect(stopped.status).toBe(200);
  expect(await house.owner.ended(job)).toMatchObject({ state: 'cancelled' });
  expect([await count(), await gatherings()]).toEqual([0, []]);
});

it('that outlived its process says so instead of being forgotten', async () => {
  const { db } = house.server.deps;
  const by = (await db.one<{ id: string }>('select id from person limit 1')).id;
  const { id } = await db.one<{ id: string }>(
    `insert into job (kind, site_id, body, created_by, only_at, created_at)
     values ('gather', $1, $2, $3, gen_random_uuid(), now() - interval '20 minutes') returning id`,
    [site, JSON.stringify({ source: 'file', kept: crypto.randomUUID(), site, by, fileName: 'access.log' }), by],
  );
  expect(await house.owner.ended(id)).toMatchObject({ state: 'failed', error: { code: 'upload-gone' } });
});

it('waits for the process it came in at', async () => {
  const { db } = house.server.deps;
  const by = (await db.one<{ id: string }>('select id from person limit 1')).id;
  const { id } = await db.one<{ id: string }>(
    `insert into job (kind, site_id, body, created_by, only_at) values ('gather', $1, '{}', $2, gen_random_uuid()) returning id`,
    [site, by],
  );
  // Another one that was put behind it is done, so it had its turn and was left.
  const { body } = await house.owner.post<{ job: string }>(api('old-addresses/suggest'), {});
  await house.owner.ended(body.job);
  expect((await db.one<{ state: string }>('select state from job where id = $1', [id])).state).toBe('waiting');
  await db.run('delete from job where id = $1', [id]);
});
