/**
 * A backup is one file: an archive (POSIX ustar) of what pg_dump makes of the database, of a few facts about it, and of
 * the keys, those only under a passphrase. pg_dump reads one moment of the database, so people may go on working.
 */
import { execFile } from 'node:child_process';
import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, open, rename, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { extract, pack } from 'tar-stream';
import { z } from 'zod';
import type { Config } from '../config/config.ts';
import { connect, type Database } from '../db/database.ts';
import { findPrimary } from '../db/places.ts';
import { keyId } from '../secrets.ts';

const run = promisify(execFile);

const about = z.object({
  made: z.literal('by Fastigium'),
  version: z.string(),
  at: z.string(),
  /** Migrations the database has, in their order. */
  migrations: z.array(z.string()).min(1),
  keyIds: z.array(z.string()),
  hasKeys: z.boolean(),
});
export type About = z.infer<typeof about>;

const keyFile = z.object({ secrets: z.array(z.string()), sealKeys: z.array(z.string()) });
export type Keys = z.infer<typeof keyFile>;

/** N = 2^17, r = 8, p = 1: what OWASP's password storage sheet asks of scrypt (RFC 7914); from memory. */
const SCRYPT = { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 1024 * 1024 };
const SALT_BYTES = 16;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;

export function sealUnder(passphrase: string, text: string): Buffer {
  const salt = randomBytes(SALT_BYTES);
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv('aes-256-gcm', scryptSync(passphrase, salt, 32, SCRYPT), nonce);
  return Buffer.concat([salt, nonce, cipher.update(text, 'utf8'), cipher.final(), cipher.getAuthTag()]);
}

/** Throws where the passphrase is another, or a byte is. */
export function openUnder(passphrase: string, sealed: Buffer): string {
  const salt = sealed.subarray(0, SALT_BYTES);
  const nonce = sealed.subarray(SALT_BYTES, SALT_BYTES + NONCE_BYTES);
  const decipher = createDecipheriv('aes-256-gcm', scryptSync(passphrase, salt, 32, SCRYPT), nonce, {
    authTagLength: TAG_BYTES,
  });
  decipher.setAuthTag(sealed.subarray(-TAG_BYTES));
  const text = sealed.subarray(SALT_BYTES + NONCE_BYTES, -TAG_BYTES);
  return Buffer.concat([decipher.update(text), decipher.final()]).toString('utf8');
}

/** What PostgreSQL's programs are told by the environment, so that no password stands in a list of processes. */
function createProgramEnvironment(databaseUrl: string): NodeJS.ProcessEnv {
  const url = new URL(databaseUrl);
  return {
    PGHOST: url.hostname,
    PGPORT: url.port === '' ? '5432' : url.port,
    PGUSER: decodeURIComponent(url.username),
    PGPASSWORD: decodeURIComponent(url.password),
    PGDATABASE: decodeURIComponent(url.pathname.slice(1)),
    PGSSLMODE: url.searchParams.get('sslmode') ?? 'prefer',
  };
}

async function runProgram(name: string, args: readonly string[], databaseUrl: string): Promise<void> {
  try {
    await run(name, args, { env: createProgramEnvironment(databaseUrl), maxBuffer: 16 * 1024 * 1024 });
  } catch (error) {
    const { code, stderr, message } = error as { code?: unknown; stderr?: string; message: string };
    const words =
      code === 'ENOENT'
        ? `${name} is not here. Install PostgreSQL’s client programs (postgresql-client).`
        : `${name} failed: ${(stderr ?? message).trim().split('\n').slice(-4).join(' ')}`;
    throw new Error(words, { cause: error });
  }
}

const readMigrations = async (db: Database): Promise<string[]> =>
  (await db.many<{ name: string }>('select name from migration order by name')).map(({ name }) => name);

/** @param passphrase without one the keys are left out. @returns what was kept; the file is there whole or not at all */
export async function writeBackup(
  config: Config,
  file: string,
  passphrase: string | undefined,
  version: string,
): Promise<About> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-backup-'));
  const url = await findPrimary(config.databaseUrls);
  const db = connect(
    () => url,
    () => {},
  );
  try {
    const facts: About = {
      made: 'by Fastigium',
      version,
      at: new Date().toISOString(),
      migrations: await readMigrations(db),
      keyIds: config.sealKeys.map(keyId),
      hasKeys: passphrase !== undefined,
    };
    const dump = join(folder, 'database.dump');
    await runProgram('pg_dump', ['--format=custom', '--no-owner', '--no-privileges', `--file=${dump}`], url);
    await writeArchive(file, [
      ['about.json', Buffer.from(`${JSON.stringify(facts, null, 2)}\n`)],
      ...(passphrase === undefined
        ? []
        : [['keys.sealed', sealUnder(passphrase, JSON.stringify(readKeys(config)))] as const]),
      ['database.dump', dump],
    ]);
    return facts;
  } finally {
    await db.close();
    await rm(folder, { recursive: true, force: true });
  }
}

