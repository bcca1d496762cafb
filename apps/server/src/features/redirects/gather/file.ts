/** A file of old addresses, read by a worker thread piece by piece, so that its size is nobody's memory. */
import type { Gathered } from '@fastigium/contracts/api/redirects';
import { COLUMN_MEANINGS, readPasted, type Columns } from '@fastigium/core/redirects/gather';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import type { Readable } from 'node:stream';
import { MessageChannel } from 'node:worker_threads';
import { z } from 'zod';
import type { Deps } from '../../../deps.ts';
import { suggestSoon } from '../../shared/suggestSoon.ts';
import { takeGathering } from './take.ts';

const columnsText = z.partialRecord(z.enum(COLUMN_MEANINGS), z.number().int().min(0).max(1000));

export async function takeFile(
  deps: Deps,
  file: {
    site: string;
    by: string;
    fileName: string;
    columns: string | undefined;
    hasNames: boolean | undefined;
    domain: string | undefined;
    stream: Readable;
  },
): Promise<Gathered> {
  const read = await readThrough(deps, file.stream, { columns: readColumns(file.columns), hasNames: file.hasNames });
  if (read.kind === 'unreadable')
    throw new DomainError('old-addresses-unreadable', { name: file.fileName, why: read.why });
  return deps.db.transaction(async (tx) => {
    if (read.kind === 'columns') {
      // Matched once, such a table is known again by its names.
      const known = read.hasNames
        ? await tx.maybeOne<{ columns: Columns }>(
            'select columns from gathering_columns where site_id = $1 and names = $2',
            [file.site, readColumnNames(read.rows)],
          )
        : undefined;
      return {
        state: 'columns' as const,
        hasNames: read.hasNames,
        rows: read.rows.map((row) => row.map((cell) => cell.slice(0, 200))),
        columns: known?.columns ?? read.columns,
      };
    }
    if (
      read.source === 'log' &&
      (await tx.maybeOne('select 1 from gathering where site_id = $1 and fingerprint = $2', [
        file.site,
        read.fingerprint,
      ]))
    ) {
      throw new DomainError('log-counted', { name: file.fileName });
    }
    if (read.names !== undefined && file.columns !== undefined) {
      await tx.run(
        'insert into gathering_columns (site_id, names, columns) values ($1, $2, $3) on conflict (site_id, names) do update set columns = excluded.columns',
        [file.site, readColumnNames([read.names]), file.columns],
      );
    }
    const taken = await takeGathering(
      tx,
      {
        site: file.site,
        by: file.by,
        source: read.source,
        name: file.fileName,
        fingerprint: read.fingerprint,
        addUp: read.source === 'log',
        domain: file.domain,
      },
      read.sightings,
      read.notRead,
    );
    await suggestSoon(tx, file.site, file.by);
    return { ...taken, notRead: read.notReadCount };
  });
}

export async function takePasted(
  deps: Deps,
  pasted: { site: string; by: string; text: string; domain: string | undefined },
): Promise<Gathered> {
  const { addresses, notRead } = readPasted(pasted.text);
  if (addresses.length === 0)
    throw new DomainError('old-addresses-unreadable', { name: 'What was pasted', why: reason('no-address-in-it') });
  return deps.db.transaction(async (tx) => {
    const taken = await takeGathering(
      tx,
      { site: pasted.site, by: pasted.by, source: 'pasted', name: '', domain: pasted.domain },
      addresses.map(({ address, host, title }) => ({ address, host, title })),
      notRead,
    );
    await suggestSoon(tx, pasted.site, pasted.by);
    return taken;
  });
}

async function readThrough(
  deps: Deps,
  stream: Readable,
  how: { columns: Columns | undefined; hasNames: boolean | undefined },
) {
  const { port1, port2 } = new MessageChannel();
  const pieces = stream[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  const stop = new AbortController();
  // One piece a question: what the thread has not asked for stays with the sender.
  port1.on('message', () => {
    pieces.next().then(
      ({ value, done }) => port1.postMessage(done ? null : value),
      (error: unknown) => stop.abort(error),
    );
  });
  try {
    return await deps.threads.readOldAddresses(
      { port: port2, columns: how.columns, hasNames: how.hasNames },
      stop.signal,
    );
  } catch (error) {
    throw stop.signal.aborted ? stop.signal.reason : error;
  } finally {
    port1.close();
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
