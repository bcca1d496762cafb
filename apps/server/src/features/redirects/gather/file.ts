/**
 * A file of old addresses, read by a worker thread piece by piece, so that its size is nobody's memory. What is small is
 * taken while its sender waits; what is not is a job, which tells how far it is and can be stopped.
 */
import type { Gathered } from '@fastigium/contracts/api/redirects';
import { DomainError } from '@fastigium/contracts/errors';
import { progressStep } from '@fastigium/contracts/messages/progress';
import { reason } from '@fastigium/contracts/messages/reason';
import { COLUMN_MEANINGS, type Columns } from '@fastigium/core/redirects/gather';
import { createHash } from 'node:crypto';
import { EventEmitter, once } from 'node:events';
import { Readable } from 'node:stream';
import { MessageChannel } from 'node:worker_threads';
import { z } from 'zod';
import type { Transaction } from '../../../db/database.ts';
import type { Deps } from '../../../deps.ts';
import type { Upload } from '../../../http/incoming.ts';
import { enqueue, type JobRun } from '../../../jobs/queue.ts';
import type { OldFile } from '../../../threads/oldAddresses.ts';
import { readOldDomains } from '../../draft/oldDomains.ts';
import { suggestSoon } from '../../shared/suggestSoon.ts';
import { listGathering, takeCopied } from './take.ts';

/** What a file is, beside its bytes. */
export const broughtFile = z.object({
  site: z.uuid(),
  by: z.uuid(),
  fileName: z.string(),
  /** As JSON; undefined where nobody matched them. */
  columns: z.string().optional(),
  hasNames: z.boolean().optional(),
  /** Text somebody pasted, which has no name and is neither a table nor a log. */
  isPasted: z.boolean().optional(),
  /** Whose addresses those without a host are; undefined for the site itself. */
  domain: z.string().optional(),
});
export type BroughtFile = z.infer<typeof broughtFile>;

/** Beyond this it takes longer than somebody should wait without being told how far it is. */
const SMALL_BYTES = 1024 * 1024; // 1 MiB

const columnsText = z.partialRecord(z.enum(COLUMN_MEANINGS), z.number().int().min(0).max(1000));

type Followed = Pick<JobRun, 'report' | 'signal'> & Partial<Pick<JobRun, 'id'>>;

export async function takeFile(deps: Deps, file: BroughtFile, upload: Upload): Promise<Gathered> {
  if (upload.sizeBytes <= SMALL_BYTES) return gatherFile(deps, file, upload);
  // Columns are matched before anything is taken, and are asked for by the beginning of a table.
  const asked = await askColumns(deps, file, upload);
  if (asked) return asked;
  const kept = deps.keptUploads.keep(upload.keep());
  const body = { source: 'file', kept, ...file };
  try {
    const job = await deps.db.transaction((tx) =>
      enqueue(tx, { kind: 'gather', site: file.site, body, by: file.by, onlyAt: deps.process }),
    );
    return { state: 'taking', job };
  } catch (error) {
    await deps.keptUploads.drop(kept);
    throw error;
  }
}

export function takePasted(
  deps: Deps,
  { text, ...pasted }: { site: string; by: string; text: string; domain: string | undefined },
): Promise<Gathered> {
  const bytes = Buffer.from(text);
  const incoming = { sizeBytes: bytes.length, read: () => Readable.from([bytes]), drop: () => Promise.resolve() };
  return takeFile(deps, { ...pasted, fileName: '', isPasted: true }, { ...incoming, keep: () => incoming });
}

/** @param job told how far it is; whoever stops it leaves nothing of the file behind */
export async function gatherFile(
  deps: Deps,
  file: BroughtFile,
  upload: Pick<Upload, 'read' | 'sizeBytes'>,
  job?: Followed,
): Promise<Gathered> {
  const rows: Uint8Array[] = [];
  const read = await readThrough(deps, file, upload, rows, job);
  if (read.kind === 'columns') return deps.db.transaction((tx) => answerColumns(tx, file.site, read));
  const name = file.isPasted ? 'What was pasted' : file.fileName;
  if (read.kind === 'unreadable') throw new DomainError('old-addresses-unreadable', { name, why: read.why });
  if (file.isPasted && read.read === 0)
    throw new DomainError('old-addresses-unreadable', { name, why: reason('no-address-in-it') });
  return deps.db.transaction(async (tx) => {
    await keepColumns(tx, file, read);
    const found = {
      site: file.site,
      by: file.by,
      source: read.source,
      name: file.fileName,
      fingerprint: read.fingerprint,
      addUp: read.source === 'log',
      job: job?.id,
    };
    const { count, files, noise, leftOut, notRead, notReadCount } = read;
    const taken = await takeCopied(tx, found, { rows, count, read: read.read, files, noise, leftOut }, job);
    const gathered = await listGathering(tx, found, taken, { notRead, count: notReadCount });
    await suggestSoon(tx, file.site, file.by);
    return gathered;
  });
}

