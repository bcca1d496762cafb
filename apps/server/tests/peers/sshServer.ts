/** Debian's OpenSSH server for tests: keys made by ssh-keygen, an account that is whoever runs the tests. */
import { execFile } from 'node:child_process';
import { copyFile, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { freePort, listens, startPeer, type Peer } from './processes.ts';

const run = promisify(execFile);

export interface SshKeys {
  readonly folder: string;
  readonly user: string;
  /** Ours, private, in OpenSSH's form. */
  readonly clientKey: string;
  /** Of `host.pub`, as ssh-keygen itself shows it. */
  readonly fingerprint: string;
}

/** Makes `host`, `other-host` and `client` in a folder, and lets `client` in. */
export async function makeKeys(folder: string): Promise<SshKeys> {
  await mkdir('/run/sshd', { recursive: true }).catch(() => {});
  for (const name of ['host', 'other-host', 'client'])
    await run('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', join(folder, name)]);
  await copyFile(join(folder, 'client.pub'), join(folder, 'authorized_keys'));
  return {
    folder,
    user: (await run('id', ['-un'])).stdout.trim(),
    clientKey: await readFile(join(folder, 'client'), 'utf8'),
    fingerprint: /SHA256:\S+/.exec((await run('ssh-keygen', ['-lf', join(folder, 'host.pub')])).stdout)?.[0] ?? '',
  };
}

export interface SshServer extends Peer {
  readonly port: number;
}

/** What makes of an account one for files alone. */
export const SFTP_ALONE = ['ForceCommand internal-sftp'];

/** @param more lines of sshd_config */
export async function startSshServer(
  { folder }: SshKeys,
  { hostKey = 'host', port: wanted, more = [] }: { hostKey?: string; port?: number; more?: readonly string[] } = {},
): Promise<SshServer> {
  const port = wanted ?? (await freePort());
  const config = join(folder, `sshd_config-${port}`);
  await writeFile(
    config,
    [
      `Port ${port}`,
      'ListenAddress 127.0.0.1',
      `HostKey ${join(folder, hostKey)}`,
      `AuthorizedKeysFile ${folder}/authorized_keys`,
      'PasswordAuthentication no',
      'UsePAM no',
      'StrictModes no',
      'PidFile none',
      'Subsystem sftp internal-sftp',
      ...more,
      '',
    ].join('\n'),
  );
  return { port, ...(await startPeer('/usr/sbin/sshd', ['-D', '-e', '-f', config], () => listens(port))) };
}
