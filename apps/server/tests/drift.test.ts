/** A live host that gives something else than was published: seen, told, shown as an alert, and put right. */
import { readdir, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Watch } from '@fastigium/contracts/api/watch';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
const watch = async () => (await house.owner.get<Watch>(`/api/sites/${site}/watch`)).body;
const look = () => house.owner.post<{ findings: number }>(`/api/sites/${site}/watch/drift`);
const contentFile = (text: string) => {
  const hash = createHash('sha256').update(text).digest('hex');
  return join(house.hostFolder, 'contents', hash.slice(0, 2), hash);
};
const told = async (event: string) =>
  house.server.deps.db.many<{ words: string }>(
    `select d.body ->> 'words' as words from delivery d join hook h on h.id = d.hook_id where h.site_id = $1 and d.event = $2 order by d.at`,
    [site, event],
  );

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  await letBe(house, site);
  await house.owner.post(`/api/sites/${site}/hooks`, {
    url: 'https://told.example/',
    events: ['drifted', 'date-near'],
  });
  await house.owner.publish(site);
});
afterAll(() => house.stop());

describe('the live host', () => {
  it('gives what was published, and there is nothing to put right', async () => {
    expect((await look()).body.findings).toBe(0);
    expect(await watch()).toMatchObject({ drift: { since: null, findings: [] }, alerts: [] });
    expect(await house.owner.post(`/api/sites/${site}/watch/put-right`)).toMatchObject({
      status: 409,
      body: { error: { code: 'nothing-drifted' } },
    });
  });

  it('is found out where a page was changed there, since when, and told once', async () => {
    await writeFile(contentFile(SMALL_SITE['index.html'] ?? ''), '<title>Somebody was here</title>');
    expect((await look()).body.findings).toBe(1);
    const first = await watch();
    expect(first.drift?.findings).toEqual([
      {
        address: '/',
        message: {
          code: 'finding.differs-in-size',
          parameters: { size: '<title>Somebody was here</title>'.length, published: expect.any(Number) as number },
        },
      },
    ]);
    expect(first.alerts).toMatchObject([{ kind: 'drift', weight: 'wrong' }]);
    await look();
    expect((await watch()).drift?.since).toBe(first.drift?.since);
    expect(await told('drifted')).toHaveLength(1);
    expect((await house.owner.overview(site)).watch.alerts).toMatchObject([{ kind: 'drift' }]);
  });

  it('is put right by a release of its own, whole', async () => {
    const asked = await house.owner.post<{ job: string; release: number }>(`/api/sites/${site}/watch/put-right`);
    expect([asked.status, (await house.owner.ended(asked.body.job)).state]).toEqual([202, 'done']);
    expect((await house.visit('moor.localhost', '/')).body).toBe(SMALL_SITE['index.html']);
    expect((await house.owner.releases(site))[0]).toMatchObject({ number: 2, rollbackOf: 1, state: 'live' });
    expect((await look()).body.findings).toBe(0);
    expect((await watch()).alerts).toEqual([]);
  });

  it('that was set back to an older release by somebody else is found out too', async () => {
    const folder = join(house.hostFolder, 'sites');
    const [name] = await readdir(folder);
    const releases = await house.server.deps.db.many<{ id: string }>(
      'select id from release where site_id = $1 order by number',
      [site],
    );
    await house.restartHost(async () => {
      await writeFile(join(folder, name ?? '', 'current.json'), JSON.stringify({ release: releases[0]?.id }));
    });
    expect((await look()).body.findings).toBe(1);
    expect((await watch()).drift?.findings[0]?.message.code).toBe('finding.other-release');
    const asked = await house.owner.post<{ job: string }>(`/api/sites/${site}/watch/put-right`);
    await house.owner.ended(asked.body.job);
    expect((await look()).body.findings).toBe(0);
  });
});

describe('days ahead', () => {
  it('a site that comes down within a week says so, in Watch, the frame and to others, once', async () => {
    const day = new Date(house.server.deps.world.clock.nowMs() + 3 * 86_400_000).toISOString().slice(0, 10);
    await house.owner.decide(site, { kind: 'last-day', day });
    await house.owner.publish(site);
    await look();
    await look();
    // The host was away for a moment above: a probe and a reading of that moment have alerts of their own.
    const { dates, alerts } = await watch();
    expect(dates).toMatchObject({ comesDown: day, certificates: [] });
    expect(alerts.filter(({ kind }) => kind !== 'away' && kind !== 'log')).toMatchObject([
      { kind: 'comes-down', message: { code: 'alert.comes-down', parameters: { day } } },
    ]);
    const inWords = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date(`${day}T12:00`));
    expect(await told('date-near')).toEqual([{ words: `The site comes down after ${inWords}.` }]);
  });
});