/** What was counted before is not counted again, and what was matched by hand is known the next time. */
async function keepColumns(
  tx: Transaction,
  file: BroughtFile,
  read: Extract<OldFile, { kind: 'read' }> & { readonly fingerprint: string },
): Promise<void> {
  if (read.source === 'log') {
    const before = await tx.maybeOne('select 1 from gathering where site_id = $1 and fingerprint = $2 limit 1', [
      file.site,
      read.fingerprint,
    ]);
    if (before) throw new DomainError('log-counted', { name: file.fileName });
  }
  if (read.names === undefined || file.columns === undefined) return;
  await tx.run(
    'insert into gathering_columns (site_id, names, columns) values ($1, $2, $3) on conflict (site_id, names) do update set columns = excluded.columns',
    [file.site, readColumnNames([read.names]), file.columns],
  );
}

async function answerColumns(
  tx: Transaction,
  site: string,
  read: Extract<OldFile, { kind: 'columns' }>,
): Promise<Gathered> {
  // Matched once, such a table is known again by its names.
  const known = read.hasNames
    ? await tx.maybeOne<{ columns: Columns }>(
        'select columns from gathering_columns where site_id = $1 and names = $2',
        [site, readColumnNames(read.rows)],
      )
    : undefined;
  return {
    state: 'columns' as const,
    hasNames: read.hasNames,
    rows: read.rows.map((row) => row.map((cell) => cell.slice(0, 200))),
    columns: known?.columns ?? read.columns,
  };
}

/** Undefined for what is no table, or one whose columns were matched. */
async function askColumns(deps: Deps, file: BroughtFile, upload: Upload): Promise<Gathered | undefined> {
  if (file.columns !== undefined || file.isPasted) return undefined;
  const beginning = { sizeBytes: SMALL_BYTES, read: () => Readable.from(readBeginning(upload.read())) };
  const read = await readThrough(deps, file, beginning, []);
  return read.kind === 'columns' ? deps.db.transaction((tx) => answerColumns(tx, file.site, read)) : undefined;
}

/** Whole lines, as many as there are in the first bytes. */
async function* readBeginning(stream: Readable): AsyncGenerator<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    pieces.push(piece);
    size += piece.length;
    if (size >= SMALL_BYTES / 4) break;
  }
  const all = Buffer.concat(pieces);
  yield all.subarray(0, all.lastIndexOf('\n') + 1 || all.length);
}

async function readThrough(
  deps: Deps,
  { site, columns, hasNames, domain, isPasted = false }: BroughtFile,
  { read, sizeBytes }: Pick<Upload, 'read' | 'sizeBytes'>,
  rows: Uint8Array[],
  job?: Followed,
): Promise<OldFile & { readonly fingerprint: string }> {
  const domains = await readOldDomains(deps.db, site);
  const { port1, port2 } = new MessageChannel();
  const pieces = read()[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  const stop = new AbortController();
  const hash = createHash('sha256');
  let done = 0;
  const feed = async () => {
    const { value, done: isOver } = await pieces.next();
    if (!isOver) {
      hash.update(value);
      done += value.length;
    }
    job?.report({ step: progressStep('reading-addresses'), done, total: sizeBytes, unit: 'bytes' });
    port1.postMessage(isOver ? null : value);
  };
  // One piece a question: what the thread has not asked for stays where it is.
  const arrived = new EventEmitter();
  port1.on('message', (said: 'more' | Uint8Array) => {
    if (said === 'more') feed().catch((error: unknown) => stop.abort(error));
    else {
      rows.push(said);
      arrived.emit('piece');
    }
  });
  try {
    const old = await deps.threads.readOldAddresses(
      { port: port2, columns: readColumns(columns), hasNames, isPasted, domains, domain },
      job ? AbortSignal.any([stop.signal, job.signal]) : stop.signal,
    );
    // What a thread answers and what it sent before come by different ways.
    while (old.kind === 'read' && rows.length < old.pieces) await once(arrived, 'piece');
    return { ...old, fingerprint: hash.digest('hex') };
  } catch (error) {
    job?.signal.throwIfAborted();
    throw stop.signal.aborted ? stop.signal.reason : error;
  } finally {
    port1.close();
    await pieces.return?.();
  }
}

function readColumns(text: string | undefined): Columns | undefined {
  if (text === undefined) return undefined;
  try {
    const columns = columnsText.parse(JSON.parse(text)) as Columns;
    if (columns.address !== undefined) return columns;
  } catch {
    // Told below like any other columns that say nothing.
  }
  throw new DomainError('columns-unmatched');
}

function readColumnNames(rows: readonly (readonly string[])[]): string {
  return (rows[0] ?? [])
    .map((name) => name.trim().toLowerCase())
    .join('\t')
    .slice(0, 2000);
}
