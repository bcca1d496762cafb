/** What a benchmark runs on: a durable PostgreSQL, the stand-in as its own process, a server in this one. */
import { fork, type ChildProcess } from 'node:child_process';
import { EventEmitter, once } from 'node:events';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { pino } from 'pino';
import { readConfig } from '../apps/server/src/config/config.ts';
import type { Deps } from '../apps/server/src/deps.ts';
import { importFolder } from '../apps/server/src/features/imports/upload.ts';
import { createOwner } from '../apps/server/src/features/people/people.ts';
import { createSite } from '../apps/server/src/features/sites/sites.ts';
import { startServer } from '../apps/server/src/server.ts';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { startCluster } from '../scripts/lib/cluster.mjs';

const TOKEN = 'token-of-the-bench-host';

export interface BenchHouse {
  /** Where the application answers. */
  readonly url: string;
  readonly previewPort: number;
  /** All processes of its PostgreSQL. */
  databasePids(): number[];
  readonly deps: Deps;
  readonly owner: { readonly id: string; readonly name: string; readonly team: string };
  readonly folder: string;
  /** Imports a folder as a new site and gives its id. */
  bringIn(name: string, folder: string): Promise<string>;
  /** Waits for a job to end and throws if it failed. */
  ended(job: string): Promise<void>;
  /** Waits until no job is waiting or under way. */
  quiet(): Promise<void>;
  /** Deletes all sites and contents, when nothing works on them any more. */
  forgetSites(): Promise<void>;
  stop(): Promise<void>;
}

export const OWNER = { name: 'Bench', email: 'bench@bench.example', password: 'a long enough one' };

export async function openBenchHouse(env: Record<string, string> = {}): Promise<BenchHouse> {
  const folder = mkdtempSync(join(tmpdir(), 'fastigium-bench-'));
  chmodSync(folder, 0o755);
  const cluster = await (
    startCluster as (options: object) => Promise<{ url: string; pid: number; stop(): Promise<void> }>
  )({
    folder: join(folder, 'cluster'),
  });
  const { child: standIns, environment } = await startStandIns(join(folder, 'host'));
  const server = await startServer(
    readConfig({
      ...environment,
      FASTIGIUM_DATABASE_URL: cluster.url,
      FASTIGIUM_PORT: '0',
      FASTIGIUM_PREVIEW_PORT: '0',
      FASTIGIUM_SECRET: 's'.repeat(40),
      FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
      FASTIGIUM_LOG_LEVEL: 'error',
      ...env,
    }),
    {
      log: pino({ level: 'error' }),
      migrations: new URL('../apps/server/migrations', import.meta.url).pathname,
      worker: new URL('../apps/server/dist/worker.js', import.meta.url).pathname,
    },
  );
  const { deps } = server;
  const owner = await createOwner(deps.db, OWNER);

  const ended = async (job: string) => {
    const news = new EventEmitter();
    const unsubscribe = deps.feed.subscribe((heard) => {
      if (heard.kind === 'job' && heard.job === job) news.emit('job');
    });
    try {
      for (;;) {
        // Asked for before the job is looked at, so that nothing falls in between.
        const told = once(news, 'job');
        const { state, error } = await deps.db.one<{ state: string; error: { code: string } | null }>(
          'select state, error from job where id = $1',
          [job],
        );
        if (state === 'done') return;
        if (state === 'failed' || state === 'cancelled') throw new Error(error?.code ?? state);
        await told;
      }
    } finally {
      unsubscribe();
    }
  };
  const quiet = async () => {
    while (await deps.db.maybeOne(`select 1 from job where state in ('waiting', 'running') limit 1`)) await pause(20);
  };
  return {
    url: `http://localhost:${server.port}`,
    previewPort: server.previewPort,
    databasePids: () => [cluster.pid, ...childrenOf(cluster.pid)],
    deps,
    owner,
    folder,
    ended,
    async bringIn(name, from) {
      const { id } = await createSite(deps, owner.team, name);
      await ended(await importFolder(deps, { site: id, by: owner.id, folder: from, fileName: name }));
      return id;
    },
    quiet,
    async forgetSites() {
      await quiet();
      await deps.db.run('truncate site, content cascade');
    },
    async stop() {
      await server.stop();
      standIns.kill('SIGTERM');
      await cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** proc_pid_stat(5): the fourth field. */
function childrenOf(parent: number): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        const stat = readFileSync(`/proc/${pid}/stat`, 'latin1');
        return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]) === parent;
      } catch {
        return false;
      }
    });
}

function startStandIns(folder: string): Promise<{ child: ChildProcess; environment: Record<string, string> }> {
  const child = fork(new URL('../apps/standins/dist/main.js', import.meta.url).pathname, [], {
    execArgv: [],
    env: {
      ...process.env,
      FASTIGIUM_STANDINS_FOLDER: folder,
      FASTIGIUM_HOST_TOKEN: TOKEN,
      FASTIGIUM_STANDINS_PORT: '0',
    },
  });
  return new Promise((resolve, reject) => {
    child.once('message', (message) =>
      resolve({ child, environment: (message as { environment: Record<string, string> }).environment }),
    );
    child.once('exit', () => reject(new Error('the stand-ins did not start')));
  });
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? Number.NaN;
}

/** Milliseconds that something takes. */
export async function timed(work: () => Promise<unknown> | void): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}
