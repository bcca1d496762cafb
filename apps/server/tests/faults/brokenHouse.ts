/** PostgreSQL, the host and the server as processes of a fault run, and what can be done to each. */
import { execFile, fork, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdir, readFile, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import pg from 'pg';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { startCluster } from '../../../../scripts/lib/cluster.mjs';
import { Client } from '../client.ts';
import { OWNER } from '../harness.ts';
import { freePort } from '../peers/processes.ts';
import { Visitors, type Span } from './visitors.ts';

export const FAULTS = [
  'none',
  'server killed',
  'host killed',
  'database killed',
  'database paused',
  'database’s disk full',
  'line cut',
  'slow line',
  'bytes wrong',
  'host full',
  'host’s clock jumps',
  'database’s clock jumps',
  'application’s clock jumps',
  'three at once',
] as const;
export type Fault = (typeof FAULTS)[number];

interface Cluster {
  readonly port: number;
  readonly pid: number;
  readonly ended: Promise<unknown>;
  urlTo(database: string): string;
  stop(): Promise<void>;
}

const run = promisify(execFile);
const TOKEN = 'token-of-the-fault-host';
const ROOMY = '4g';
/** What may be said where a publish did not end well, by what happened; after all others it has to end well by itself. */
const SAID: Partial<Readonly<Record<Fault, RegExp>>> = {
  'host killed': /^host-/,
  'line cut': /^host-/,
  'bytes wrong': /^host-/,
  'host full': /^host-full$/,
  'database’s disk full': /^database-(full|away)$/,
};

/** Debian's libfaketime tells a process another time than the system's, and another one while it runs. */
// The loader puts the machine's own folder in place of $LIB (ld.so(8)).
const FAKETIME = '/usr/$LIB/faketime/libfaketimeMT.so.1';
const CLOCKS = ['database', 'server'] as const;
const clockOf = (folder: string, whose: (typeof CLOCKS)[number]) => join(folder, `clock-of-${whose}`);
const fakeTime = (folder: string, whose: (typeof CLOCKS)[number]) => ({
  LD_PRELOAD: FAKETIME,
  FAKETIME_TIMESTAMP_FILE: clockOf(folder, whose),
  FAKETIME_CACHE_DURATION: '1',
  // How long something takes is no matter of what time it is.
  FAKETIME_DONT_FAKE_MONOTONIC: '1',
  DONT_FAKE_MONOTONIC: '1',
});

const startDatabase = (folder: string, port?: number) =>
  (startCluster as (options: object) => Promise<Cluster>)({
    folder: join(folder, 'cluster'),
    env: fakeTime(folder, 'database'),
    ...(port === undefined ? {} : { port }),
  });

export const LONGEST_WAIT_MS = 60_000;
export const NAME = 'faults';

/** PostgreSQL, the host and the server, each a process that can be killed and comes back where it was. */
export class Processes {
  readonly client: Client;
  readonly #folder: string;
  readonly #serverFile: string;
  readonly #serverPort: number;
  #cluster: Cluster;
  #host: ChildProcess;
  #hostPorts: { readonly controlPort: number; readonly publicPort: number };
  #server: ChildProcess | undefined;
  #aheadMs = 0;
  /** The last lines the server wrote down as errors. */
  #complaints: string[] = [];
  readonly saidWrong: string[] = [];

  static async open(folder: string, serverFile: string): Promise<Processes> {
    // A disk of its own, which can be made to run full.
    await mkdir(join(folder, 'cluster'));
    await run('mount', ['-t', 'tmpfs', '-o', `size=${ROOMY},mode=755`, 'tmpfs', join(folder, 'cluster')]);
    for (const whose of CLOCKS) await writeFile(clockOf(folder, whose), '+0');
    const cluster = await startDatabase(folder);
    const { host, ports } = await startHostProcess(folder, { controlPort: 0, publicPort: 0 });
    const house = new Processes({ folder, serverFile, serverPort: await freePort() }, cluster, host, ports);
    await house.#startServer();
    await house.client.start();
    await house.client.post('/api/owner', OWNER);
    return house;
  }

  constructor(
    {
      folder,
      serverFile,
      serverPort,
    }: { readonly folder: string; readonly serverFile: string; readonly serverPort: number },
    cluster: Cluster,
    host: ChildProcess,
    ports: { readonly controlPort: number; readonly publicPort: number },
  ) {
    this.#folder = folder;
    this.#serverFile = serverFile;
    this.#cluster = cluster;
    this.#host = host;
    this.#hostPorts = ports;
    this.#serverPort = serverPort;
    this.client = new Client(`http://127.0.0.1:${serverPort}`);
  }

  get publicPort(): number {
    return this.#hostPorts.publicPort;
  }

  async visit(path: string): Promise<{ status: number; body: string }> {
    const visitors = new Visitors(this.publicPort, `${NAME}.localhost`, [path], 1);
    await pause(1);
    await visitors.stop();
    const [seen] = visitors.seen;
    return { status: seen?.status ?? 0, body: seen?.body ?? '' };
  }

  /** Publishes, breaks something meanwhile, puts it right, and comes back when the release is live. */
  async publishUnder(fault: Fault, site: string, random: () => number, down: Span<undefined>[]): Promise<void> {
    if (fault === 'three at once') return this.#threeAtOnce(site);
    const settings = {
      'line cut': { dropAfterBytes: Math.floor(random() * 20_000) },
      'slow line': { delayMs: 40 },
      'bytes wrong': { garble: 1 + Math.floor(random() * 5) },
      'host full': { full: true },
    }[fault as string];
    if (settings) await this.#setFaults(settings);
    if (fault === 'host’s clock jumps') this.#jump(random);
    const { version } = await this.client.overview(site);
    const ask = () =>
      this.client.post<{ job: string; error?: { code: string } }>(`/api/sites/${site}/releases`, { version });
    const isFull = fault === 'database’s disk full';
    if (isFull) await this.#fillDatabase();
    let asked = await ask();
    if (isFull) {
      await pause(300 + random() * 1500);
      await this.#makeRoom();
    }
    // Whoever is told to try again in a moment does.
    if (isFull || asked.status === 503) {
      for (let tries = 0; asked.status !== 202 && tries < 40; tries += 1) {
        const code = asked.body.error?.code ?? '';
        if (!(SAID['database’s disk full'] ?? /^$/).test(code))
          this.saidWrong.push(`${fault}: answered ${asked.status}, ${code}`);
        await pause(250);
        asked = await ask();
      }
    }
    if (asked.status !== 202)
      throw new Error(
        `publishing was answered ${asked.status}: ${JSON.stringify(asked.body)}\n${this.#complaints.join('')}`,
      );
    const killed = {
      'server killed': () => this.#killServer(),
      'host killed': () => this.#killHost(down),
      'database killed': () => this.#killDatabase(),
      'database paused': () => this.#pauseDatabase(500 + random() * 4000),
      'database’s clock jumps': () => this.#setClock('database', random),
      'application’s clock jumps': () => this.#setClock('server', random),
    }[fault as string];
    if (killed) {
      await pause(random() * 500);
      await killed();
    }
    let state = await this.#ended(asked.body.job);
    await this.#hear(fault, asked.body.job, state);
    if (settings) await this.#setFaults({});
    // What failed for a reason says so and left the live release as it was; asked for again it goes on where it stopped.
    for (let tries = 0; state !== 'done'; tries += 1) {
      if (tries > 5) throw new Error(`after ${fault} the release is ${state} again and again`);
      const again = await this.client.post<{ job: string }>(`/api/sites/${site}/releases`, {
        version: (await this.client.overview(site)).version,
      });
      if (again.status !== 202)
        throw new Error(`after ${fault}, publishing again was answered ${again.status}: ${JSON.stringify(again.body)}`);
      state = await this.#ended(again.body.job);
      await this.#hear(fault, again.body.job, state);
    }
  }

  /** What somebody reads who looks at what they asked for, once it has ended. */
  async #hear(fault: Fault, job: string, state: string): Promise<void> {
    const { error } = (await this.client.get<{ error: { code: string; message: string } | null }>(`/api/jobs/${job}`))
      .body;
    const fits = SAID[fault] ?? /^$/;
    const wrong = state === 'done' ? error !== null : !fits.test(error?.code ?? 'nothing');
    if (wrong) this.saidWrong.push(`${fault}: ${state}, ${error?.code ?? 'nothing'}: ${error?.message ?? ''}`);
  }

  /** Two publishes and a rollback: one is under way at a time, and whoever comes meanwhile is told. */
  async #threeAtOnce(site: string): Promise<void> {
    const { version } = await this.client.overview(site);
    const releases = await this.client.releases(site);
    const past = releases.find(({ state }) => state === 'past')?.number ?? 1;
    const ask = async (path: string, body = {}) => {
      for (let tries = 0; ; tries += 1) {
        const answer = await this.client.post<{ job: string }>(`/api/sites/${site}/releases${path}`, body);
        if (answer.status !== 503 || tries > 40) return answer;
        await pause(250);
      }
    };
    const publish = () => ask('', { version });
    const answers = await Promise.all([publish(), ask(`/${past}/rollback`), publish()]);
    if (answers.some(({ status }) => status !== 202 && status !== 409))
      throw new Error(`two publishes and a rollback were answered ${answers.map(({ status }) => status).join(', ')}`);
    const taken = answers.filter(({ status }) => status === 202);
    if (taken.length === 0) throw new Error('of two publishes and a rollback none was taken');
    for (const { body } of taken)
      if ((await this.#ended(body.job)) !== 'done') throw new Error('what was taken was not done');
  }

  /** Also over a server or a database that is away just now. */
  async #ended(job: string): Promise<string> {
    const until = performance.now() + LONGEST_WAIT_MS;
    while (performance.now() < until) {
      const answer = await this.client.get<{ state: string }>(`/api/jobs/${job}`).catch(() => undefined);
      if (answer?.status === 200 && !['waiting', 'running'].includes(answer.body.state)) return answer.body.state;
      await pause(40);
    }
    throw new Error(`a job did not end within ${LONGEST_WAIT_MS / 1000} s`);
  }

  async #killServer(): Promise<void> {
    await killed(this.#server);
    await this.#startServer();
  }

  async #killHost(down: Span<undefined>[]): Promise<void> {
    const fromMs = performance.now();
    await killed(this.#host);
    ({ host: this.#host } = await startHostProcess(this.#folder, this.#hostPorts));
    this.#host.send({ aheadMs: this.#aheadMs });
    down.push({ fromMs, toMs: performance.now(), of: undefined });
  }

  /** All of its processes hold still, as on a machine that is moved or starved. */
  async #pauseDatabase(ms: number): Promise<void> {
    const signal = async (name: NodeJS.Signals) => {
      const { pid } = this.#cluster;
      const children = (await readFile(`/proc/${pid}/task/${pid}/children`, 'utf8')).split(' ').filter(Boolean);
      for (const each of [pid, ...children.map(Number)]) {
        try {
          process.kill(each, name);
        } catch {
          // It has ended meanwhile.
        }
      }
    };
    await signal('SIGSTOP');
    await pause(ms);
    await signal('SIGCONT');
  }

  /** Not a page more fits on its disk, neither of what is written ahead nor of the tables. */
  async #fillDatabase(): Promise<void> {
    const path = join(this.#folder, 'cluster');
    const client = new pg.Client({ connectionString: this.#cluster.urlTo('fastigium') });
    client.on('error', () => {});
    await client.connect();
    // What is written between looking and shrinking does not fit any more, and is looked at again.
    for (let tries = 0; ; tries += 1) {
      const { blocks, bfree, bsize } = await statfs(path);
      try {
        await run('mount', ['-o', `remount,size=${(blocks - bfree) * bsize}`, path]);
        break;
      } catch (error) {
        if (tries > 20) throw error;
      }
    }
    try {
      // What was laid in for the write-ahead log is used up, so that the next record needs room.
      for (let n = 0; n < 40; n += 1) await client.query('select pg_current_xact_id(), pg_switch_wal()');
    } catch {
      // The server says so in its own way, or gives up.
    }
    await client.end().catch(() => {});
  }

  /** Whoever runs it makes room, and starts it again where it gave up. */
  async #makeRoom(): Promise<void> {
    await run('mount', ['-o', `remount,size=${ROOMY}`, join(this.#folder, 'cluster')]);
    const hasEnded = await Promise.race([this.#cluster.ended.then(() => true), pause(500).then(() => false)]);
    if (hasEnded) this.#cluster = await startDatabase(this.#folder, this.#cluster.port);
  }

  /** As when a clock that ran wrong is set: up to two hours forward or back. Ends once the process goes by it. */
  async #setClock(whose: (typeof CLOCKS)[number], random: () => number): Promise<void> {
    const seconds = Math.round((random() < 0.5 ? -1 : 1) * (600 + random() * 6600));
    await writeFile(clockOf(this.#folder, whose), `${seconds < 0 ? '-' : '+'}${Math.abs(seconds)}`);
    for (let tries = 0; tries < 100; tries += 1) {
      const told = whose === 'database' ? await this.#databaseTime() : await this.#serverTime();
      if (Math.abs(told - (Date.now() + seconds * 1000)) < 60_000) return;
      await pause(100);
    }
    throw new Error(`the clock of the ${whose} did not jump`);
  }

  async #serverTime(): Promise<number> {
    const { headers } = await fetch(`http://127.0.0.1:${this.#serverPort}/healthz`);
    return Date.parse(headers.get('date') ?? '');
  }

  async #databaseTime(): Promise<number> {
    const client = new pg.Client({ connectionString: this.#cluster.urlTo('fastigium') });
    await client.connect();
    const { rows } = await client.query<{ at: Date }>('select clock_timestamp() as at');
    await client.end();
    return rows[0]?.at.getTime() ?? 0;
  }

  async #killDatabase(): Promise<void> {
    const { port, pid, ended } = this.#cluster;
    process.kill(pid, 'SIGKILL');
    await ended;
    // Its other processes notice within moments that the first of them is gone.
    for (let tries = 0; ; tries += 1) {
      try {
        this.#cluster = await startDatabase(this.#folder, port);
        return;
      } catch (error) {
        if (tries > 50) throw error;
        await pause(100);
      }
    }
  }

  #jump(random: () => number): void {
    this.#aheadMs = Math.round((random() - 0.5) * 2 * 366 * 86_400_000);
    this.#host.send({ aheadMs: this.#aheadMs });
  }

  async #setFaults(settings: object): Promise<void> {
    const answer = await fetch(`http://127.0.0.1:${this.#hostPorts.controlPort}/faults`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${TOKEN}`, 'content-type': 'application/json' },
      body: JSON.stringify(settings),
    });
    if (!answer.ok) throw new Error(`faults were answered ${answer.status}`);
  }

  async #startServer(): Promise<void> {
    const server = fork(this.#serverFile, [], {
      execArgv: [],
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
      env: {
        ...process.env,
        ...fakeTime(this.#folder, 'server'),
        FASTIGIUM_DATABASE_URL: this.#cluster.urlTo('fastigium'),
        FASTIGIUM_PORT: String(this.#serverPort),
        FASTIGIUM_PREVIEW_PORT: '0',
        FASTIGIUM_HOST_TOKEN: TOKEN,
        FASTIGIUM_HOST_CONTROL_URL: `http://127.0.0.1:${this.#hostPorts.controlPort}`,
        FASTIGIUM_HOST_PUBLIC_PORT: String(this.#hostPorts.publicPort),
        FASTIGIUM_SECRET: 's'.repeat(40),
        FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
        FASTIGIUM_LOG_LEVEL: 'error',
        FASTIGIUM_JOB_LEASE_SECONDS: '1',
      },
    });
    this.#server = server;
    server.stdout?.on('data', (piece: Buffer) => {
      this.#complaints = [...this.#complaints, piece.toString()].slice(-20);
    });
    await new Promise<void>((resolve, reject) => {
      server.once('message', () => resolve());
      server.once('exit', (code) => reject(new Error(`the server ended while starting: ${code}`)));
    });
  }

  /** What a person, the database and a visitor would find wrong at the end. */
  async unclean(site: string, paths: readonly string[], wholeOf: (path: string) => string): Promise<string[]> {
    const out: string[] = [];
    for (const path of paths) {
      const { status, body } = await this.visit(path);
      if (status !== 200 || body !== wholeOf(path)) out.push(`${path} answers ${status} and not the live release`);
    }
    const until = performance.now() + LONGEST_WAIT_MS;
    while (performance.now() < until && (await this.client.overview(site)).runningJobs.length > 0) await pause(100);
    const database = new pg.Client({ connectionString: this.#cluster.urlTo('fastigium') });
    await database.connect();
    try {
      const one = async (sql: string) => Number((await database.query<{ n: string }>(sql)).rows[0]?.n);
      if ((await one(`select count(*) as n from release where state = 'live'`)) !== 1)
        out.push('not one release is live');
      if ((await one(`select count(*) as n from release where state = 'sending'`)) !== 0)
        out.push('a release is still on its way');
      if ((await one(`select count(*) as n from job where state in ('waiting', 'running')`)) !== 0)
        out.push('a job is not over');
      const { rows } = await database.query<{ hash: string; bytes: Buffer }>('select hash, bytes from content');
      for (const { hash, bytes } of rows)
        if (createHash('sha256').update(bytes).digest('hex') !== hash) out.push(`content ${hash} has other bytes`);
      const {
        rows: [release],
      } = await database.query<{ id: string }>(`select id from release where state = 'live'`);
      const current = (await (
        await fetch(`http://127.0.0.1:${this.#hostPorts.controlPort}/sites/${NAME}/current`, {
          headers: { authorization: `Bearer ${TOKEN}` },
        })
      ).json()) as { release: string };
      if (current.release !== release?.id) out.push('the host stands on another release than the database');
    } finally {
      await database.end();
    }
    return out;
  }

  async close(): Promise<void> {
    await killed(this.#server);
    await killed(this.#host);
    await this.#cluster.stop();
    await run('umount', ['-l', join(this.#folder, 'cluster')]);
  }
}

async function startHostProcess(
  folder: string,
  { controlPort, publicPort }: { readonly controlPort: number; readonly publicPort: number },
): Promise<{ host: ChildProcess; ports: { controlPort: number; publicPort: number } }> {
  const host = fork(new URL('hostProcess.ts', import.meta.url).pathname, [], {
    execArgv: ['--import', 'tsx'],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      ...process.env,
      HOST_FOLDER: join(folder, 'host'),
      HOST_TOKEN: TOKEN,
      HOST_CONTROL_PORT: String(controlPort),
      HOST_PUBLIC_PORT: String(publicPort),
    },
  });
  const ports = await new Promise<{ controlPort: number; publicPort: number }>((resolve, reject) => {
    host.once('message', (message) => resolve(message as { controlPort: number; publicPort: number }));
    host.once('exit', (code) => reject(new Error(`the host ended while starting: ${code}`)));
  });
  return { host, ports };
}

async function killed(child: ChildProcess | undefined): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await ended;
}
