/** The table as CSV (RFC 4180), out to a writer and back. */
import type { TableReading } from '@fastigium/contracts/api/metadata';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { readTable, writeTableRows } from '@fastigium/core/head';
import { stringify } from 'csv-stringify/sync';
import type { Readable } from 'node:stream';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readWholeStream } from '../../http/wholeStream.ts';
import { decide } from '../draft/decide.ts';
import { decodeTable, parseTable } from '../shared/csvTable.ts';
import { readDraftHeads, listTablePages } from './table.ts';

/** With a byte order mark, by which spreadsheets know UTF-8. */
export async function writeTableCsv(queries: Queries, site: string): Promise<string> {
  return stringify(writeTableRows(listTablePages(await readDraftHeads(queries, site))), {
    bom: true,
    record_delimiter: 'windows',
  });
}

const MOST_BYTES = 32 * 1024 * 1024; // 32 MiB

export async function readCsv(queries: Queries, site: string, stream: Readable): Promise<TableReading> {
  const { text, encoding } = decodeTable(await readWholeStream(stream, MOST_BYTES));
  const heads = await readDraftHeads(queries, site);
  const reading = readTable(parseTable(text), listTablePages(heads));
  if (!reading) throw new DomainError('table-unreadable', { detail: reason('no-address-column') });
  return {
    version: heads.version,
    encoding,
    rows: reading.rows,
    changes: [...reading.changes],
    unknown: [...reading.unknown],
    doubled: [...reading.doubled],
    ignored: [...reading.ignored],
  };
}

/** All that the table changes as one decision, so that one step takes it back; if one cell cannot be taken, none is. */
export async function takeCsv(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  version: number,
  stream: Readable,
) {
  const { changes, version: now } = await readCsv(deps.db, site, stream);
  if (now !== version) throw new DomainError('draft-stale');
  if (changes.length === 0)
    throw new DomainError('table-unreadable', {
      detail: reason('table-changes-nothing'),
    });
  const decision: DecisionRequest = {
    kind: 'head',
    settings: changes.map(({ page, name, after }) => ({ scope: { kind: 'page', page }, name, text: after, own: null })),
  };
  return decide(deps, site, by, { version, decision });
}
