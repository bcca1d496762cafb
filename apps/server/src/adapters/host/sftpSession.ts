/**
 * A session with a server over SFTP (draft-ietf-secsh-filexfer-02 as OpenSSH speaks it, with its extensions for hard
 * links, for renaming over what is there and for the room on a disk). A call that returns has happened: what was
 * written is held against its size before it is called written, since a server may take less than it was given.
 */
import { Client, type CipherAlgorithm, type ConnectConfig, type SFTPWrapper, type Stats } from 'ssh2';

/** Of the draft, section 7. */
const END_OF_FILE = 1;
const NO_SUCH_FILE = 2;
const FAILURE = 4;
/** What OpenSSH says of something that is no link. */
const BAD_MESSAGE = 5;

const CONNECT_WITHIN_MS = 10_000;
/** A server that says nothing for this long, three times over, is gone. */
const STILL_THERE_EVERY_MS = 10_000;
/** Those of RFC 5647 that Node.js has in its own library are asked for first; the server has the last word. */
const FAST_CIPHERS: CipherAlgorithm[] = ['aes128-gcm@openssh.com', 'aes256-gcm@openssh.com'];
/** What every server takes in one piece (section 3 of the draft asks for 34,000 bytes a packet). */
const PIECE_BYTES = 32 * 1024;
/** Pieces on their way at once, so that a distant server is not waited for at each. */
const PIECES_AT_ONCE = 16;

export type FileKind = 'file' | 'folder' | 'other';

export interface ListedFile {
  readonly name: string;
  readonly kind: FileKind;
  readonly sizeBytes: number;
}

/** What a server did not write, or wrote in part. */
export class NotWritten extends Error {
  readonly sizeBytes: number;

  constructor(sizeBytes: number, options: { readonly cause?: unknown; readonly keptBytes?: number }) {
    const { cause, keptBytes } = options;
    super(cause instanceof Error ? cause.message : `${keptBytes ?? 0} of ${sizeBytes} bytes were kept`, { cause });
    this.sizeBytes = sizeBytes;
  }
}

/** Paths are the server's own. Errors are ssh2's, with the number of their status as `code`. */
export interface SftpSession {
  /** For commands, where the account may run any. */
  readonly client: Client;
  /** Undefined where there is nothing; what a link leads to is what counts. */
  stat(path: string): Promise<ListedFile | undefined>;
  /** Undefined where there is no such file. */
  read(path: string): Promise<Buffer | undefined>;
  readPart(path: string, from: number, length: number): Promise<Buffer>;
  /** A file that is not there yet. Throws NotWritten where it is not whole afterwards. */
  write(path: string, bytes: Uint8Array): Promise<void>;
  /** Over what is there, in one step. */
  rename(from: string, to: string): Promise<void>;
  link(from: string, to: string): Promise<void>;
  pointLink(path: string, target: string): Promise<void>;
  readLink(path: string): Promise<string | undefined>;
  /** Nothing where there is no such folder. */
  list(path: string): Promise<readonly ListedFile[]>;
  makeFolder(path: string): Promise<void>;
  /** With everything in it. Removes nothing where there is nothing. */
  remove(path: string): Promise<void>;
  /** Undefined where the server does not say. */
  freeBytes(path: string): Promise<number | undefined>;
  end(): void;
}

/** Signs in. Rejects with ssh2's error. */
export async function openSession(config: ConnectConfig): Promise<SftpSession> {
  const client = new Client();
  // It listens anew for each thing that is under way.
  client.setMaxListeners(0);
  try {
    await new Promise<void>((resolve, reject) => {
      client
        .once('ready', () => resolve())
        .once('error', reject)
        .once('close', () => reject(new Error('the server closed the connection')))
        .connect({
          readyTimeout: CONNECT_WITHIN_MS,
          keepaliveInterval: STILL_THERE_EVERY_MS,
          algorithms: { cipher: { prepend: FAST_CIPHERS, append: [], remove: [] } },
          ...config,
        });
    });
    const sftp = await callSftp<SFTPWrapper>((settle) => client.sftp(settle));
    return createSession(client, sftp);
  } catch (error) {
    client.end();
    throw error;
  } finally {
    // Whatever is under way is told by its own call; nobody else has to hear of it.
    client.on('error', () => {});
  }
}

type Settle<T> = (error: Error | null | undefined, value: T) => void;
const callSftp = <T>(work: (settle: Settle<T>) => void): Promise<T> =>
  new Promise((resolve, reject) => work((error, value) => (error ? reject(error) : resolve(value))));
const callToEnd = (work: (settle: (error?: Error | null) => void) => void): Promise<void> =>
  new Promise((resolve, reject) => work((error) => (error ? reject(error) : resolve())));

const readStatus = (error: unknown): unknown => (error as { code?: unknown }).code;
const handleMissing =
  <T>(value: T) =>
  (error: unknown): T => {
    if (readStatus(error) === NO_SUCH_FILE) return value;
    throw error;
  };
