/** Servers a benchmark measures itself against: OpenSSH and nginx, Debian's, on free loopback ports, ended with the run. */
import { chmodSync, mkdirSync, writeFileSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { freePort, listens, startPeer } from '../apps/server/tests/peers/processes.ts';
import { makeKeys, startSshServer } from '../apps/server/tests/peers/sshServer.ts';

export interface BenchPeer {
  readonly port: number;
  stop(): Promise<void>;
}

export interface BenchSsh extends BenchPeer {
  readonly user: string;
  readonly key: string;
  readonly keyFile: string;
  readonly fingerprint: string;
}

export async function startSsh(folder: string): Promise<BenchSsh> {
  mkdirSync(folder, { recursive: true });
  const keys = await makeKeys(folder);
  const { port, stop } = await startSshServer(keys);
  return {
    port,
    user: keys.user,
    key: keys.clientKey,
    keyFile: join(folder, 'client'),
    fingerprint: keys.fingerprint,
    stop,
  };
}

/** nginx with its usual ways of being fast, serving a folder. */
export async function startNginx(folder: string, root: string): Promise<BenchPeer> {
  mkdirSync(folder, { recursive: true });
  chmodSync(folder, 0o755);
  const port = await freePort();
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off; worker_processes 1; pid ${folder}/pid; error_log /dev/null; ${userInfo().uid === 0 ? 'user root;' : ''} events {} http { access_log ${folder}/access.log combined; sendfile on; tcp_nopush on; include /etc/nginx/mime.types;
    client_body_temp_path ${folder}/b; proxy_temp_path ${folder}/p; fastcgi_temp_path ${folder}/f; uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s; server { listen 127.0.0.1:${port}; root ${root}; } }`,
  );
  const { stop } = await startPeer('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], () =>
    listens(port),
  );
  return { port, stop };
}
