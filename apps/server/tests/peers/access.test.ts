/**
 * Who can visit, held by three servers alike: the host stand-in, a real nginx and a real Apache (Debian's packages)
 * with the files of a release that was taken along. Statuses and the challenge: RFC 9110 sections 11.6.1, 15.5.2,
 * 15.5.11 and 15.6.4, RFC 7617; curl is the visitor of the stand-in's throttle.
 */
import { execFile, execFileSync } from 'node:child_process';
import { cp, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { letBe, openHouse, SMALL_SITE, zip, type House } from '../harness.ts';
import { temporaryFolder } from './processes.ts';
import { startApache, startNginx, type WebServer } from './webServers.ts';

const SITE = {
  ...SMALL_SITE,
  'members/index.html': '<!DOCTYPE html><title>Members</title>',
  'members/minutes/index.html': '<!DOCTYPE html><title>Minutes</title>',
  'members/list.csv': 'a,b',
  'membership/index.html': '<!DOCTYPE html><title>Membership</title>',
  'press/index.html': '<!DOCTYPE html><title>Press</title>',
  'soon/index.html':
    '<!DOCTYPE html><title>Soon</title><link rel="stylesheet" href="soon.css"><p>Opening in spring</p>',
  'soon/soon.css': 'body { background: url(sky.svg) }',
  'soon/sky.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
};
const basic = (user: string, password: string) => ({
  authorization: `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`,
});
const RIGHT = basic('friends', 'lantern on the môr');
const WRONG = basic('friends', 'lantern on the moor');

let house: House;
let site: string;
const folders: Awaited<ReturnType<typeof temporaryFolder>>[] = [];
const running: WebServer[] = [];
const page = async (address: string) => (await house.owner.page(site, address)).id;

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SITE));
  await house.owner.decide(site, {
    kind: 'redirect',
    from: '/old.php',
    to: { status: 301, target: { kind: 'page', page: await page('/members/') } },
  });
  await house.owner.decide(site, { kind: 'redirect', from: '/members/old.php', to: { status: 410 } });
  await letBe(house, site);
});
afterAll(async () => {
  for (const server of running) await server.stop();
  await house.stop();
  for (const folder of folders) await folder.remove();
});

interface Served {
  readonly name: string;
  ask(
    path: string,
    headers?: Readonly<Record<string, string>>,
  ): Promise<{ status: number; challenge: string | undefined; body: string }>;
}

async function everywhere(): Promise<Served[]> {
  await house.owner.publish(site);
  const [{ number }] = (await house.owner.get(`/api/sites/${site}/releases`)).body as unknown as [{ number: number }];
  const folder = await temporaryFolder('access');
  folders.push(folder);
  const answer = await fetch(`${house.owner.base}/api/sites/${site}/releases/${number}/release.zip`, {
    headers: { cookie: house.owner.cookie },
  });
  await writeFile(join(folder.path, 'release.zip'), Buffer.from(await answer.arrayBuffer()));
  execFileSync('unzip', ['-q', 'release.zip'], { cwd: folder.path });
  for (const users of execFileSync('find', ['nginx', '-name', 'access-users-*'], { cwd: folder.path, encoding: 'utf8' })
    .split('\n')
    .filter((name) => name !== ''))
    await cp(join(folder.path, users), join(folder.path, users.replace('nginx/', '')));
  const nginx = await startNginx(folder.path, [], ['access-server.conf', 'headers-server.conf'], ['access-maps.conf']);
  running.push(nginx);
  const apache = await startApache(folder.path, 'apache', [], false, ['access.conf', 'headers.conf']);
  running.push(apache);
  const of = (name: string, server: WebServer): Served => ({
    name,
    async ask(path, headers) {
      const { status, headers: got, body } = await server.whole(path, headers);
      return { status, challenge: got['www-authenticate'], body: body.toString() };
    },
  });
  return [
    {
      name: 'stand-in',
      async ask(path, headers) {
        const { status, headers: got, body } = await house.visit('moor.localhost', path, headers);
        return { status, challenge: got['www-authenticate'], body: body.toString() };
      },
    },
    of('nginx', nginx),
    of('Apache', apache),
  ];
}

