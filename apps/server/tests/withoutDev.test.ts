/**
 * The built server on what `npm ci --omit=dev` leaves: everything that package-lock.json does not mark as `dev`
 * (npm docs, package-lock.json, “packages”). What is missing there, a container lacks.
 */
import { host } from '@fastigium/contracts/messages/address';
import { fork, type ChildProcess } from 'node:child_process';
import { cp, mkdir, mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { tmpdir } from 'node:os';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { Client } from './client.ts';
import { freshDatabase, OWNER, SMALL_SITE, zip } from './harness.ts';
import { freePort } from './peers/processes.ts';

const root = new URL('../../..', import.meta.url).pathname;
let folder: string;
let server: ChildProcess;
let client: Client;
let database: Awaited<ReturnType<typeof freshDatabase>>;

/** As links; Node.js is told to take each for where it stands, and so finds what it imports beside it or not at all. */
async function installWithoutDev(): Promise<void> {
  const { packages } = JSON.parse(await readFile(join(root, 'package-lock.json'), 'utf8')) as {
    packages: Record<string, { dev?: boolean; devOptional?: boolean; link?: boolean }>;
  };
  for (const [path, { dev, devOptional, link }] of Object.entries(packages)) {
    // What is inside another package comes with it.
    if (!/^(?:apps\/server\/)?node_modules\/(?:@[^/]+\/)?[^/]+$/.test(path) || dev || devOptional || link) continue;
    await mkdir(dirname(join(folder, path)), { recursive: true });
    await symlink(join(root, path), join(folder, path));
  }
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fastigium-without-dev-'));
  await installWithoutDev();
  for (const part of ['scripts', 'apps/server/migrations', 'package.json', 'apps/server/package.json'])
    await cp(join(root, part), join(folder, part), { recursive: true });
  await cp(dirname(inject('serverFile')), join(folder, 'apps/server/dist'), { recursive: true });
  await mkdir(join(folder, 'apps/web/dist'), { recursive: true });
  await writeFile(join(folder, 'apps/web/dist/index.html'), '<!doctype html><title>The page of this test</title>');
  database = await freshDatabase();
  const port = await freePort();
  server = fork(join(folder, 'scripts/serve.mjs'), [], {
    execArgv: ['--preserve-symlinks', '--preserve-symlinks-main'],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      PATH: process.env.PATH,
      FASTIGIUM_DATABASE_URL: database.url,
      FASTIGIUM_PORT: String(port),
      FASTIGIUM_PREVIEW_PORT: '0',
      FASTIGIUM_SECRET: 's'.repeat(40),
      FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
      FASTIGIUM_LOG_LEVEL: 'silent',
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('message', () => resolve());
    server.once('exit', (code) => reject(new Error(`the server ended while starting: ${code}`)));
  });
  client = new Client(`http://localhost:${port}`);
});
afterAll(async () => {
  const ended = new Promise((resolve) => server.once('exit', resolve));
  // One that ended by itself says so no more.
  if (server.kill()) await ended;
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

it('the server starts, judges a password and takes a site in, in its worker threads', async () => {
  expect((await client.get('/')).body).toMatchObject({ text: expect.stringContaining('The page of this test') });
  await client.start();
  const trivial = await client.post('/api/owner', { ...OWNER, password: 'password123' });
  expect(trivial.body).toMatchObject({ error: { code: 'password-known' } });
  expect((await client.post('/api/owner', OWNER)).status).toBe(201);
  const site = await client.newSite('Without what is for development');
  expect((await client.bringIn(site, await zip(SMALL_SITE))).state).toBe('done');
  expect((await client.pages(site)).length).toBeGreaterThan(0);
});

it('what has neither a host of its own nor a registrar says so, and does not offer them', async () => {
  const site = await client.newSite('Without a host');
  await client.bringIn(site, await zip(SMALL_SITE));
  expect(await client.overview(site)).toMatchObject({ hasHost: false, answersAt: null });
  expect((await client.get(`/api/sites/${site}/address`)).body).toMatchObject({
    canRegister: false,
    temporary: null,
    hostWords: host('none'),
  });
  const set = await client.put(`/api/sites/${site}/set-time`, {
    at: '2100-01-01T09:00:00.000Z',
    zone: 'Europe/Vienna',
    version: 0,
    note: '',
  });
  expect(set.body).toMatchObject({ error: { code: 'host-needed' } });
  const published = await client.post(`/api/sites/${site}/releases`, { version: 0 });
  expect(published.body).toMatchObject({ error: { code: 'host-needed' } });
});
