/** Real servers for tests: started on free loopback ports in folders of their own, ended by their own id. */
import { spawn, type ChildProcess } from 'node:child_process';
import { connect, createServer } from 'node:net';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';

export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer()
      .on('error', reject)
      .listen(0, '127.0.0.1', () => {
        const { port } = probe.address() as { port: number };
        probe.close(() => resolve(port));
      });
  });
}

export interface Peer {
  readonly said: () => string;
  stop(): Promise<void>;
}

/** Starts a program and waits until `ready` holds; what it said is told when it ends before that. */
export async function startPeer(
  command: string,
  args: readonly string[],
  ready: () => Promise<boolean>,
  env: Record<string, string> = {},
): Promise<Peer> {
  let said = '';
  const child: ChildProcess = spawn(command, args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  });
  const hear = (piece: Buffer) => {
    said = (said + piece.toString()).slice(-20_000);
  };
  child.stdout?.on('data', hear);
  child.stderr?.on('data', hear);
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  for (let tries = 0; tries < 200; tries += 1) {
    if (child.exitCode !== null) throw new Error(`${command} ended by itself:\n${said}`);
    if (await ready().catch(() => false)) {
      return {
        said: () => said,
        async stop() {
          child.kill('SIGTERM');
          const patience = setTimeout(() => child.kill('SIGKILL'), 5000);
          await ended;
          clearTimeout(patience);
        },
      };
    }
    await pause(50);
  }
  child.kill('SIGKILL');
  throw new Error(`${command} was never ready:\n${said}`);
}

export async function temporaryFolder(name: string): Promise<{ path: string; remove(): Promise<void> }> {
  const path = await mkdtemp(join(tmpdir(), `fastigium-${name}-`));
  return { path, remove: () => rm(path, { recursive: true, force: true }) };
}

export function listens(port: number, address = '127.0.0.1'): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect(port, address)
      .once('connect', () => {
        socket.destroy();
        resolve(true);
      })
      .once('error', () => resolve(false));
  });
}