describe('a branch with a password in an open site', () => {
  let served: Served[];
  beforeAll(async () => {
    await house.owner.decide(site, {
      kind: 'entry',
      place: await page('/members/'),
      entry: { kind: 'password', user: 'friends', password: 'lantern on the môr' },
    });
    served = await everywhere();
  });

  it.each([
    ['/', 200, 200, 200],
    ['/membership/', 200, 200, 200],
    ['/nowhere/', 404, 404, 404],
    ['/members/', 401, 401, 200],
    ['/members/index.html', 401, 401, 200],
    ['/members/minutes/', 401, 401, 200],
    ['/members/list.csv', 401, 401, 200],
    ['/members/nowhere/', 401, 401, 404],
    // Other ways of writing the same path (RFC 3986 section 6.2.2).
    ['/%6dembers/list.csv', 401, 401, 200],
    ['/./members/list.csv', 401, 401, 200],
    ['/press/../members/list.csv', 401, 401, 200],
    // Where an old address leads is no secret.
    ['/old.php', 301, 301, 301],
  ] as const)('%s', async (path, without, wrong, right) => {
    for (const { name, ask } of served) {
      const bare = await ask(path);
      expect([name, bare.status]).toEqual([name, without]);
      if (without === 401)
        expect([name, bare.challenge]).toEqual([name, expect.stringMatching(/^Basic realm="\/members\/"/)]);
      expect([name, (await ask(path, WRONG)).status]).toEqual([name, wrong]);
      expect([name, (await ask(path, RIGHT)).status]).toEqual([name, right]);
    }
  });

  it('an old address in the branch says that it is gone; nginx looks for files first, and asks', async () => {
    for (const { name, ask } of served) {
      expect([name, (await ask('/members/old.php')).status]).toEqual([name, name === 'nginx' ? 401 : 410]);
      expect([name, (await ask('/members/old.php', RIGHT)).status]).toEqual([name, 410]);
    }
  });

  it('is known to be closed, and right inside, by the checks from outside', async () => {
    const { body } = await house.owner.get(`/api/sites/${site}/releases/1/inspection`);
    expect(body).toMatchObject({ inspection: { verdict: 'right' } });
    expect(JSON.stringify(body)).toContain('"aspect":"visitors"');
  });
});

describe('a site nobody may visit yet, with a page instead, and one branch for some', () => {
  let served: Served[];
  beforeAll(async () => {
    await house.owner.decide(site, { kind: 'entry', place: null, entry: { kind: 'nobody' } });
    await house.owner.decide(site, { kind: 'entry', place: await page('/press/'), entry: { kind: 'everyone' } });
    await house.owner.decide(site, { kind: 'shown-instead', page: await page('/soon/') });
    served = await everywhere();
  });

  it.each([
    ['/', 503],
    ['/visit/', 503],
    ['/nowhere/', 503],
    ['/old.php', 503],
    ['/robots.txt', 503],
    ['/soon/', 200],
    ['/soon/soon.css', 200],
    ['/soon/sky.svg', 200],
    ['/press/', 200],
    ['/members/', 401],
    ['/membership/', 503],
  ] as const)('%s answers %i', async (path, status) => {
    for (const { name, ask } of served) {
      const answer = await ask(path);
      expect([name, answer.status]).toEqual([name, status]);
      if (status === 503) expect([name, answer.body]).toEqual([name, SITE['soon/index.html']]);
    }
  });
});

describe('a site that has come down', () => {
  let served: Served[];
  beforeAll(async () => {
    const today = new Date(house.server.deps.world.clock.nowMs()).toISOString().slice(0, 10);
    await house.owner.decide(site, { kind: 'last-day', day: today });
    // Decided in time and over since: the day is put back where the real servers' clocks have passed it, and the time with
    // it, by which a process knows what it remembers.
    await house.server.deps.db.run(
      `update decision set at = clock_timestamp(), body = jsonb_set(body, '{day}', '"2020-01-31"') where site_id = $1 and body ->> 'kind' = 'last-day'`,
      [site],
    );
    served = await everywhere();
  });

  it.each([
    ['/', 410],
    ['/press/', 410],
    ['/members/', 410],
    ['/nowhere/', 410],
    ['/soon/', 200],
    ['/soon/soon.css', 200],
  ] as const)('%s answers %i', async (path, status) => {
    for (const { name, ask } of served) {
      const answer = await ask(path);
      expect([name, answer.status]).toEqual([name, status]);
      if (status === 410) expect([name, answer.body]).toEqual([name, SITE['soon/index.html']]);
    }
  });
});

describe('trying passwords out', () => {
  it('is slowed down at the stand-in, to curl, for that address and for a while', async () => {
    await house.owner.decide(site, { kind: 'last-day', day: null });
    await house.owner.publish(site);
    const run = promisify(execFile);
    const url = house.liveUrl('/members/');
    // A client of its own, that guessed nothing yet.
    const curl = async (...more: string[]) =>
      (
        await run('curl', [
          '-s',
          '--interface',
          '127.0.0.2',
          '-o',
          '/dev/null',
          '-w',
          '%{http_code} %header{retry-after}',
          '-H',
          'Host: moor.localhost',
          ...more,
          url,
        ])
      ).stdout.trim();
    expect(await curl()).toBe('401');
    for (let n = 0; n < 10; n += 1) expect(await curl('-u', `friends:guess number ${n}`)).toBe('401');
    expect(await curl('-u', 'friends:lantern on the môr')).toMatch(/^429 (29\d|300)$/);
  });
});
