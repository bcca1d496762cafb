/** The project's own PostgreSQL when things were left behind. */
import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
// @ts-expect-error Plain JavaScript, because the start command uses it before anything is installed.
import { startCluster } from './lib/cluster.mjs';

interface Cluster {
  readonly url: string;
  readonly pid: number;
  stop(): Promise<void>;
}

let folder: string;
const open = startCluster as (options: { folder: string; fast: boolean }) => Promise<Cluster>;
const ask = (cluster: Cluster, sql: string) =>
  execFileSync('psql', ['-qAtX', '-c', sql, cluster.url], { encoding: 'utf8' }).trim();

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'fastigium-cluster-'));
  chmodSync(folder, 0o755);
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

describe('a cluster', () => {
  it('keeps its data, its password in a file nobody else can read, and listens on loopback only', async () => {
    const first = await open({ folder, fast: true });
    ask(first, 'create table kept (n int); insert into kept values (7)');
    expect(ask(first, 'show listen_addresses')).toBe('127.0.0.1');
    expect(Number(execFileSync('stat', ['-c', '%a', join(folder, 'password')], { encoding: 'utf8' }))).toBe(600);
    await first.stop();
    const second = await open({ folder, fast: true });
    expect(ask(second, 'select n from kept')).toBe('7');
    await second.stop();
  });

  it('starts after it was killed, its lock file left behind', async () => {
    const first = await open({ folder, fast: true });
    process.kill(first.pid, 'SIGKILL');
    await first.stop();
    expect(existsSync(join(folder, 'data', 'postmaster.pid'))).toBe(true);
    const second = await open({ folder, fast: true });
    expect(ask(second, 'select 1')).toBe('1');
    await second.stop();
  });

  it('starts when its lock file names a process that is none of its own', async () => {
    await (await open({ folder, fast: true })).stop();
    const other = spawn('sleep', ['60']);
    writeFileSync(join(folder, 'data', 'postmaster.pid'), `${other.pid}\n`);
    const cluster = await open({ folder, fast: true });
    expect(ask(cluster, 'select 1')).toBe('1');
    await cluster.stop();
    other.kill();
  });

  it('is made anew when its making was interrupted', async () => {
    mkdirSync(join(folder, 'data'));
    writeFileSync(join(folder, 'data', 'PG_VERSION'), '15\n');
    const cluster = await open({ folder, fast: true });
    expect(ask(cluster, 'select 1')).toBe('1');
    await cluster.stop();
  });

  it('that is in use says so, and what to do', async () => {
    const first = await open({ folder, fast: true });
    // Another command that is alive started it; this process stands for the second one.
    const starter = spawn('sleep', ['60']);
    writeFileSync(join(folder, 'starter'), String(starter.pid));
    await expect(open({ folder, fast: true })).rejects.toThrow(/running already \(process \d+\).*kill -INT/);
    expect(ask(first, 'select 1')).toBe('1');
    expect(readFileSync(join(folder, 'data', 'postmaster.pid'), 'utf8').split('\n')[0]).toBe(String(first.pid));
    starter.kill();
    await first.stop();
  });
});
