/** Servers a benchmark measures itself against: OpenSSH and nginx, Debian's, on free loopback ports, ended with the run. */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, connect } from 'node:net';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';

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
  mkdirSync('/run/sshd', { recursive: true });
  const port = await freePort();
  for (const name of ['host', 'client'])
    execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', join(folder, name)]);
  copyFileSync(join(folder, 'client.pub'), join(folder, 'authorized_keys'));
  writeFileSync(
    join(folder, 'sshd_config'),
    [
      `Port ${port}`,
      'ListenAddress 127.0.0.1',
      `HostKey ${folder}/host`,
      `AuthorizedKeysFile ${folder}/authorized_keys`,
      'PasswordAuthentication no',
      'UsePAM no',
      'StrictModes no',
      'PidFile none',
      'Subsystem sftp internal-sftp',
      '',
    ].join('\n'),
  );
  const child = spawn('/usr/sbin/sshd', ['-D', '-e', '-f', join(folder, 'sshd_config')], { stdio: 'ignore' });
  await listens(port);
  const fingerprint =
    /SHA256:\S+/.exec(execFileSync('ssh-keygen', ['-lf', join(folder, 'host.pub')], { encoding: 'utf8' }))?.[0] ?? '';
  return {
    port,
    user: userInfo().username,
    key: readFileSync(join(folder, 'client'), 'utf8'),
    keyFile: join(folder, 'client'),
    fingerprint,
    stop: () => ended(child),
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
  const child = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  await listens(port);
  return { port, stop: () => ended(child) };
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

async function listens(port: number): Promise<void> {
  for (let tries = 0; tries < 100; tries += 1) {
    const isOpen = await new Promise<boolean>((resolve) => {
      const socket = connect({ port, host: '127.0.0.1' }, () => {
        socket.destroy();
        resolve(true);
      });
      socket.on('error', () => resolve(false));
    });
    if (isOpen) return;
    await pause(50);
  }
  throw new Error(`nothing listens at port ${port}`);
}

async function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const exit = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await exit;
}
