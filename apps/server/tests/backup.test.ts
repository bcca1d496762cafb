/** A backup, made while people work, restored into a cluster of its own: everything is there, and goes on. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, stat, writeFile, chmod } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { startCluster } from '../../../scripts/lib/cluster.mjs';
import { openUnder, sealUnder } from '../src/cli/backup.ts';
import { run } from '../src/cli/main.ts';
import { readConfig } from '../src/config/config.ts';
import { connect } from '../src/db/database.ts';
import { startServer } from '../src/server.ts';
import { Client } from './client.ts';
import { freshDatabase, newLiveSite, openHouse, OWNER, serverParts, type House } from './harness.ts';

const exec = promisify(execFile);
interface Cluster {
  urlTo(database: string): string;
  stop(): Promise<void>;
}
let house: House;
let site: string;
let folder: string;
let cluster: Cluster;
const PASSPHRASE = 'words that nobody guesses';

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fastigium-backups-'));
  await chmod(folder, 0o755);
  house = await openHouse();
  site = await newLiveSite(house, 'Kept');
  await house.owner.post(`/api/sites/${site}/hooks`, {
    kind: 'webhook',
    url: 'https://told.example/',
    events: ['release-live'],
  });
  cluster = await (startCluster as (options: object) => Promise<Cluster>)({
    folder: join(folder, 'cluster'),
    fast: true,
  });
});
afterAll(async () => {
  await house.stop();
  await cluster.stop();
  await rm(folder, { recursive: true, force: true });
});

const said: string[] = [];
const write = { out: (text: string) => said.push(text), problem: (text: string) => said.push(`! ${text}`) };
async function command(databaseUrl: string, passphrase: string, ...args: string[]): Promise<number> {
  const file = join(folder, 'fastigium.env');
  await writeFile(
    file,
    `FASTIGIUM_DATABASE_URL=${databaseUrl}\nFASTIGIUM_SECRET=${'s'.repeat(40)}\nFASTIGIUM_SEAL_KEY=${'5e'.repeat(32)}\n`,
  );
  process.env.FASTIGIUM_BACKUP_PASSPHRASE = passphrase;
  try {
    return await run([...args, '--config', file], write);
  } finally {
    delete process.env.FASTIGIUM_BACKUP_PASSPHRASE;
  }
}

describe('a backup', () => {
  const kept = () => join(folder, 'kept');

  it('is made while people work, and is one moment of it, in pg_dump’s own form, for its owner alone', async () => {
    let working = true;
    let steps = 0;
    const works = (async () => {
      while (working) {
        const { id } = await house.owner.page(site, '/visit/');
        expect((await house.owner.decide(site, { kind: 'title', page: id, title: `Step ${steps}` })).status).toBe(201);
        steps += 1;
      }
    })();
    expect(await command(house.databaseUrl, PASSPHRASE, 'backup', kept())).toBe(0);
    working = false;
    await works;
    expect(steps).toBeGreaterThan(0);
    expect(said.at(-1)).toContain('the keys under the passphrase');
    expect((await stat(kept())).mode & 0o777).toBe(0o600);
    const { stdout } = await exec('tar', ['-tf', kept()]);
    expect(stdout.trim().split('\n')).toEqual(['about.json', 'keys.sealed', 'database.dump']);
    await exec('tar', ['-xf', kept(), '-C', folder, 'database.dump', 'keys.sealed']);
    // PostgreSQL's own program reads it.
    expect((await exec('pg_restore', ['--list', join(folder, 'database.dump')])).stdout).toContain(
      'TABLE DATA public release',
    );
    const whole = await readFile(kept());
    for (const secret of ['5e'.repeat(32), 's'.repeat(40), PASSPHRASE]) expect(whole.includes(secret)).toBe(false);
  });

  it('is restored into another cluster: people sign in, releases are there, secrets open, and publishing goes on', async () => {
    const url = cluster.urlTo('restored');
    await exec('psql', [cluster.urlTo('postgres'), '-c', 'create database restored']);
    const keys = join(folder, 'keys.env');
    expect(await command(url, PASSPHRASE, 'restore', kept(), '--keys', keys)).toBe(0);
    expect(said.at(-1)).toContain('The keys of the configuration open what is sealed in it.');
    expect(await readFile(keys, 'utf8')).toBe(
      `FASTIGIUM_SECRET=${'s'.repeat(40)}\nFASTIGIUM_SEAL_KEY=${'5e'.repeat(32)}\n`,
    );
    expect((await stat(keys)).mode & 0o777).toBe(0o600);
    // The one of before is gone: the host is the same, and stands on what is in the backup.
    await house.restartServer(async () => {
      const server = await startServer(readConfig({ ...house.env, FASTIGIUM_DATABASE_URL: url }), serverParts());
      try {
        const owner = new Client(`http://127.0.0.1:${server.port}`);
        expect((await owner.signIn(OWNER.email, OWNER.password)).status).toBe(200);
        expect((await owner.releases(site)).map(({ number, state }) => `${number} ${state}`)).toEqual(['1 live']);
        const { id, sealed } = await server.deps.db.one<{ id: string; sealed: Buffer }>(
          'select id, secret as sealed from hook',
        );
        expect(server.deps.seal.open(`hook ${id}`, sealed)).not.toBe('');
        await owner.decide(site, {
          kind: 'title',
          page: (await owner.page(site, '/welcome/')).id,
          title: 'After the restore',
        });
        expect(await owner.publish(site)).toMatchObject({ state: 'done', error: null });
        expect((await house.visit('kept.localhost', '/welcome/')).body).toContain('After the restore');
      } finally {
        await server.stop();
      }
    });
  });

  it('is refused where it would write over something, with another passphrase, and where it is newer', async () => {
    expect(await command(cluster.urlTo('restored'), PASSPHRASE, 'restore', kept())).toBe(2);
    expect(said.at(-1)).toContain('There is something in this database already');
    const empty = await freshDatabase();
    try {
      expect(await command(empty.url, 'other words', 'restore', kept())).toBe(2);
      expect(said.at(-1)).toContain('The passphrase is not the one');
      expect(await command(empty.url, '', 'restore', kept())).toBe(2);
      expect(said.at(-1)).toContain('FASTIGIUM_BACKUP_PASSPHRASE');
      expect(await command(empty.url, PASSPHRASE, 'restore', join(folder, 'database.dump'))).toBe(2);
      expect(said.at(-1)).toContain('is no backup of Fastigium');
      expect(await command(empty.url, PASSPHRASE, 'restore', join(folder, 'none'))).toBe(2);
      expect(said.at(-1)).toContain('no such file');
      // Cut short, as a full disk leaves it.
      await writeFile(join(folder, 'short'), (await readFile(kept())).subarray(0, 20_000));
      expect(await command(empty.url, PASSPHRASE, 'restore', join(folder, 'short'))).toBe(2);
      expect(said.at(-1)).toContain('is not whole');
      await house.server.deps.db.run(`insert into migration (name, sha256) values ('999999_later.sql', 'x')`);
      await command(house.databaseUrl, '', 'backup', join(folder, 'newer'));
      await house.server.deps.db.run(`delete from migration where name = '999999_later.sql'`);
      expect(await command(empty.url, '', 'restore', join(folder, 'newer'))).toBe(2);
      expect(said.at(-1)).toContain('of a newer Fastigium');
      const db = connect(
        () => empty.url,
        () => {},
      );
      expect(await db.many(`select 1 from pg_tables where schemaname = 'public'`)).toEqual([]);
      await db.close();
    } finally {
      await empty.drop();
    }
  });

  it('without a passphrase has no keys, and says so; what cannot be made leaves nothing behind', async () => {
    expect(await command(house.databaseUrl, '', 'backup', join(folder, 'keyless'))).toBe(0);
    expect(said.at(-1)).toContain('Everything but the keys');
    expect((await exec('tar', ['-tf', join(folder, 'keyless')])).stdout).not.toContain('keys');
    expect(await command(house.databaseUrl, '', 'backup', '/nowhere/at/all')).toBe(2);
    expect(said.at(-1)).toMatch(/^! Nothing was kept: /);
  });
});

describe('what is sealed under a passphrase', () => {
  it('opens with it, and with no other, nor with a byte changed', () => {
    const sealed = sealUnder('one', 'text');
    expect(openUnder('one', sealed)).toBe('text');
    expect(() => openUnder('two', sealed)).toThrow();
    const changed = Buffer.from(sealed);
    changed[20] = (changed[20] ?? 0) ^ 1;
    expect(() => openUnder('one', changed)).toThrow();
  });
});
