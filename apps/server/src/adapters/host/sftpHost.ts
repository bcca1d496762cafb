/**
 * Publishing to a server over SFTP (draft-ietf-secsh-filexfer-02 as OpenSSH speaks it, with its
 * extensions for hard links and for renaming over what is there). The server's key is pinned: one that
 * differs ends the connection before anything is said.
 */
import { createHash, randomUUID } from 'node:crypto';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { dirname } from 'node:path/posix';
import SftpClient from 'ssh2-sftp-client';
import type { CipherAlgorithm, Client } from 'ssh2';
import { probe, releaseFolders, type FilePlace } from './releaseFolders.ts';
import { sshPacks, type SshPacks } from './sshPacks.ts';

export interface SftpAccount {
  readonly server: string;
  readonly port: number;
  readonly user: string;
  readonly folder: string;
  readonly password?: string;
  /** A private key, PEM or OpenSSH's own form. */
  readonly key?: string;
  /** `SHA256:…`, as ssh shows it; undefined only while asking for it. */
  readonly pinned: string | undefined;
}

const CONNECT_WITHIN_MS = 10_000;
/** Those of RFC 5647 that Node.js has in its own library are asked for first; the server has the last word. */
const FAST_CIPHERS: CipherAlgorithm[] = ['aes128-gcm@openssh.com', 'aes256-gcm@openssh.com'];
/** SFTP takes a file in pieces of 32 KiB and waits for each: from here on it goes quicker through a shell. */
const LARGE_BYTES = 128 * 1024; // 128 KiB
const isPlainWord = (path: string): boolean => /^[\w./-]+$/.test(path);
/** A connection is kept this long for the next step of the same publish. */
const IDLE_MS = 5000;

export function sftpHost(account: SftpAccount, url: string, log?: string): HostPort & { close(): Promise<void> } {
  let open: Promise<SftpClient> | undefined;
  let users = 0;
  let idle: NodeJS.Timeout | undefined;
  const close = async () => {
    const client = open;
    open = undefined;
    await (await client?.catch(() => undefined))?.end().catch(() => {});
  };
  const withPlace = async <T>(work: (place: FilePlace) => Promise<T>): Promise<T> => {
    clearTimeout(idle);
    users += 1;
    try {
      open ??= connect(account);
      const client = await open;
      return await work(sftpPlace(client, account.folder));
    } catch (error) {
      await close();
      throw wordsOf(error, account);
    } finally {
      users -= 1;
      if (users === 0) idle = setTimeout(() => void close(), IDLE_MS);
    }
  };
  return {
    ...releaseFolders(withPlace, url, log),
    async putFrom(_site, contentHash, from, recipe) {
      // No error of the connection, which others are using: whoever asked sends it whole.
      const bytes = await withPlace(async ({ packs }) =>
        (await packs?.())?.assembled(contentHash, from, recipe).catch(() => undefined),
      );
      if (bytes === undefined) throw new DomainError('host-refused', { detail: 'it does not put contents together' });
      return bytes;
    },
    close: async () => {
      clearTimeout(idle);
      await close();
    },
  };
}

/** The fingerprint the server shows, without signing in. */
export async function shownKey(account: Pick<SftpAccount, 'server' | 'port'>): Promise<string> {
  let shown: string | undefined;
  const client = new SftpClient();
  client.on('error', () => {});
  try {
    await client.connect({
      host: account.server,
      port: account.port,
      username: 'nobody',
      readyTimeout: CONNECT_WITHIN_MS,
      retries: 0,
      hostVerifier: (key: Buffer) => {
        shown = fingerprint(key);
        return false;
      },
    });
  } catch (error) {
    if (shown === undefined)
      throw new DomainError('host-unreachable', { detail: (error as Error).message }, { cause: error });
  } finally {
    await client.end().catch(() => {});
  }
  return shown ?? '';
}

export async function probeSftp(account: SftpAccount): Promise<void> {
  let client: SftpClient | undefined;
  try {
    client = await connect(account);
    if ((await client.exists(account.folder)) !== 'd')
      throw new DomainError('host-folder-unusable', { reason: 'it is not there' });
    await probe(sftpPlace(client, account.folder));
  } catch (error) {
    throw wordsOf(error, account);
  } finally {
    await client?.end().catch(() => {});
  }
}

