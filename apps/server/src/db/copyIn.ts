/**
 * Rows in the text form of COPY (documentation of PostgreSQL, COPY, "Text Format"): what has a million rows is written
 * where it is made, and goes to the database as it is, so that nobody holds it as objects.
 */
import type pg from 'pg';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from } from 'pg-copy-streams';

export type CopiedValue = string | number | Date | null | undefined;

const ESCAPED: Readonly<Record<string, string>> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r', '\0': '' };

/** One row with the end of its line. NUL, which no text of PostgreSQL holds, is left out. */
export function writeCopyRow(values: readonly CopiedValue[]): string {
  return `${values.map(writeValue).join('\t')}\n`;
}

function writeValue(value: CopiedValue): string {
  if (value === null || value === undefined) return '\\N';
  if (typeof value === 'number') return String(value);
  if (value instanceof Date) return value.toISOString();
  return value.replace(/[\\\t\n\r\0]/g, (letter) => ESCAPED[letter] ?? '');
}

/** @param into a table with its columns, as in `gathered (n, address)` @param pieces rows, cut anywhere */
export async function copyIn(client: pg.PoolClient, into: string, pieces: Iterable<Uint8Array>): Promise<void> {
  await pipeline(Readable.from(pieces), client.query(from(`copy ${into} from stdin`)));
}
