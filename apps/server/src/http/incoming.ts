/**
 * What somebody sends that may be large: all of it is put down in a file first, and only then is anything done with it.
 * So a slow line holds a file open and neither a connection of the database nor a worker thread; one that stands still
 * or goes on for ever is ended, and one person has only so many under way.
 */
import { randomUUID } from 'node:crypto';
import { open, unlink, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { DomainError } from '@fastigium/contracts/errors';
import type { Request } from 'express';

export interface Incoming {
  readonly sizeBytes: number;
  /** From its beginning, each time. */
  read(): Readable;
  /** Forgets what came. */
  drop(): Promise<void>;
}

/** What came, as long as its request is answered; whoever works on it for longer keeps it, and drops it then. */
export interface Upload extends Pick<Incoming, 'sizeBytes' | 'read'> {
  keep(): Incoming;
}

export interface IncomingLimits {
  /** Without a byte coming. */
  readonly idleMs: number;
  readonly wholeMs: number;
}

const PIECE_BYTES = 256 * 1024; // 256 KiB
/** More than one, since people bring several files in at once. */
const AT_ONCE_A_PERSON = 3;

export interface IncomingFiles {
  /** How many uploads are under way. */
  count(): number;
  /** Throws a DomainError where it is too large, too slow, broken off, or one too many of this person's. */
  take(req: Request, person: string, mostBytes: number): Promise<Incoming>;
}

export function createIncomingFiles(limits: IncomingLimits): IncomingFiles {
  const underWay = new Map<string, number>();
  return {
    count: () => [...underWay.values()].reduce((all, each) => all + each, 0),
    async take(req, person, mostBytes) {
      const count = underWay.get(person) ?? 0;
      if (count >= AT_ONCE_A_PERSON) throw new DomainError('uploads-many', { count });
      refuseLarger(Number(req.get('content-length') ?? 0), mostBytes);
      underWay.set(person, count + 1);
      const path = join(tmpdir(), `fastigium-incoming-${randomUUID()}`);
      const file = await open(path, 'wx+', 0o600);
      try {
        // Without a name it is gone with this process, however that ends.
        await unlink(path);
        const sizeBytes = await receive(req, file, limits, mostBytes);
        return {
          sizeBytes,
          read: () => Readable.from(readPieces(file), { objectMode: false }),
          drop: () => file.close(),
        };
      } catch (error) {
        await file.close();
        throw error;
      } finally {
        const left = (underWay.get(person) ?? 1) - 1;
        if (left === 0) underWay.delete(person);
        else underWay.set(person, left);
      }
    },
  };
}

function refuseLarger(sizeBytes: number, mostBytes: number): void {
  if (sizeBytes > mostBytes)
    throw new DomainError('upload-too-large', { limit: `${Math.round(mostBytes / 1024 / 1024)} MiB` });
}

// A handle that streams of its own were made of is closed only after them; reading by hand leaves it alone.
async function* readPieces(file: FileHandle): AsyncGenerator<Buffer> {
  for (let at = 0; ;) {
    const { bytesRead, buffer } = await file.read(Buffer.alloc(PIECE_BYTES), 0, PIECE_BYTES, at);
    if (bytesRead === 0) return;
    at += bytesRead;
    yield buffer.subarray(0, bytesRead);
  }
}

async function receive(req: Request, file: FileHandle, limits: IncomingLimits, mostBytes: number): Promise<number> {
  const slow = new AbortController();
  const late = () => slow.abort(new DomainError('upload-slow'));
  const whole = setTimeout(late, limits.wholeMs);
  const idle = setTimeout(late, limits.idleMs);
  let sizeBytes = 0;
  const keep = async (piece: Buffer): Promise<void> => {
    idle.refresh();
    refuseLarger(sizeBytes + piece.length, mostBytes);
    await file.writeFile(piece);
    sizeBytes += piece.length;
  };
  const sink = new Writable({
    write: (piece: Buffer, _encoding, done) => void keep(piece).then(() => done(), done),
  });
  try {
    await pipeline(req, sink, { signal: slow.signal });
    return sizeBytes;
  } catch (error) {
    if (slow.signal.aborted) throw slow.signal.reason;
    if (error instanceof DomainError) throw error;
    if (/^(ENOSPC|EDQUOT)$/.test(String((error as NodeJS.ErrnoException).code)))
      throw new DomainError('upload-no-room', {}, { cause: error });
    throw req.destroyed && !req.complete ? new DomainError('upload-broken', {}, { cause: error }) : error;
  } finally {
    clearTimeout(whole);
    clearTimeout(idle);
  }
}