/** As `ssh-keygen -lf` writes it: SHA-256 of the key, base64 without padding (RFC 4648). */
const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`;

async function connect(account: SftpAccount): Promise<SftpClient> {
  const client = new SftpClient();
  let shown = '';
  client.on('error', () => {});
  const below = (client as unknown as { client: Client }).client;
  // The package listens anew for each thing that is under way.
  below.setMaxListeners(0);
  client.on('ready', () => packing.set(client, sshPacks(below, account.folder)));
  try {
    await client.connect({
      host: account.server,
      port: account.port,
      username: account.user,
      readyTimeout: CONNECT_WITHIN_MS,
      retries: 0,
      ...(account.password === undefined ? {} : { password: account.password }),
      ...(account.key === undefined ? {} : { privateKey: account.key }),
      algorithms: { cipher: { prepend: FAST_CIPHERS, append: [], remove: [] } },
      hostVerifier: (key: Buffer) => {
        shown = fingerprint(key);
        return shown === account.pinned;
      },
    });
  } catch (error) {
    if (shown !== '' && shown !== account.pinned)
      throw new DomainError('host-key-changed', { seen: shown, pinned: account.pinned ?? 'none' }, { cause: error });
    throw error;
  }
  return client;
}

/** The client below ssh2-sftp-client, for what that does not offer. */
interface RawSftp {
  symlink(target: string, path: string, done: (error?: Error | null) => void): void;
  readlink(path: string, done: (error: Error | undefined, target: string) => void): void;
  ext_openssh_rename(from: string, to: string, done: (error?: Error | null) => void): void;
  ext_openssh_hardlink(from: string, to: string, done: (error?: Error | null) => void): void;
}

/** Folders a connection has made or found. */
const folders = new WeakMap<SftpClient, Map<string, Promise<void>>>();
function madeBy(client: SftpClient): Map<string, Promise<void>> {
  const made = folders.get(client) ?? new Map<string, Promise<void>>();
  folders.set(client, made);
  return made;
}

/** Asked once a connection, while it is used for something else already. */
const packing = new WeakMap<SftpClient, Promise<SshPacks | undefined>>();

function sftpPlace(client: SftpClient, folder: string): FilePlace {
  const raw = (client as unknown as { sftp: RawSftp }).sftp;
  const at = (path: string) => `${folder.replace(/\/+$/, '')}/${path}`;
  const done = (work: (settle: (error?: Error | null) => void) => void) =>
    new Promise<void>((resolve, reject) => work((error) => (error ? reject(error) : resolve())));
  const made = madeBy(client);
  /** Once each, parents first: two that make the same folder at once get an error that looks like a refusal. */
  const makeFolder = (path: string): Promise<void> => {
    if (path === '' || path === '.') return Promise.resolve();
    let making = made.get(at(path));
    if (!making) {
      making = makeFolder(dirname(path)).then(async () => {
        if ((await client.exists(at(path))) !== 'd') await client.mkdir(at(path), false);
      });
      made.set(at(path), making);
      making.catch(() => made.delete(at(path)));
    }
    return making;
  };
  return {
    packs: () => packing.get(client) ?? Promise.resolve(undefined),
    makeFolder,
    exists: async (path) => (await client.exists(at(path))) !== false,
    async read(path) {
      return (await client.exists(at(path))) === false ? undefined : ((await client.get(at(path))) as Buffer);
    },
    async write(path, bytes) {
      await makeFolder(dirname(path));
      const packs = bytes.length > LARGE_BYTES && isPlainWord(path) ? await packing.get(client) : undefined;
      // Where the shell has ended or could not, SFTP may still, or says what is wrong.
      if (
        packs &&
        (await packs.file(path, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length)).then(
          () => true,
          () => false,
        ))
      )
        return;
      const temporary = `${at(path)}.${randomUUID()}`;
      try {
        await client.put(Buffer.from(bytes), temporary);
        await done((settle) => raw.ext_openssh_rename(temporary, at(path), settle));
      } catch (error) {
        await client.delete(temporary, true).catch(() => {});
        throw error;
      }
    },
    async link(from, to) {
      await done((settle) => raw.ext_openssh_hardlink(at(from), at(to), settle)).catch(async (error: unknown) => {
        // There already, from a try that was cut off.
        if ((await client.exists(at(to))) === false) throw error;
      });
    },
    async remove(path) {
      const kind = await client.exists(at(path));
      if (kind === 'd') {
        for (const folder of made.keys())
          if (folder === at(path) || folder.startsWith(`${at(path)}/`)) made.delete(folder);
        await client.rmdir(at(path), true);
      } else if (kind !== false) await client.delete(at(path));
    },
    async pointLink(path, target) {
      const temporary = `${at(path)}.${randomUUID()}`;
      await done((settle) => raw.symlink(target, temporary, settle));
      await done((settle) => raw.ext_openssh_rename(temporary, at(path), settle));
    },
    sizeOf: async (path) => ((await client.exists(path)) === '-' ? (await client.stat(path)).size : undefined),
    async readPart(path, from, length) {
      // The end of the range is in it. The package's types leave out what it hands on to the stream below.
      const range = { start: from, end: from + length - 1 } as object;
      return (await client.get(path, undefined, { readStreamOptions: range })) as Buffer;
    },
    readLink: (path) =>
      new Promise((resolve) => raw.readlink(at(path), (error, target) => resolve(error ? undefined : target))),
    async list(path) {
      return (await client.exists(at(path))) === 'd' ? (await client.list(at(path))).map(({ name }) => name) : [];
    },
  };
}

function wordsOf(error: unknown, { user }: SftpAccount): unknown {
  if (error instanceof DomainError) return error;
  const message = (error as Error).message;
  if (/authentication methods failed|Cannot parse privateKey/i.test(message))
    return new DomainError('host-login-refused', { user }, { cause: error });
  if (/permission denied/i.test(message))
    return new DomainError('host-folder-unusable', { reason: `${user} may not write in it` }, { cause: error });
  if (/no space|quota|_put: Failure|write.*Failure/i.test(message))
    return new DomainError(
      'host-folder-unusable',
      { reason: 'the server could not write; its disk may be full' },
      { cause: error },
    );
  return new DomainError('host-unreachable', { detail: message }, { cause: error });
}
