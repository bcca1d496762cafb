/**
 * One PostgreSQL cluster for a test run, made for it and gone with it; and the server as it runs, built, for tests
 * that end its process and for worker threads.
 */
import { mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { TestProject } from 'vitest/node';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { startCluster } from '../../../scripts/lib/cluster.mjs';
// @ts-expect-error The same.
import { buildServer } from '../../../scripts/lib/build.mjs';

interface Cluster {
  urlTo(database: string): string;
  stop(): Promise<void>;
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'fastigium-test-'));
  chmodSync(folder, 0o755);
  const cluster = await (startCluster as (options: object) => Promise<Cluster>)({
    folder: join(folder, 'cluster'),
    fast: true,
  });
  // Beside its sources, where it finds its migrations; started from those it takes four times as long.
  const root = new URL('../../..', import.meta.url).pathname.replace(/\/$/, '');
  const serverFile = await (buildServer as (root: string, outdir: string) => Promise<string>)(
    root,
    'apps/server/dist-tests',
  );
  project.provide('serverFile', serverFile);
  project.provide('workerFile', join(dirname(serverFile), 'worker.js'));
  project.provide('databaseUrl', cluster.urlTo('postgres'));
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
    serverFile: string;
    workerFile: string;
  }
}
