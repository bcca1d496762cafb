/**
 * Publishing to a server over SFTP (draft-ietf-secsh-filexfer-02 as OpenSSH speaks it, with its
 * extensions for hard links and for renaming over what is there). The server's key is pinned: one that
 * differs ends the connection before anything is said.
 */
import { reason } from '@fastigium/contracts/messages/reason';
import { createHash, randomUUID } from 'node:crypto';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { dirname } from 'node:path/posix';
import type { Gate } from '../web/gate.ts';
import { describeFullHost, probe, createReleaseFolders, type FilePlace } from './releaseFolders.ts';
import { isPlainFailure, NotWritten, openSession, type SftpSession } from './sftpSession.ts';
import { openSshPacks, type SshPacks } from './sshPacks.ts';

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

/** SFTP takes a file in pieces of 32 KiB and waits for each: from here on it goes quicker through a shell. */
const LARGE_BYTES = 128 * 1024; // 128 KiB
const isPlainWord = (path: string): boolean => /^[\w./-]+$/.test(path);
/** A connection is kept this long for the next step of the same publish. */
const IDLE_MS = 5000;

export function createSftpHost(
  account: SftpAccount,
  gate: Gate,
  url: string,
  log?: string,
): HostPort & { close(): Promise<void> } {
  let open: Promise<Connection> | undefined;
  let users = 0;
  let idle: NodeJS.Timeout | undefined;
  const close = async () => {
    const connection = open;
    open = undefined;
    (await connection?.catch(() => undefined))?.session.end();
  };
  const withPlace = async <T>(work: (place: FilePlace) => Promise<T>): Promise<T> => {
    clearTimeout(idle);
    users += 1;
    let session: SftpSession | undefined;
    try {
      open ??= connect(account, gate);
      const connection = await open;
      ({ session } = connection);
      return await work(createSftpPlace(connection, account.folder));
    } catch (error) {
      const explained = await describeSftpError(error, account, session);
      await close();
      throw explained;
    } finally {
      users -= 1;
      if (users === 0) {
        idle = setTimeout(() => {
          close().catch(() => undefined);
        }, IDLE_MS);
      }
    }
  };
  return {
    ...createReleaseFolders(withPlace, url, log),
    async putFrom(_site, contentHash, from, recipe) {
      // No error of the connection, which others are using: whoever asked sends it whole.
      const bytes = await withPlace(async ({ packs }) =>
        (await packs?.())?.assembled(contentHash, from, recipe).catch(() => undefined),
      );
      if (bytes === undefined) throw new DomainError('host-refused', { detail: reason('puts-nothing-together') });
      return bytes;
    },
    close: async () => {
      clearTimeout(idle);
      await close();
    },
  };
}

/** The fingerprint the server shows, without signing in. */
export async function askServerKey(
  { server, port }: Pick<SftpAccount, 'server' | 'port'>,
  gate: Gate,
): Promise<string> {
  let shown: string | undefined;
  try {
    const { address, port: realPort } = await gate.endpointOf(server, port);
    const session = await openSession({
      host: address,
      port: realPort,
      username: 'nobody',
      hostVerifier: (key: Buffer) => {
        shown = computeFingerprint(key);
        return false;
      },
    });
    session.end();
  } catch (error) {
    if (error instanceof DomainError) throw error;
    if (shown === undefined)
      throw new DomainError('host-unreachable', { detail: (error as Error).message }, { cause: error });
  }
  return shown ?? '';
}

export async function probeSftp(account: SftpAccount, gate: Gate): Promise<void> {
  let connection: Connection | undefined;
  try {
    connection = await connect(account, gate);
    if ((await connection.session.stat(account.folder))?.kind !== 'folder')
      throw new DomainError('host-folder-unusable', { reason: reason('not-there') });
    await probe(createSftpPlace(connection, account.folder));
  } catch (error) {
    throw await describeSftpError(error, account, connection?.session);
  } finally {
    connection?.session.end();
  }
}

