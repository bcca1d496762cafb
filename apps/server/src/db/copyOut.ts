/**
 * Rows in the binary form of COPY: what node-postgres reads comes as text, and bytes as text are hexadecimal, twice as
 * long, made there and taken apart here.
 */
import type pg from 'pg';
import { to } from 'pg-copy-streams';

/** Signature, flags and length of the extension (documentation of PostgreSQL, COPY, "Binary Format"). */
const SIGNATURE = Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1');
const FLAGS_BYTES = 4;
const LENGTH_BYTES = 4;
const COUNT_BYTES = 2;
/** Where a row would say how many columns it has. */
const END_OF_ROWS = -1;
const NULL = -1;

/** @param select without parameters, since COPY takes none. @returns each row's columns as PostgreSQL sends them (text as UTF-8, bytea as it is), views into one buffer for all */
export async function copyOut(client: pg.PoolClient, select: string): Promise<(Buffer | null)[][]> {
  const pieces: Buffer[] = [];
  for await (const piece of client.query(to(`copy (${select}) to stdout (format binary)`)) as AsyncIterable<Buffer>)
    pieces.push(piece);
  return readBinaryRows(Buffer.concat(pieces));
}

export function readBinaryRows(copied: Buffer): (Buffer | null)[][] {
  if (!copied.subarray(0, SIGNATURE.length).equals(SIGNATURE)) throw new Error('not the binary form of COPY');
  let at = SIGNATURE.length + FLAGS_BYTES;
  at += LENGTH_BYTES + copied.readInt32BE(at);
  const rows: (Buffer | null)[][] = [];
  for (;;) {
    const columns = copied.readInt16BE(at);
    at += COUNT_BYTES;
    if (columns === END_OF_ROWS) return rows;
    const row: (Buffer | null)[] = [];
    for (let column = 0; column < columns; column += 1) {
      const length = copied.readInt32BE(at);
      at += LENGTH_BYTES;
      row.push(length === NULL ? null : copied.subarray(at, at + length));
      at += Math.max(length, 0);
    }
    rows.push(row);
  }
}
