/** The host stand-in as a whole: its ports and a folder. */
import { createServer } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { join } from 'node:path';
import { createControl } from './control.ts';
import { closeServer, listen } from '../world/listen.ts';
import { Faults } from './faults.ts';
import { HostLogs } from './logs.ts';
import { HostNames } from './names.ts';
import { HostStore } from './store.ts';
import { createVisitors } from './visitors.ts';

export interface HostOptions {
  readonly folder: string;
  readonly token: string;
  readonly controlPort: number;
  readonly publicPort: number;
  /** Where visitors come with https. Without one, certificates are kept and not used. */
  readonly tlsPort?: number;
  readonly nowMs?: () => number;
}

export interface RunningHost {
  readonly controlPort: number;
  readonly publicPort: number;
  readonly tlsPort: number | undefined;
  stop(): Promise<void>;
}

export async function startHost({
  folder,
  token,
  controlPort,
  publicPort,
  tlsPort,
  nowMs = Date.now,
}: HostOptions): Promise<RunningHost> {
  const logs = new HostLogs(join(folder, 'logs'));
  const store = new HostStore(folder, nowMs);
  const names = new HostNames(folder, nowMs);
  const visitors = createVisitors(store, names, logs.add, nowMs);
  const control = createServer(createControl(store, names, logs, token, new Faults()));
  const plain = createServer(visitors);
  const tls = tlsPort === undefined ? undefined : createTlsServer({ SNICallback: names.contextFor }, visitors);
  return {
    controlPort: await listen(control, controlPort),
    publicPort: await listen(plain, publicPort),
    tlsPort: tls && (await listen(tls, tlsPort ?? 0)),
    async stop() {
      await Promise.all([control, plain, tls].flatMap((server) => (server ? [closeServer(server)] : [])));
    },
  };
}
