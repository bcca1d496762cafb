/** A whole Fastigium for a test: its own database, its own host stand-in, its own ports. */
import type { Snags } from '@fastigium/contracts/api/snags';
import { execFile } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { request, type IncomingHttpHeaders } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import pg from 'pg';
import { pino } from 'pino';
import { expect, inject, vi } from 'vitest';
import { ZipFile } from 'yazl';
import { OWN_AGENT } from '@fastigium/core/watch';
import { faultSettings, type FaultSettings } from '../../standins/src/host/faults.ts';
import type { RunningHost } from '../../standins/src/host/host.ts';
import type { OldSiteSeed } from '../../standins/src/oldSite/seed.ts';
import { worldSeed, type WorldSeed } from '../../standins/src/registrar/registry.ts';
import { NO_PORTS, startWorld, type World } from '../../standins/src/world/world.ts';
import { readConfig } from '../src/config/config.ts';
import { createOwner, needsOwner } from '../src/features/people/people.ts';
import { checkDraft } from '../src/features/snags/checkDraft.ts';
import { startServer, type RunningServer } from '../src/server.ts';
import { Client } from './client.ts';

export const MIGRATIONS = new URL('../migrations', import.meta.url).pathname;
/** What a server that starts in this process is given. */
export const serverParts = () => ({
  log: pino({ level: process.env.FASTIGIUM_LOG_LEVEL ?? 'silent' }),
  migrations: MIGRATIONS,
  worker: inject('workerFile'),
});
const TOKEN = 'token-of-the-test-host';

