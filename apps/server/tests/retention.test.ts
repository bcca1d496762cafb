/** What is old goes by the rules that docs/operations.md names, and nothing that something needs. */
import { readFile } from 'node:fs/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { RETENTION_RULES } from '../src/features/retention/rules.ts';
import { keepToRules } from '../src/features/retention/schedule.ts';
import { areKept } from '../src/features/shared/contents.ts';
import { readAllEntries } from '../src/features/shared/manifests.ts';
import { type House, letBe, newLiveSite, openHouse, settled, SMALL_SITE, zip } from './harness.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse();
}, 120_000);
afterAll(() => house.stop());

const DAY_MS = 24 * 60 * 60 * 1000;
const daysAgo = (days: number) => new Date(house.server.deps.world.clock.nowMs() - days * DAY_MS);

/** As if nothing had been kept or referred to for some days. */
async function agedKeeping(): Promise<Awaited<ReturnType<typeof keepToRules>>> {
  const { db } = house.server.deps;
  for (const table of ['content', 'manifest_shard'])
    await db.run(`update ${table} set kept_at = now() - interval '2 days'`);
  return keepToRules(house.server.deps);
}

describe('what is kept', () => {
  it('is what the documentation says', async () => {
    const docs = await readFile(new URL('../../../docs/operations.md', import.meta.url), 'utf8');
    for (const { what, keptDays } of RETENTION_RULES) expect(docs).toContain(`| ${what} | ${keptDays} days |`);
  });

  it('goes a day after its time, and not a day before', async () => {
    const { db } = house.server.deps;
    const site = await newLiveSite(house, 'Rules');
    await settled(house, site);
    const { id: person } = await db.one<{ id: string }>('select id from person limit 1');
    for (const days of [401, 399]) {
      await db.run('insert into visit_hour (site_id, hour, found) values ($1, $2, $3)', [site, daysAgo(days), days]);
      await db.run(
        `insert into visit_address (site_id, day, outcome, address, visits, robot_visits, last_at) values ($1, $2::date, 'lost', '/a', $3, 0, now())`,
        [site, daysAgo(days), days],
      );
    }
    for (const days of [31, 29])
      await db.run(
        `insert into job (site_id, kind, body, state, created_by, ended_at, attempts) values ($1, 'compile', '{}', 'done', $2, $3, $4)`,
        [site, person, daysAgo(days), days],
      );
    await db.run(
      `insert into job (site_id, kind, body, state, created_by, created_at, attempts, retry_at, retry_error) values ($1, 'suggest', '{}', 'waiting', $2, $3, 99, now() + interval '1 hour', '{}')`,
      [site, person, daysAgo(60)],
    );
    for (const [days, seen] of [
      [100, 91],
      [100, 89],
      [401, null],
      [399, null],
    ] as const)
      await db.run(`insert into notice (site_id, person_id, message, at, seen_at) values ($1, $2, $3, $4, $5)`, [
        site,
        person,
        JSON.stringify({ code: 'notice.as-written', parameters: { text: `${days} ${seen ?? 'unseen'}` } }),
        daysAgo(days),
        seen === null ? null : daysAgo(seen),
      ]);
    await keepToRules(house.server.deps);
    const left = async (sql: string) => (await db.many<{ x: unknown }>(sql, [site])).map(({ x }) => x);
    expect(await left('select found as x from visit_hour where site_id = $1 and found > 100')).toEqual([399]);
    expect(await left('select visits as x from visit_address where site_id = $1')).toEqual([399]);
    expect(await left('select attempts as x from job where site_id = $1 and attempts > 20 order by 1')).toEqual([
      29, 99,
    ]);
    expect(await left(`select message->'parameters'->>'text' as x from notice where site_id = $1 order by 1`)).toEqual([
      '100 89',
      '399 unseen',
    ]);
  });

  it('is not what a draft was between two changes', async () => {
    const { db } = house.server.deps;
    const site = await newLiveSite(house, 'Between');
    const [page] = await house.owner.pages(site);
    const contents = async () =>
      (await db.many<{ hash: string }>(`select hash from content where position('Passing'::bytea in bytes) > 0`))
        .length;
    for (const title of ['Passing 1', 'Passing 2', 'Staying'])
      await (async () => {
        expect((await house.owner.decide(site, { kind: 'title', page: page?.id ?? '', title })).status).toBe(201);
        await compileDraft(house.server.deps, site);
      })();
    await settled(house, site);
    expect(await contents()).toBe(2);
    await agedKeeping();
    expect(await contents()).toBe(0);
    // All that is live and all that is to go out is there.
    for (const { shards } of await db.many<{ shards: string[] }>(
      'select shards from draft where site_id = $1 union all select shards from release where site_id = $1',
      [site],
    )) {
      const entries = await readAllEntries(db, shards);
      expect(await areKept(db, new Set([...entries.values()].map(({ hash }) => hash)))).toBe(true);
    }
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
  });

  it('is no file of an export that another took the place of, unless a release or a decision has it', async () => {
    const { db } = house.server.deps;
    const site = await house.owner.newSite('Exports');
    // Of no other site: what another import has as well would be kept anyway.
    const own = Object.entries(SMALL_SITE).map(([path, text]) => [path, `${String(text)}<!-- only here -->`]);
    await house.owner.bringIn(site, await zip(Object.fromEntries(own) as Record<string, string>));
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    const [first] = await db.many<{ id: string }>('select id from import where site_id = $1', [site]);
    const newer = Object.fromEntries(
      Object.entries(SMALL_SITE).map(([path, text]) => [path, `${String(text)}<!-- newer -->`]),
    );
    await house.owner.bringIn(site, await zip(newer), 'newer.zip');
    await settled(house, site);
    const files = async (id: string | undefined) =>
      (await db.one<{ n: number }>('select count(*) as n from source_file where import_id = $1', [id])).n;
    await db.run(`update import set applied_at = now() - interval '91 days' where site_id = $1`, [site]);
    // The live release is made from the first.
    expect((await agedKeeping()).imports).toBe(0);
    expect(await files(first?.id)).toBeGreaterThan(0);
    // A page as the first release had it, its text in no file of the newer export.
    const home = await house.owner.page(site, '/');
    const taken = await house.owner.decide(site, {
      kind: 'take-from-release',
      release: 1,
      path: 'index.html',
      take: { kind: 'instead' },
    });
    const source = (
      await db.many<{ hash: string }>(
        `select h #>> '{}' as hash from decision, jsonb_path_query(body, '$.**.hash') h where site_id = $1 and body->>'kind' = 'source'`,
        [site],
      )
    )[0]?.hash;
    expect([taken.status, JSON.stringify(taken.body).slice(0, 300)]).toEqual([201, expect.any(String)]);
    expect((await house.owner.decide(site, { kind: 'title', page: home.id, title: 'Edited' })).status).toBe(201);
    await settled(house, site);
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    await db.run('update release set state = $2 where site_id = $1 and number = 1', [site, 'let-go']);
    await db.run('update release set shards = null, rules_hash = null where site_id = $1 and number = 1', [site]);
    expect((await agedKeeping()).imports).toBe(1);
    expect(await files(first?.id)).toBe(0);
    expect(await areKept(db, new Set([source ?? '']))).toBe(true);
    await db.run('delete from draft where site_id = $1', [site]);
    const { shards } = await compileDraft(house.server.deps, site);
    expect(shards.length).toBe(256);
    expect((await agedKeeping()).imports).toBe(0);
  });
});
