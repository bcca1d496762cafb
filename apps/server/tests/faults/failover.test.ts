/**
 * The database's primary is lost in the middle of a publish, and a standby that streams from it is promoted: a real pair
 * of servers, then a real third one. The primary ends once, and once it only hangs, which is worse: nobody is told.
 */
import type { HostPort } from '@fastigium/contracts/ports/host';
import { chmodSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { freePort, startCluster, startStandby } from '../../../../scripts/lib/cluster.mjs';
import { createDatabasePlaces, findPrimary } from '../../src/db/places.ts';
import { feelPulse } from '../../src/db/pulse.ts';
import { openHouse, SMALL_SITE, zip, type House } from '../harness.ts';

interface Cluster {
  readonly port: number;
  readonly url: string;
  readonly password: string;
  readonly pid: number;
  stop(): Promise<void>;
}
const make = startCluster as (options: object) => Promise<Cluster>;
const follow = startStandby as (options: object) => Promise<Cluster>;

let folder: string;
let house: House;
let site: string;
let ports: number[];
const clusters: Cluster[] = [];
/** What is to happen when the host has taken what is new, before it is switched. */
let then: (() => Promise<void>) | undefined;

async function ask(url: string, sql: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<Record<string, unknown>>(sql)).rows;
  } finally {
    await client.end();
  }
}

/** A standby of the last one, which then waits for it with every commit: so nothing that was said is lost. */
async function addStandby(): Promise<void> {
  const of = clusters.at(-1);
  if (!of) throw new Error('there is no primary');
  clusters.push(await follow({ folder: join(folder, `cluster-${clusters.length}`), of, port: ports[clusters.length] }));
  await ask(of.url, `alter system set synchronous_standby_names = '*'`);
  await ask(of.url, 'select pg_reload_conf()');
  for (let tries = 0; ; tries += 1) {
    const [row] = await ask(of.url, 'select sync_state from pg_stat_replication');
    if (row?.sync_state === 'sync') return;
    if (tries > 300) throw new Error('the standby does not follow');
    await pause(100);
  }
}

async function promote({ url }: Cluster): Promise<void> {
  // It waits for nobody any more.
  await ask(url, `select pg_promote(true, 30)`);
  await ask(url, `alter system reset synchronous_standby_names`);
  await ask(url, 'select pg_reload_conf()');
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fastigium-failover-'));
  chmodSync(folder, 0o755);
  ports = [];
  for (let n = 0; n < 3; n += 1) ports.push(await (freePort as () => Promise<number>)());
  const first = await make({ folder: join(folder, 'cluster-0'), port: ports[0] });
  clusters.push(first);
  await addStandby();
  const urls = ports.map((port) => first.url.replace(/:\d+\//, `:${port}/`));
  house = await openHouse({
    // The standby stands first: it answers, and takes no change.
    env: {
      FASTIGIUM_DATABASE_URL: [urls[1], urls[0], urls[2]].join(', '),
      FASTIGIUM_RETRY_PAUSES: '0.2, 0.5, 1, 2, 4, 8',
    },
  });
  const { hosts } = house.server.deps;
  const hostOf = hosts.of.bind(hosts);
  (hosts as { of: typeof hosts.of }).of = async (...args) => {
    const host = await hostOf(...args);
    return {
      ...host,
      async stage(...given: Parameters<HostPort['stage']>) {
        const sent = await host.stage(...given);
        const now = then;
        then = undefined;
        await now?.();
        return sent;
      },
    };
  };
  site = await house.owner.newSite('Failover');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  expect((await house.owner.publish(site)).state).toBe('done');
}, 120_000);

afterAll(async () => {
  await (house as House | undefined)?.stop();
  for (const cluster of clusters) {
    try {
      process.kill(cluster.pid, 'SIGCONT');
      process.kill(cluster.pid, 'SIGKILL');
    } catch {
      // It has ended already.
    }
  }
  // Its children notice that it is gone.
  await pause(500);
  await rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 500 });
});

/** Every process of a cluster: one that hangs hangs with all of them. */
async function signal({ pid, url }: Cluster, name: NodeJS.Signals): Promise<void> {
  const backends = name === 'SIGSTOP' ? await ask(url, 'select pid from pg_stat_activity where pid is not null') : [];
  for (const each of [pid, ...backends.map((row) => Number(row.pid))]) {
    try {
      process.kill(each, name);
    } catch {
      // The connection that asked has ended.
    }
  }
}

it('a standby that answers is no database to work on, and is not taken for one', async () => {
  const standby = clusters[1]?.url ?? '';
  const places = createDatabasePlaces([standby]);
  const pulse = feelPulse(places, () => {});
  try {
    for (let tries = 0; pulse.isThere(); tries += 1) {
      if (tries > 300) throw new Error('the standby is taken for the primary');
      await pause(25);
    }
  } finally {
    pulse.close();
  }
});

describe.each([
  { how: 'has ended', name: 'SIGQUIT', at: 0 },
  { how: 'hangs', name: 'SIGSTOP', at: 1 },
] as const)('a primary that $how in the middle of a publish', ({ how, name, at }) => {
  it('is another one soon: the publish ends well, nothing that was said is lost, and work goes on', async () => {
    if (at > 0) await addStandby();
    const [primary, standby] = [clusters[at], clusters[at + 1]];
    if (!primary || !standby) throw new Error('there is no pair');
    const { id } = await house.owner.page(site, '/welcome/');
    await house.owner.decide(site, { kind: 'title', page: id, title: `When it ${how}` });
    then = async () => {
      await signal(primary, name);
      await pause(1500);
      await promote(standby);
    };
    const { version } = await house.owner.overview(site);
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases`, { version });
    const job = await house.owner.ended(body.job);
    expect([job.state, job.error]).toEqual(['done', null]);
    const { hostName } = await house.owner.overview(site);
    expect((await house.visit(`${hostName}.localhost`, '/welcome/')).body).toContain(`<title>When it ${how}</title>`);
    expect((await house.owner.releases(site))[0]).toMatchObject({ state: 'live', number: at + 2 });
    // Whoever was signed in still is, news comes, and the next publish goes as ever.
    expect((await house.owner.get('/api/account')).status).toBe(200);
    const news = new Promise<void>((resolve) => {
      const leave = house.server.deps.feed.subscribe(() => (leave(), resolve()));
    });
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Afterwards' });
    await news;
    expect(await findPrimary(house.server.deps.config.databaseUrls)).toBe(
      standby.url.replace(/:\d+\//, `:${standby.port}/`),
    );
    expect((await fetch(`http://127.0.0.1:${house.server.port}/readyz`)).status).toBe(200);
  }, 120_000);
});

describe('one that was thought lost and comes back as it was', () => {
  it('is not taken for the database: of two that take changes, it is the one promoted later', async () => {
    const [, second] = clusters;
    if (!second) throw new Error('there is no second one');
    const before = await house.server.deps.db.one<{ count: number }>('select count(*)::int as count from decision');
    await signal(second, 'SIGCONT');
    for (const each of await ask(clusters[2]?.url ?? '', 'select 1 as one')) expect(each.one).toBe(1);
    expect(await findPrimary(house.server.deps.config.databaseUrls)).toContain(`:${ports[2]}/`);
    await house.owner.decide(site, {
      kind: 'title',
      page: (await house.owner.page(site, '/welcome/')).id,
      title: 'On the right one',
    });
    const after = await ask(clusters[2]?.url ?? '', 'select count(*)::int as count from decision');
    expect(after[0]?.count).toBe(before.count + 1);
  });
});
