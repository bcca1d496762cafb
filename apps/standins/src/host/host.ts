/** The host stand-in as a whole: two ports and a folder. */
import { appendFileSync, mkdirSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { createControl } from './control.ts';
import { Faults } from './faults.ts';
import { HostStore } from './store.ts';
import { createVisitors } from './visitors.ts';

export interface HostOptions {
  readonly folder: string;
  readonly token: string;
  readonly controlPort: number;
  readonly publicPort: number;
}

export interface RunningHost {
  readonly controlPort: number;
  readonly publicPort: number;
  stop(): Promise<void>;
}

export async function startHost({ folder, token, controlPort, publicPort }: HostOptions): Promise<RunningHost> {
  const logs = join(folder, 'logs');
  mkdirSync(logs, { recursive: true });
  const store = new HostStore(folder, Date.now);
  const servers = [
    createServer(createControl(store, token, new Faults())),
    createServer(createVisitors(store, (site, line) => appendFileSync(join(logs, `${site}.access.log`), line))),
  ] as const;
  return {
    controlPort: await open(servers[0], controlPort),
    publicPort: await open(servers[1], publicPort),
    async stop() {
      await Promise.all(servers.map((server) => new Promise((resolve) => {
        server.close(resolve);
        server.closeAllConnections();
      })));
    },
  };
}

function open(server: Server, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'EADDRINUSE' ? new Error(`Port ${port} is in use. Stop what uses it, or choose another one.`) : error));
    server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
}
