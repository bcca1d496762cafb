/**
 * The server killed at any moment of an import or a publish: real processes, ended with SIGKILL. The
 * live site keeps answering with one whole release, and after the restart the work is done.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { startHost, type RunningHost } from '../../standins/src/host/host.ts';
import { Client } from './client.ts';
import { freshDatabase, OWNER, zip } from './harness.ts';
import { freePort } from './peers/processes.ts';

const TOKEN = 'token-of-the-test-host';
let host: RunningHost;
let folder: string;
let database: { url: string; drop(): Promise<void> };
let port: number;
let server: ChildProcess;
let client: Client;

async function start(): Promise<void> {
  server = fork(inject('serverFile'), [], {
    execArgv: [],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      ...process.env,
      FASTIGIUM_DATABASE_URL: database.url,
      FASTIGIUM_PORT: String(port),
      FASTIGIUM_PREVIEW_PORT: '0',
      FASTIGIUM_HOST_TOKEN: TOKEN,
      FASTIGIUM_HOST_CONTROL_URL: `http://127.0.0.1:${host.controlPort}`,
      FASTIGIUM_HOST_PUBLIC_PORT: String(host.publicPort),
      FASTIGIUM_SECRET: 's'.repeat(40),
      FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
      FASTIGIUM_LOG_LEVEL: 'silent',
      FASTIGIUM_JOB_LEASE_SECONDS: '1',
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('message', () => resolve());
    server.once('exit', (code) => reject(new Error(`the server ended while starting: ${code}`)));
  });
}

async function kill(): Promise<void> {
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGKILL');
  await ended;
}

function visit(path: string, name: string): Promise<{ status: number; body: string }> {
  return new Promise((resolve, reject) => {
    request(
      { host: '127.0.0.1', port: host.publicPort, path, agent: false, headers: { host: `${name}.localhost` } },
      (answer) => {
        let body = '';
        answer.on('data', (piece: Buffer) => (body += piece.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body }));
      },
    )
      .on('error', reject)
      .end();
  });
}

beforeAll(async () => {
  database = await freshDatabase();
  folder = await mkdtemp(join(tmpdir(), 'fastigium-host-'));
  host = await startHost({ folder, token: TOKEN, controlPort: 0, publicPort: 0 });
  port = await freePort();
  await start();
  client = new Client(`http://127.0.0.1:${port}`);
  await client.start();
  await client.post('/api/owner', OWNER);
});
afterAll(async () => {
  await kill();
  await host.stop();
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

/** A site whose every page says which version it is, so that a mixture would show. */
const siteOf = (version: string) =>
  zip(
    Object.fromEntries([
      ['index.html', `<title>Front</title><p>${version}</p>`],
      ...Array.from({ length: 90 }, (_, n) => [
        `page-${n}/index.html`,
        `<title>Page ${n}</title><p>${version}</p>${'<p>words and words</p>'.repeat(200)}<a href="/page-${n + 1}/">next</a>`,
      ]),
    ]) as Record<string, string>,
  );

// Each brings in and publishes hundreds of pages more than once, and starts a server between.
describe('a server killed in the middle', { timeout: 180_000 }, () => {
  it.each([120])('of an import, %i ms in, finishes it after the restart', async (afterMs) => {
    const site = await client.newSite(`Import ${afterMs}`);
    const { body } = await client.post<{ job: string }>(`/api/sites/${site}/imports`, await siteOf('one'));
    await pause(afterMs);
    await kill();
    await start();
    expect((await client.ended(body.job)).state).toBe('done');
    expect(await client.overview(site)).toMatchObject({ pages: 91, files: 91 });
  });

  it.each([40, 300])('of a publish, %i ms in, leaves one whole release and then finishes', async (afterMs) => {
    const name = `publish-${afterMs}`;
    const site = await client.newSite(name);
    await client.bringIn(site, await siteOf('one'));
    expect((await client.publish(site)).state).toBe('done');
    await client.bringIn(site, await siteOf('two'));
    const { version } = await client.overview(site);
    const { body } = await client.post<{ job: string }>(`/api/sites/${site}/releases`, { version });
    await pause(afterMs);
    await kill();
    const seen = new Set<string>();
    for (const path of ['/', '/page-0/', '/page-45/', '/page-89/']) {
      const { status, body: page } = await visit(path, name);
      expect(status).toBe(200);
      seen.add(/<p>(one|two)<\/p>/.exec(page)?.[1] ?? 'neither');
    }
    expect(seen.size).toBe(1);
    await start();
    expect((await client.ended(body.job)).state).toBe('done');
    expect((await visit('/page-89/', name)).body).toContain('<p>two</p>');
    expect((await client.releases(site)).map(({ number, state }) => `${number} ${state}`)).toEqual([
      '2 live',
      '1 past',
    ]);
  });

  it('no visitor meets half a release while one is switched', async () => {
    const name = 'switching';
    const site = await client.newSite(name);
    await client.bringIn(site, await siteOf('one'));
    await client.publish(site);
    await client.bringIn(site, await siteOf('two'));
    let done = false;
    const publishing = client.publish(site).finally(() => (done = true));
    let last = 'one';
    let visits = 0;
    while (!done) {
      const { status, body } = await visit(`/page-${visits % 90}/`, name);
      const version = /<p>(one|two)<\/p>/.exec(body)?.[1];
      expect(status).toBe(200);
      // Once the new release has been seen, the old one is never seen again.
      if (last === 'two') expect(version).toBe('two');
      last = version ?? 'neither';
      visits += 1;
    }
    await publishing;
    expect(visits).toBeGreaterThan(20);
    expect((await visit('/page-7/', name)).body).toContain('<p>two</p>');
  });
});
