/** Deleting a site: nobody sees it any more, its owners can take it back for 30 days, and then nothing of it is kept. */
import type { GoingSite, SiteSummary } from '@fastigium/contracts/api/sites';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { keepToRules } from '../src/features/retention/schedule.ts';
import { anotherEditor, newLiveSite, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse();
}, 120_000);
afterAll(() => house.stop());

const DAY_MS = 24 * 60 * 60 * 1000;
const remove = (site: string, confirmed: string, by = house.owner) =>
  by.send<GoingSite & { error?: { code: string } }>('DELETE', `/api/sites/${site}`, { confirmed });
const going = async () => (await house.owner.get<GoingSite[]>('/api/going-sites')).body;
const names = async () => (await house.owner.get<SiteSummary[]>('/api/sites')).body.map(({ name }) => name);
const takeBack = (site: string, by = house.owner) => by.send<SiteSummary>('DELETE', `/api/going-sites/${site}`);

describe('a site that is deleted', () => {
  it('is asked for by its name, and only by owners', async () => {
    const site = await house.owner.newSite('Asked');
    const editor = await anotherEditor(house);
    expect((await remove(site, 'Asked', editor)).status).toBe(403);
    expect((await remove(site, 'asked')).body).toMatchObject({ error: { code: 'site-name-differs' } });
    expect(await names()).toContain('Asked');
    expect((await editor.get('/api/going-sites')).status).toBe(403);
    expect((await remove(site, 'Asked ')).status).toBe(200);
    expect((await takeBack(site, editor)).status).toBe(403);
  });

  it('is seen by nobody, is not published and not looked at, while visitors go on getting it', async () => {
    const site = await newLiveSite(house, 'Seen');
    const { hostName } = await house.owner.overview(site);
    const preview = (await house.owner.post<{ own: { seen: string } }>(`/api/sites/${site}/previews`)).body;
    expect((await remove(site, 'Seen')).body).toMatchObject({ name: 'Seen', isLive: true, by: 'Ada Stone' });
    expect(await names()).not.toContain('Seen');
    for (const path of ['', '/pages', '/releases', '/snags'])
      expect([path, (await house.owner.get(`/api/sites/${site}${path}`)).status]).toEqual([path, 404]);
    expect((await house.owner.decide(site, { kind: 'last-day', day: '2099-01-01' })).status).toBe(404);
    expect((await house.visit(`${hostName}.localhost`, '/')).status).toBe(200);
    if (preview.own?.seen) expect((await fetch(preview.own.seen)).status).toBe(410);
    const { db } = house.server.deps;
    await db.run(`update watched_log set next_probe_at = '2000-01-01' where site_id = $1`, [site]);
    const other = await newLiveSite(house, 'Beside');
    await db.run(`update watched_log set next_probe_at = '2000-01-02' where site_id = $1`, [other]);
    const probes = (of: string) => db.many('select 1 from probe where site_id = $1', [of]);
    await vi.waitFor(async () => expect(await probes(other)).not.toEqual([]), { timeout: 20_000 });
    expect(await probes(site)).toEqual([]);
  });

  it('comes back as it was, under another name where its own was taken meanwhile', async () => {
    const site = await newLiveSite(house, 'Returns');
    const before = await house.owner.overview(site);
    expect((await remove(site, 'Returns')).status).toBe(200);
    const [row] = (await going()).filter(({ id }) => id === site);
    expect(Date.parse(row?.goneAt ?? '') - Date.parse(row?.deletedAt ?? '')).toBe(30 * DAY_MS);
    // Its name is free at once.
    await house.owner.newSite('Returns');
    expect((await takeBack(site)).body).toMatchObject({ id: site, name: 'Returns 2' });
    const after = await house.owner.overview(site);
    // Its log was read meanwhile, or not.
    const same = { name: '', runningJobs: [], watch: null };
    expect({ ...after, ...same }).toEqual({ ...before, ...same });
    expect((await going()).map(({ id }) => id)).not.toContain(site);
    expect((await takeBack(site)).status).toBe(404);
    const { entries } = (
      await house.owner.get<{ entries: { what: string; site: string | null; about: string | null }[] }>(
        '/api/trail?kind=sites',
      )
    ).body;
    expect(entries[1]).toMatchObject({ what: { code: 'act.sites-take-back' }, about: 'Returns 2' });
  });

  it('is of its own team alone', async () => {
    const site = await house.owner.newSite('Foreign');
    await remove(site, 'Foreign');
    const { db } = house.server.deps;
    const { id: team } = await db.one<{ id: string }>(`insert into team (name) values ('Others') returning id`);
    await db.run('update site set team_id = $2 where id = $1', [site, team]);
    expect((await going()).map(({ id }) => id)).not.toContain(site);
    expect((await takeBack(site)).status).toBe(404);
  });

  it('is gone after 30 days, with what it alone had, and nothing that another site has too', async () => {
    const { deps } = house.server;
    const both = { ...SMALL_SITE, 'shared.txt': 'what two sites have' };
    const site = await house.owner.newSite('Gone');
    await house.owner.bringIn(site, await zip({ ...both, 'own.txt': 'what one site has' }));
    const other = await house.owner.newSite('Stays');
    await house.owner.bringIn(other, await zip(both));
    expect((await remove(site, 'Gone')).status).toBe(200);
    await deps.db.run(`update site set gone_at = '2000-01-01' where id = $1`, [site]);
    await house.server.schedules.deletions.ranAgain();
    expect(await deps.db.maybeOne('select 1 from site where id = $1', [site])).toBeUndefined();
    const kept = async (text: string) =>
      (await deps.db.maybeOne('select 1 from content where bytes = $1', [Buffer.from(text)])) !== undefined;
    // What is young may be about to be referred to.
    await keepToRules(deps);
    expect([await kept('what one site has'), await kept('what two sites have')]).toEqual([true, true]);
    await deps.db.run(`update content set kept_at = now() - interval '2 days'`);
    await deps.db.run(`update manifest_shard set kept_at = now() - interval '2 days'`);
    const { contents, shards } = await keepToRules(deps);
    expect([await kept('what one site has'), await kept('what two sites have')]).toEqual([false, true]);
    expect([contents > 0, shards > 0]).toEqual([true, true]);
    expect((await house.owner.pages(other)).length).toBeGreaterThan(0);
  });
});
