/** The days after: the host stand-in's access log read as it grows. Sites and names are invented. */
import type { OldAddress } from '@fastigium/contracts/api/redirects';
import type { Watch } from '@fastigium/contracts/api/watch';
import { appendFile, readFile, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readLogLine } from '@fastigium/core/redirects/gather';
import { probeNow } from '../src/features/watch/probe.ts';
import { expectFree, letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
const log = () => join(house.hostFolder, 'logs', 'moor.access.log');

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  await house.owner.decide(site, {
    kind: 'redirect',
    from: '/old.php',
    to: { status: 301, target: { kind: 'page', page: (await house.owner.page(site, '/visit/')).id } },
  });
  await house.owner.decide(site, { kind: 'redirect', from: '/unused.php', to: { status: 410 } });
  await letBe(house, site);
});
afterAll(() => house.stop());

/** As a person's browser asks. */
const visit = (
  path: string,
  referer?: string,
  agent = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
) =>
  new Promise<number>((resolve, reject) => {
    request(
      {
        host: '127.0.0.1',
        port: house.world.ports.live,
        path,
        headers: { host: 'moor.localhost', 'user-agent': agent, ...(referer ? { referer } : {}) },
      },
      (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode ?? 0));
      },
    )
      .on('error', reject)
      .end();
  });
const read = async () => (await house.owner.post<{ requests: number }>(`/api/sites/${site}/watch/read`)).body.requests;
const watch = async () => (await house.owner.get<Watch>(`/api/sites/${site}/watch`)).body;
const lost = async (address: string) => (await watch()).lost.find((each) => each.address === address);

it('before anything is live there is nothing to read', async () => {
  expect(await watch()).toMatchObject({ state: 'none', lost: [], rules: [] });
  expect(await house.owner.post(`/api/sites/${site}/watch/read`)).toMatchObject({
    status: 409,
    body: { error: { code: 'nothing-live' } },
  });
});