/** Most servers say no more than that when a disk is full. */
export const isPlainFailure = (error: unknown): boolean => readStatus(error) === FAILURE;

const kindOf = (stats: Stats): FileKind => (stats.isDirectory() ? 'folder' : stats.isFile() ? 'file' : 'other');
const describeFile = (name: string, stats: Stats): ListedFile => ({ name, kind: kindOf(stats), sizeBytes: stats.size });

function createSession(client: Client, sftp: SFTPWrapper): SftpSession {
  const session: SftpSession = {
    client,
    stat: (path) =>
      callSftp<Stats>((settle) => sftp.stat(path, settle)).then(
        (stats) => describeFile(path, stats),
        handleMissing(undefined),
      ),
    read: (path) => callSftp<Buffer>((settle) => sftp.readFile(path, settle)).catch(handleMissing(undefined)),
    async readPart(path, from, length) {
      const handle = await callSftp<Buffer>((settle) => sftp.open(path, 'r', settle));
      try {
        return await readFrom(sftp, handle, from, length);
      } finally {
        await callToEnd((settle) => sftp.close(handle, settle));
      }
    },
    async write(path, bytes) {
      const handle = await callSftp<Buffer>((settle) => sftp.open(path, 'wx', settle));
      let keptBytes: number;
      try {
        await writeTo(sftp, handle, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length));
        keptBytes = (await callSftp<Stats>((settle) => sftp.fstat(handle, settle))).size;
      } catch (cause) {
        throw new NotWritten(bytes.length, { cause });
      } finally {
        await callToEnd((settle) => sftp.close(handle, settle)).catch(() => {});
      }
      if (keptBytes !== bytes.length) throw new NotWritten(bytes.length, { keptBytes });
    },
    rename: (from, to) => callToEnd((settle) => sftp.ext_openssh_rename(from, to, settle)),
    link: (from, to) => callToEnd((settle) => sftp.ext_openssh_hardlink(from, to, settle)),
    pointLink: (path, target) => callToEnd((settle) => sftp.symlink(target, path, settle)),
    readLink: (path) =>
      callSftp<string>((settle) => sftp.readlink(path, settle)).catch((error: unknown) => {
        if ([NO_SUCH_FILE, FAILURE, BAD_MESSAGE].includes(Number(readStatus(error)))) return undefined;
        // A line that broke says nothing of what is there.
        throw error;
      }),
    list: (path) =>
      callSftp<{ filename: string; attrs: Stats }[]>((settle) => sftp.readdir(path, settle)).then(
        (entries) => entries.map(({ filename, attrs }) => describeFile(filename, attrs)),
        handleMissing([]),
      ),
    makeFolder: (path) => callToEnd((settle) => sftp.mkdir(path, settle)),
    async remove(path) {
      // What a link leads to is nobody's to remove.
      const found = await callSftp<Stats>((settle) => sftp.lstat(path, settle)).catch(handleMissing(undefined));
      if (!found) return;
      if (!found.isDirectory()) return callToEnd((settle) => sftp.unlink(path, settle));
      for (const { name } of await session.list(path)) await session.remove(`${path}/${name}`);
      await callToEnd((settle) => sftp.rmdir(path, settle));
    },
    async freeBytes(path) {
      try {
        const { f_bavail, f_frsize } = await callSftp<{ f_bavail: number; f_frsize: number }>((settle) =>
          sftp.ext_openssh_statvfs(path, settle as Settle<unknown>),
        );
        return f_bavail * f_frsize;
      } catch {
        return undefined;
      }
    },
    end: () => client.end(),
  };
  return session;
}

async function writeTo(sftp: SFTPWrapper, handle: Buffer, bytes: Buffer): Promise<void> {
  let next = 0;
  const writer = async () => {
    while (next < bytes.length) {
      const at = next;
      next += PIECE_BYTES;
      await callToEnd((settle) => sftp.write(handle, bytes, at, Math.min(PIECE_BYTES, bytes.length - at), at, settle));
    }
  };
  await Promise.all(Array.from({ length: PIECES_AT_ONCE }, writer));
}

/** As much as there is, up to the length. */
async function readFrom(sftp: SFTPWrapper, handle: Buffer, from: number, length: number): Promise<Buffer> {
  const bytes = Buffer.alloc(length);
  let got = 0;
  while (got < length) {
    const read = await new Promise<number>((resolve, reject) =>
      sftp.read(handle, bytes, got, Math.min(PIECE_BYTES, length - got), from + got, (error, count) => {
        // The end of a file is told as an error.
        if (error && readStatus(error) !== END_OF_FILE) reject(error);
        else resolve(error ? 0 : count);
      }),
    );
    if (read === 0) break;
    got += read;
  }
  return bytes.subarray(0, got);
}