/** As `ssh-keygen -lf` writes it: SHA-256 of the key, base64 without padding (RFC 4648). */
const computeFingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`;

interface Connection {
  readonly session: SftpSession;
  /** Asked once, while the connection is used for something else already. */
  readonly packs: Promise<SshPacks | undefined>;
  /** Folders it has made or found. */
  readonly folders: Map<string, Promise<void>>;
}

async function connect(account: SftpAccount, gate: Gate): Promise<Connection> {
  let shown = '';
  try {
    const { address, port } = await gate.endpointOf(account.server, account.port);
    const session = await openSession({
      host: address,
      port,
      username: account.user,
      ...(account.password === undefined ? {} : { password: account.password }),
      ...(account.key === undefined ? {} : { privateKey: account.key }),
      hostVerifier: (key: Buffer) => {
        shown = computeFingerprint(key);
        return shown === account.pinned;
      },
    });
    return { session, packs: openSshPacks(session.client, account.folder), folders: new Map() };
  } catch (error) {
    if (shown !== '' && shown !== account.pinned)
      throw new DomainError('host-key-changed', { seen: shown, pinned: account.pinned ?? 'none' }, { cause: error });
    throw error;
  }
}

function createSftpPlace({ session, packs, folders }: Connection, folder: string): FilePlace {
  const at = (path: string) => `${folder.replace(/\/+$/, '')}/${path}`;
  /** One after another, parents first: servers answer two that make the same folder with an error that looks like a refusal. */
  const makeFolder = (path: string): Promise<void> => {
    if (path === '' || path === '.') return Promise.resolve();
    let making = folders.get(at(path));
    if (!making) {
      making = makeFolder(dirname(path)).then(async () => {
        if ((await session.stat(at(path)))?.kind !== 'folder') await session.makeFolder(at(path));
      });
      folders.set(at(path), making);
      making.catch(() => folders.delete(at(path)));
    }
    return making;
  };
  /** Under a name of its own until it is whole. */
  const replace = async (path: string, make: (temporary: string) => Promise<void>) => {
    const temporary = `${at(path)}.${randomUUID()}`;
    try {
      await make(temporary);
      await session.rename(temporary, at(path));
    } catch (error) {
      await session.remove(temporary).catch(() => {});
      throw error;
    }
  };
  return {
    packs: () => packs,
    makeFolder,
    exists: async (path) => (await session.stat(at(path))) !== undefined,
    read: (path) => session.read(at(path)),
    async write(path, bytes) {
      await makeFolder(dirname(path));
      const shell = bytes.length > LARGE_BYTES && isPlainWord(path) ? await packs : undefined;
      // Where the shell has ended or could not, SFTP may still, or says what is wrong.
      const isWritten = await shell?.file(path, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length)).then(
        () => true,
        () => false,
      );
      if (!isWritten) await replace(path, (temporary) => session.write(temporary, bytes));
    },
    async link(from, to) {
      try {
        await session.link(at(from), at(to));
      } catch (error) {
        // There already, from a try that was cut off: it may have been cut off before the content was whole.
        const [there, wanted] = await Promise.all([session.stat(at(to)), session.stat(at(from))]);
        if (!there || !wanted) throw error;
        if (there.sizeBytes !== wanted.sizeBytes) await replace(to, (temporary) => session.link(at(from), temporary));
      }
    },
    async remove(path) {
      for (const made of folders.keys()) if (made === at(path) || made.startsWith(`${at(path)}/`)) folders.delete(made);
      await session.remove(at(path));
    },
    pointLink: (path, target) => replace(path, (temporary) => session.pointLink(temporary, target)),
    async sizeOf(path) {
      const found = await session.stat(path);
      return found?.kind === 'file' ? found.sizeBytes : undefined;
    },
    readPart: (path, from, length) => session.readPart(path, from, length),
    readLink: (path) => session.readLink(at(path)),
    list: (path) => session.list(at(path)),
  };
}

/** Below this a server that only says it could not is taken to be full: a folder or a link needs a block as well. */
const NO_ROOM_BYTES = 64 * 1024; // 64 KiB

async function describeSftpError(
  error: unknown,
  account: SftpAccount,
  session: SftpSession | undefined,
): Promise<unknown> {
  if (error instanceof DomainError) return error;
  const { user, folder } = account;
  const { message } = error as Error;
  if (/authentication methods failed|Cannot parse privateKey/i.test(message))
    return new DomainError('host-login-refused', { user }, { cause: error });
  if (/permission denied/i.test(message))
    return new DomainError('host-folder-unusable', { reason: reason('may-not-write', { user }) }, { cause: error });
  if (/no space left|quota/i.test(message)) return describeFullHost(await session?.freeBytes(folder), error);
  const cause = error instanceof NotWritten ? (error.cause ?? error) : error;
  if (cause instanceof NotWritten || isPlainFailure(cause)) {
    const free = await session?.freeBytes(folder);
    if (free !== undefined && free < Math.max(NO_ROOM_BYTES, error instanceof NotWritten ? error.sizeBytes : 0))
      return describeFullHost(free, error);
    return new DomainError('host-folder-unusable', { reason: reason('could-not-write') }, { cause: error });
  }
  return new DomainError('host-unreachable', { detail: message }, { cause: error });
}