const readKeys = ({ secrets, sealKeys }: Config): Keys => ({
  secrets: [...secrets],
  sealKeys: sealKeys.map((key) => key.toString('hex')),
});

type Entry = readonly [name: string, content: Buffer | string];

/** @param entries contents, or paths of files that hold them */
async function writeArchive(file: string, entries: readonly Entry[]): Promise<void> {
  const partial = `${file}.partial`;
  const archive = pack();
  const written = pipeline(archive, createWriteStream(partial, { mode: 0o600 }));
  // It may fail while the archive is still being filled; then the filling fails too, and that is told.
  written.catch(() => undefined);
  try {
    for (const [name, content] of entries) {
      if (typeof content !== 'string') archive.entry({ name, mode: 0o600 }, content);
      else {
        const entry = archive.entry({ name, mode: 0o600, size: (await stat(content)).size });
        await pipeline(createReadStream(content), entry);
      }
    }
    archive.finalize();
    await written;
    const handle = await open(partial, 'r');
    await handle.sync();
    await handle.close();
    await rename(partial, file);
  } catch (error) {
    archive.destroy();
    await written.catch(() => undefined);
    await rm(partial, { force: true });
    throw error;
  }
}

interface Unpacked {
  readonly facts: About;
  readonly dump: string;
  readonly keys: Buffer | undefined;
}

async function unpack(file: string, folder: string): Promise<Unpacked> {
  const dump = join(folder, 'database.dump');
  let facts: About | undefined;
  let keys: Buffer | undefined;
  let hasDump = false;
  // Outside, so that a file that is not there is told as such.
  const source = (await open(file, 'r')).createReadStream();
  try {
    const archive = source.pipe(extract());
    for await (const entry of archive) {
      if (entry.header.name === 'database.dump') {
        await pipeline(entry, createWriteStream(dump, { mode: 0o600 }));
        hasDump = true;
        continue;
      }
      const pieces: Buffer[] = [];
      for await (const piece of entry as AsyncIterable<Buffer>) pieces.push(piece);
      if (entry.header.name === 'about.json') facts = about.parse(JSON.parse(Buffer.concat(pieces).toString('utf8')));
      if (entry.header.name === 'keys.sealed') keys = Buffer.concat(pieces);
    }
    if (facts && hasDump) return { facts, dump, keys };
  } catch (error) {
    throw new Error(`${file} is no backup of Fastigium, or is not whole.`, { cause: error });
  } finally {
    source.destroy();
  }
  throw new Error(`${file} is no backup of Fastigium, or is not whole.`);
}

export interface Restored {
  readonly facts: About;
  /** Undefined where the backup has none, or nobody gave the passphrase. */
  readonly keys: Keys | undefined;
}

/**
 * Puts a backup into an empty database, whole or not at all. Its migrations are caught up at the next start.
 *
 * @param known migrations this version has
 */
export async function restore(
  config: Pick<Config, 'databaseUrls'>,
  file: string,
  passphrase: string | undefined,
  known: readonly string[],
): Promise<Restored> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-restore-'));
  const url = await findPrimary(config.databaseUrls);
  const db = connect(
    () => url,
    () => {},
  );
  try {
    const { facts, dump, keys } = await unpack(file, folder);
    const newer = facts.migrations.filter((name) => !known.includes(name));
    if (newer.length > 0)
      throw new Error(
        `This backup is of a newer Fastigium (${facts.version}; it has ${newer.at(-1)}). Restore it with that version or a later one.`,
      );
    if (keys && passphrase === undefined)
      throw new Error('This backup holds the keys under a passphrase. Say it as FASTIGIUM_BACKUP_PASSPHRASE.');
    const opened = keys && passphrase !== undefined ? opensKeys(passphrase, keys) : undefined;
    const { n } = await db.one<{ n: number }>(
      `select count(*)::int as n from pg_class c join pg_namespace s on s.oid = c.relnamespace where s.nspname = 'public' and c.relkind in ('r', 'p', 'v')`,
    );
    if (n > 0)
      throw new Error('There is something in this database already. Restore into an empty one; nothing was changed.');
    await runProgram(
      'pg_restore',
      [
        '--no-owner',
        '--no-privileges',
        '--single-transaction',
        '--exit-on-error',
        `--dbname=${new URL(url).pathname.slice(1)}`,
        dump,
      ],
      url,
    );
    return { facts, keys: opened };
  } finally {
    await db.close();
    await rm(folder, { recursive: true, force: true });
  }
}

function opensKeys(passphrase: string, sealed: Buffer): Keys {
  try {
    return keyFile.parse(JSON.parse(openUnder(passphrase, sealed)));
  } catch (error) {
    throw new Error('The passphrase is not the one this backup was made with. Nothing was restored.', { cause: error });
  }
}