export async function freshDatabase(): Promise<{ url: string; drop(): Promise<void> }> {
  const admin = inject('databaseUrl');
  const name = `t_${Math.random().toString(36).slice(2, 12)}`;
  const run = async (sql: string) => {
    const client = new pg.Client({ connectionString: admin });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  await run(`create database ${name}`);
  return {
    url: admin.replace(/\/postgres$/, `/${name}`),
    drop: () => run(`drop database if exists ${name} with (force)`),
  };
}

export interface House {
  readonly server: RunningServer;
  readonly world: World;
  readonly host: RunningHost;
  readonly hostFolder: string;
  readonly databaseUrl: string;
  readonly env: Readonly<Record<string, string>>;
  /** A client that is signed in as the owner. */
  readonly owner: Client;
  client(): Client;
  faults(settings: Partial<FaultSettings>): Promise<void>;
  /** What the host answers over plain http to whoever asks for this name; counted as a look of ours, not as a visit. */
  visit(name: string, path: string, headers?: Readonly<Record<string, string>>): Promise<Answered>;
  /** Where the host answers visitors over plain http, for clients that set the name themselves. */
  liveUrl(path: string): string;
  restartHost(meanwhile?: () => Promise<void>): Promise<void>;
  /** Stops it and starts another one on the same database; clients made before do not know its port. */
  restartServer(meanwhile?: () => Promise<unknown>): Promise<void>;
  stop(): Promise<void>;
}

const run = promisify(execFile);
export const OWNER = { name: 'Ada Stone', email: 'ada@house.example', password: 'a long enough one' };

export async function openHouse(
  options: {
    env?: Record<string, string>;
    seed?: WorldSeed;
    oldSite?: OldSiteSeed;
    /** What pg_dump made of the database of an earlier version, with its owner. */
    dump?: string;
    /** By which way the server reaches its database. */
    wayTo?: (databaseUrl: string) => string;
  } = {},
): Promise<House> {
  const database = await freshDatabase();
  if (options.dump !== undefined)
    await run('pg_restore', ['--no-owner', '--exit-on-error', `--dbname=${database.url}`, options.dump]);
  const hostFolder = await mkdtemp(join(tmpdir(), 'fastigium-host-'));
  const openStandIns = (ports: World['ports']) =>
    startWorld({
      folder: hostFolder,
      token: TOKEN,
      ports,
      seed: options.seed ?? worldSeed.parse({}),
      ...(options.oldSite ? { oldSite: options.oldSite } : {}),
    });
  let world = await openStandIns(NO_PORTS);
  const env = {
    ...world.environment,
    FASTIGIUM_DATABASE_URL: options.wayTo?.(database.url) ?? database.url,
    FASTIGIUM_PORT: '0',
    FASTIGIUM_PREVIEW_PORT: '0',
    FASTIGIUM_SECRET: 's'.repeat(40),
    FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
    FASTIGIUM_LOG_LEVEL: process.env.FASTIGIUM_LOG_LEVEL ?? 'silent',
    FASTIGIUM_JOB_LEASE_SECONDS: '2',
    FASTIGIUM_RETRY_PAUSES: '0.1, 0.2',
    FASTIGIUM_HOST_FOLDERS: hostFolder,
    ...options.env,
  };
  const openServer = () => startServer(readConfig(env), serverParts());
  let server = await openServer();
  const client = () => new Client(`http://127.0.0.1:${server.port}`);
  const owner = client();
  // Not by the first page of the application: it judges the password, and reading its lists takes seconds each time.
  // A dump and the demo bring owners of their own.
  if (await needsOwner(server.deps.db)) await createOwner(server.deps.db, OWNER);
  await owner.signIn(OWNER.email, OWNER.password);
  return {
    get server() {
      return server;
    },
    hostFolder,
    databaseUrl: database.url,
    env,
    owner,
    client,
    get world() {
      return world;
    },
    get host() {
      return world.host;
    },
    async faults(settings) {
      const answer = await fetch(`http://127.0.0.1:${world.ports.control}/faults`, {
        method: 'PUT',
        headers: { authorization: `Bearer ${TOKEN}`, 'content-type': 'application/json' },
        body: JSON.stringify(faultSettings.parse(settings)),
      });
      if (!answer.ok) throw new Error(`the stand-in refused the fault: ${answer.status}`);
    },
    liveUrl: (path) => `http://127.0.0.1:${world.ports.live}${path}`,
    visit: (name, path, headers = {}) =>
      askPort(world.ports.live, path, { host: name, 'user-agent': OWN_AGENT, ...headers }),
    async restartServer(meanwhile) {
      await server.stop();
      await meanwhile?.();
      server = await openServer();
    },
    async restartHost(meanwhile) {
      const { ports } = world;
      await world.stop();
      await meanwhile?.();
      world = await openStandIns(ports);
    },
    async stop() {
      await server.stop();
      await world.stop();
      await database.drop();
      await rm(hostFolder, { recursive: true, force: true });
    },
  };
}

/** Somebody else of the team, signed in. */
export async function anotherEditor({ owner, client }: House): Promise<Client> {
  const { body } = await owner.post<{ token: string }>('/api/invitations', { role: 'editor' });
  const other = client();
  await other.start();
  await other.post(`/api/join/${body.token}`, {
    name: 'Bran Moor',
    email: `bran-${body.token.slice(0, 8).toLowerCase()}@house.example`,
    password: 'long enough for me',
  });
  return other;
}

/** A small site of that name, live with its first release. */
export async function newLiveSite(house: House, name: string): Promise<string> {
  const site = await house.owner.newSite(name);
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  await letBe(house, site);
  await house.owner.publish(site);
  return site;
}

export interface Answered {
  readonly status: number;
  readonly location: string | undefined;
  readonly headers: IncomingHttpHeaders;
  readonly body: string;
  readonly bytes: Buffer;
}

/** Asks a server of this machine over plain http, with whatever host name. */
export function askPort(port: number, path: string, headers: Readonly<Record<string, string>>): Promise<Answered> {
  return new Promise((resolve, reject) => {
    // A kept connection may be closed just when it is used again.
    request({ host: '127.0.0.1', port, path, agent: false, headers }, (answer) => {
      const pieces: Buffer[] = [];
      answer.on('data', (piece: Buffer) => pieces.push(piece));
      answer.on('end', () => {
        const bytes = Buffer.concat(pieces);
        resolve({
          status: answer.statusCode ?? 0,
          location: answer.headers.location,
          headers: answer.headers,
          body: bytes.toString(),
          bytes,
        });
      });
    })
      .on('error', reject)
      .end();
  });
}

/** Until the server has done by itself what follows from a change. */
export async function settled({ server }: House, site: string): Promise<void> {
  const waiting = `select 1 from job where site_id = $1 and state in ('waiting', 'running')`;
  await vi.waitFor(async () => expect(await server.deps.db.maybeOne(waiting, [site])).toBeUndefined(), {
    timeout: 30_000,
  });
}

/** Throws where somebody holds a row for longer than a statement takes (PostgreSQL, "Client Connection Defaults", lock_timeout). */
export async function expectFree({ server }: House, table: 'site' | 'watched_log', site: string): Promise<void> {
  await server.deps.db.transaction(async (tx) => {
    await tx.run(`set local lock_timeout = '500ms'`);
    await tx.one(`select 1 from ${table} where ${table === 'site' ? 'id' : 'site_id'} = $1 for update`, [site]);
  });
}

/** Checks a site and lets all be that must be fixed, so that a release can go out. */
export async function letBe({ server, owner }: House, site: string): Promise<void> {
  await checkDraft(server.deps, site);
  const { body } = await owner.get<Snags>(`/api/sites/${site}/snags`);
  for (const { key, severity, dismissed } of body.snags) {
    if (severity === 'must' && !dismissed)
      await owner.put(`/api/sites/${site}/snags/${key}/dismissal`, { reason: 'Known here' });
  }
}

export function zip(files: Readonly<Record<string, string | Uint8Array>>): Promise<Buffer> {
  const archive = new ZipFile();
  for (const [path, content] of Object.entries(files)) archive.addBuffer(Buffer.from(content), path);
  archive.end();
  return new Promise((resolve, reject) => {
    const pieces: Buffer[] = [];
    archive.outputStream.on('data', (piece: Buffer) => pieces.push(piece));
    archive.outputStream.on('error', reject);
    archive.outputStream.on('end', () => resolve(Buffer.concat(pieces)));
  });
}

/** A site of a few pages, as small as it can be and still have everything. */
export const SMALL_SITE: Readonly<Record<string, string>> = {
  'index.html':
    '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Soon</title></head><body><a href="/welcome/">Come in</a></body></html>',
  'welcome/index.html':
    '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Welcome</title><link rel="stylesheet" href="../style.css"></head><body><h1>Welcome</h1><a href="../visit/">Visit</a> <a href="/nowhere/">dead</a></body></html>',
  'visit/index.html':
    '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Visit</title><link rel="stylesheet" href="/style.css"></head><body><a href="/welcome/">Welcome</a></body></html>',
  'style.css': 'body { background: url(paper.png) }',
  'paper.png': 'not really a picture',
  '404.html': '<title>Nothing here</title>',
};
