/** What the schema holds of itself, asked of PostgreSQL's own catalogues (PostgreSQL, chapter "System Catalogs"). */
import { JOB_KINDS, JOB_STATES } from '@fastigium/contracts/api/jobs';
import { VERDICTS } from '@fastigium/contracts/api/inspection';
import { HOOK_EVENTS, HOOK_KINDS } from '@fastigium/contracts/api/telling';
import { HOST_KINDS } from '@fastigium/contracts/hosts/request';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse();
}, 120_000);
afterAll(() => house.stop());
const rows = <T extends Record<string, unknown>>(sql: string) => house.server.deps.db.many<T>(sql);

/** Ids that are of no one table, each with its reason. */
const FREE = [
  // The trail outlives whom and what it tells of.
  'trail.person_id',
  'trail.site_id',
];

describe('the schema', () => {
  it('has a primary key in every table', async () => {
    const without = await rows<{ name: string }>(
      `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
        where n.nspname = 'public' and c.relkind = 'r' and not exists (select 1 from pg_constraint p where p.conrelid = c.oid and p.contype = 'p')`,
    );
    expect(without).toEqual([]);
  });

  it('refers to what it names: an id of another table is a foreign key', async () => {
    const loose = await rows<{ name: string }>(
      `select c.relname || '.' || a.attname as name
         from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace
        where n.nspname = 'public' and c.relkind = 'r' and a.attnum > 0 and not a.attisdropped
          and a.atttypid = 'uuid'::regtype and a.attname like '%\\_id'
          and not exists (select 1 from pg_constraint f where f.contype = 'f' and f.conrelid = c.oid and a.attnum = any(f.conkey))
        order by 1`,
    );
    expect(loose.map(({ name }) => name)).toEqual(FREE);
  });

  it('lets all that is a site’s own go with it', async () => {
    const kept = await rows<{ name: string }>(
      `select conrelid::regclass::text as name from pg_constraint where contype = 'f' and confrelid = 'site'::regclass and confdeltype <> 'c'`,
    );
    expect(kept).toEqual([]);
    const site = await house.owner.newSite('Gone');
    await house.owner.bringIn(site, await zip(SMALL_SITE));
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    await house.owner.decide(site, { kind: 'last-day', day: '2099-01-01' });
    const { db } = house.server.deps;
    expect(await db.run('delete from site where id = $1', [site])).toBe(1);
    const tables = await rows<{ name: string }>(
      `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'site_id'`,
    );
    expect(tables.length).toBeGreaterThan(20);
    for (const { name } of tables) {
      // The trail outlives what it tells of.
      if (name === 'trail') continue;
      expect([name, await db.many(`select 1 from ${name} where site_id = $1`, [site])]).toEqual([name, []]);
    }
  });

  it.each([
    ['job', 'kind', JOB_KINDS],
    ['job', 'state', JOB_STATES],
    ['delivery', 'event', [...HOOK_EVENTS, 'try', 'message']],
    ['hook', 'kind', HOOK_KINDS],
    ['host_account', 'kind', HOST_KINDS],
    ['rehearsal', 'verdict', VERDICTS],
  ])('takes for %s.%s what the contracts name, and nothing else', async (table, column, allowed) => {
    const [check] = await rows<{ definition: string }>(
      `select pg_get_constraintdef(oid) as definition from pg_constraint where contype = 'c' and conname = '${table}_${column}_check'`,
    );
    const named = [...(check?.definition ?? '').matchAll(/'([^']+)'::text/g)].map(([, name]) => name);
    expect(named.sort()).toEqual([...allowed].sort());
  });
});
