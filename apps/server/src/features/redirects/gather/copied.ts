/** Gathered addresses as rows of the table they are put down in first. */
import type { GatheredAddress } from '@fastigium/core/redirects/gather';
import { escapeQuotes } from '@fastigium/core/text';
import { writeCopyRow } from '../../../db/copyIn.ts';

const TEXT_LETTERS = 1500;
/** Rows of one piece: some hundred kilobytes. */
const AT_ONCE = 2000;

const encoder = new TextEncoder();

/** In the order of the columns of `gathered`, numbered from 1. */
export function* writeCopiedRows(rows: readonly GatheredAddress[]): Generator<Uint8Array<ArrayBuffer>> {
  for (let from = 0; from < rows.length; from += AT_ONCE)
    yield encoder.encode(
      rows
        .slice(from, from + AT_ONCE)
        .map((row, at) => writeRow(from + at + 1, row))
        .join(''),
    );
}

/** `{"one","two"}` (documentation of PostgreSQL, Arrays, section 8.15.2). */
const writeArray = (texts: readonly string[]): string =>
  `{${texts.map((text) => `"${escapeQuotes(text)}"`).join(',')}}`;

function writeRow(n: number, { kind, ...row }: GatheredAddress): string {
  return writeCopyRow([
    n,
    row.address,
    row.visits,
    row.lastSeenMs === undefined ? null : new Date(row.lastSeenMs),
    row.status,
    row.title,
    row.text?.slice(0, TEXT_LETTERS),
    writeArray(row.headings ?? []),
    row.language,
    kind.kind,
    kind.kind === 'noise' ? kind.why : null,
  ]);
}
