/** Starts the built application as people do, with data of its own, and stops it afterwards. */
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

/** Ports in a row that nobody uses now, as many as the start command takes. */
const PORTS = 9;

async function freePorts(): Promise<number> {
  const isFree = (port: number) =>
    new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
  for (let tries = 0; tries < 50; tries += 1) {
    const port = 20_000 + Math.floor(Math.random() * 20_000);
    if ((await Promise.all(Array.from({ length: PORTS }, (_, n) => isFree(port + n)))).every(Boolean)) return port;
  }
  throw new Error('no free ports in a row');
}

export default async function start(): Promise<() => Promise<void>> {
  const port = await freePorts();
  const data = mkdtempSync(join(tmpdir(), 'fastigium-e2e-'));
  chmodSync(data, 0o755);
  const command = spawn('node', ['scripts/start.mjs', '--port', String(port), '--data', data], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise<void>((resolve) => command.once('exit', () => resolve()));
  let said = '';
  await new Promise<void>((resolve, reject) => {
    command.stdout.on('data', (piece: Buffer) => {
      said += piece.toString();
      if (said.includes('Ctrl C stops everything')) resolve();
    });
    ended.then(() => reject(new Error(`the start command ended:\n${said}`)), reject);
  });
  process.env.FASTIGIUM_E2E_PORT = String(port);
  return async () => {
    command.kill('SIGINT');
    await ended;
    rmSync(data, { recursive: true, force: true });
  };
}