describe('a live site', () => {
  beforeAll(async () => {
    await house.owner.publish(site);
    await house.server.deps.db.run(`update watched_log set next_read_at = 'infinity'`);
    await visit('/');
    await visit('/old.php?from=mail');
    for (let n = 0; n < 3; n += 1) await visit('/summer-camp.html', 'https://school.example/links');
    await visit('/summer-camp.html', undefined, 'ExampleBot/2.1');
    await visit('/wp-admin/setup.php');
    await read();
  });

  it('writes a log of the common kind, by the world’s clock', async () => {
    const lines = (await readFile(log(), 'utf8')).trim().split('\n');
    const requests = lines.map((line) => readLogLine(line));
    expect(requests.every((each) => each !== undefined)).toBe(true);
    const nowMs = house.server.deps.world.clock.nowMs();
    expect(Math.abs((requests.at(-1)?.atMs ?? 0) - nowMs)).toBeLessThan(60_000);
  });

  it('counts people by how they fared; what the inspection asked is no visit', async () => {
    const { state, days, readAt } = await watch();
    expect(state).toBe('reading');
    expect(readAt).not.toBeNull();
    expect(days.at(-1)).toMatchObject({ found: 1, redirected: 1, lost: 4, gone: 0, failed: 0, robots: 1 });
  });

  it('lists what found nothing, most visits first, with where people came from; probes are set apart', async () => {
    const { lost: rows } = await watch();
    expect(
      rows.map(({ address, visits, robotVisits, referrer, standing, isApart, byDay }) => ({
        address,
        visits,
        robotVisits,
        referrer,
        standing,
        isApart,
        today: byDay.at(-1),
      })),
    ).toEqual([
      {
        address: '/summer-camp.html',
        visits: 3,
        robotVisits: 1,
        referrer: 'https://school.example/links',
        standing: 'lost',
        isApart: false,
        today: 3,
      },
      {
        address: '/wp-admin/setup.php',
        visits: 1,
        robotVisits: 0,
        referrer: null,
        standing: 'lost',
        isApart: true,
        today: 1,
      },
    ]);
  });

  it('tells which redirects are used and which nobody ever used', async () => {
    expect((await watch()).rules.map(({ from, visits, addresses }) => [from, visits, addresses])).toEqual([
      ['/old.php', 1, 1],
      ['/unused.php', 0, 0],
    ]);
  });

  it('a lost address is an old address from then on, with its visits; read twice, nothing counts twice', async () => {
    expect(await read()).toBe(0);
    await visit('/summer-camp.html');
    expect(await read()).toBe(1);
    const { body } = await house.owner.get<OldAddress>(
      `/api/sites/${site}/old-addresses/one?from=${encodeURIComponent('/summer-camp.html')}`,
    );
    expect(body).toMatchObject({ kind: 'page', visits: 4, seen: [{ source: 'live', visits: 4 }] });
    expect(await lost('/summer-camp.html')).toMatchObject({ visits: 4 });
  });

  it('settled here it is settled on the draft, and answers when the next release is live', async () => {
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/summer-camp.html',
      to: { status: 301, target: { kind: 'page', page: (await house.owner.page(site, '/welcome/')).id } },
    });
    expect(await lost('/summer-camp.html')).toMatchObject({ standing: 'settled' });
    await house.owner.publish(site);
    expect(await lost('/summer-camp.html')).toMatchObject({ standing: 'answers' });
    expect(await visit('/summer-camp.html')).toBe(301);
  });

  it('half a line waits for its other half; a line that is none is counted as such', async () => {
    // The host writes its log behind its answer.
    await expect.poll(async () => (await readFile(log(), 'utf8')).includes('" 301 ')).toBe(true);
    // What it wrote late of visits before is read first.
    await expect.poll(read).toBe(0);
    const before = await lost('/half.html');
    await appendFile(log(), '127.0.0.1 - - [26/Nov/2026:10:00:00 +0000] "GET /half.html HTTP/1.1" 404 ');
    expect(await read()).toBe(0);
    await appendFile(log(), '12 "-" "Mozilla/5.0"\nthis is no request\n');
    expect(await read()).toBe(1);
    expect(before).toBeUndefined();
    expect(await watch()).toMatchObject({ notRead: 1, problem: null });
  });

  it('a log that was begun anew is read from its start, and nothing of the old one again', async () => {
    const visits = (await lost('/summer-camp.html'))?.visits;
    await writeFile(
      log(),
      '127.0.0.1 - - [26/Nov/2026:11:00:00 +0000] "GET /anew.html HTTP/1.1" 404 12 "-" "Mozilla/5.0"\n',
    );
    expect(await read()).toBe(1);
    expect(await lost('/anew.html')).toMatchObject({ visits: 1 });
    expect((await lost('/summer-camp.html'))?.visits).toBe(visits);
    // Longer than the old one by the time it is looked at: it still begins otherwise.
    await writeFile(
      log(),
      Array.from(
        { length: 200 },
        (_, n) =>
          `127.0.0.1 - - [26/Nov/2026:12:00:${String(n % 60).padStart(2, '0')} +0000] "GET /third-${n % 2}.html HTTP/1.1" 404 12 "-" "Mozilla/5.0"\n`,
      ).join(''),
    );
    expect(await read()).toBe(200);
    expect(await lost('/third-0.html')).toMatchObject({ visits: 100 });
  });

  it('many reading at the same moment count it once', async () => {
    for (let n = 0; n < 5; n += 1) await visit('/at-once.html');
    const requests = await Promise.all(Array.from({ length: 6 }, read));
    expect(requests.reduce((sum, each) => sum + each, 0)).toBe(5);
    expect(await lost('/at-once.html')).toMatchObject({ visits: 5 });
  });

  it('a host that takes its time holds no row meanwhile', async () => {
    await visit('/in-its-time.html');
    await house.faults({ delayMs: 1500 });
    let isRead = false;
    const reading = read().finally(() => (isRead = true));
    let looks = 0;
    for (; !isRead; looks += 1) {
      await expectFree(house, 'watched_log', site);
      await new Promise((resolve) => {
        setTimeout(resolve, 50);
      });
    }
    expect(looks).toBeGreaterThan(5);
    await house.faults({});
    expect(await reading).toBeGreaterThan(0);
    expect(await lost('/in-its-time.html')).toMatchObject({ visits: 1 });
  });

  it('a host that refuses is told, and what was read stays', async () => {
    await house.faults({ refuse: true });
    expect(await house.owner.post(`/api/sites/${site}/watch/read`)).toMatchObject({
      status: 502,
      body: { error: { code: 'host-troubled' } },
    });
    expect((await watch()).problem).toMatchObject({ code: 'error.host-troubled' });
    await house.faults({});
    await read();
    expect((await watch()).problem).toBeNull();
  });

  it('reads by itself when it is due', async () => {
    await visit('/by-itself.html');
    await house.server.deps.db.run(`update watched_log set next_read_at = '2000-01-01'`);
    for (let tries = 0; tries < 200 && (await lost('/by-itself.html')) === undefined; tries += 1)
      await new Promise((resolve) => {
        setTimeout(resolve, 50);
      });
    expect(await lost('/by-itself.html')).toMatchObject({ visits: 1 });
  });
});

describe('whether it is there', () => {
  const probe = () => probeNow(house.server.deps, site);
  const runOn = (minutes: number) => house.owner.post('/api/stand-ins/clock', { byMs: minutes * 60_000 });
  const up = async () => (await watch()).up;

  beforeAll(async () => {
    await house.server.deps.db.run(`update watched_log set next_probe_at = 'infinity'`);
    await house.server.deps.db.run('delete from probe');
    // Noon of the next day, wherever in a day the test is run: what follows takes place on one day.
    const DAY_MINUTES = 24 * 60;
    const minute = Math.floor(house.server.deps.world.clock.nowMs() / 60_000) % DAY_MINUTES;
    expect((await runOn(DAY_MINUTES - minute + DAY_MINUTES / 2)).status).toBe(200);
  });

  it('is told from probes: how long, how fast, and when it was away', async () => {
    expect(await up()).toMatchObject({ percent: null, isUp: null, firstByte: null, outages: [], promised: null });
    await probe();
    await runOn(5);
    expect(await up()).toMatchObject({ percent: 100, isUp: true, downMinutes: 0 });
    expect((await up()).firstByte?.median).toBeGreaterThan(0);
    await house.host.stop();
    await probe();
    await runOn(5);
    await probe();
    await runOn(5);
    const away = await up();
    expect(away).toMatchObject({
      isUp: false,
      outages: [{ to: null, problem: expect.stringContaining('ECONNREFUSED') }],
    });
    expect(away.downMinutes).toBeCloseTo(10, 0);
    expect(away.percent).toBeCloseTo(100 / 3, 0);
    expect(away.days.at(-1)?.percent).toBeCloseTo(100 / 3, 0);
  });
});
