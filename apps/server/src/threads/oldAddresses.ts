/**
 * Reads a file of old addresses as it comes in: an access log, a sitemap, a listing, a table, a page or plain
 * lines, packed by gzip or not. A log may be larger than memory; everything else is small enough to be held.
 */
import { on } from 'node:events';
import { Readable } from 'node:stream';
import type { MessagePort } from 'node:worker_threads';
import { createGunzip } from 'node:zlib';
import { parse } from 'csv-parse/sync';
import { reason, type ReasonMessage } from '@fastigium/contracts/messages/reason';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import { unread, type NotRead } from '@fastigium/core/redirects';
import {
  gatherSightings,
  guessColumns,
  LogScanner,
  readCount,
  readIndexPage,
  readLogLine,
  readPasted,
  Tally,
  type Columns,
  type GatheredAddresses,
  type Sighting,
} from '@fastigium/core/redirects/gather';
import { readSitemap } from '@fastigium/core/sitemap';
import { decodeStrictly, findEncoding, withoutMark } from '@fastigium/core/text';
import { decodeTable } from '../features/shared/csvTable.ts';
import { writeCopiedRows } from '../features/redirects/gather/copied.ts';
import { isListed } from '../features/redirects/gather/sources.ts';

export interface OldFileRequest {
  /**
   * Pieces of the file come through it, one for each question, which is `more`; a message of null ends it. Rows of what
   * was read go the other way, as `writeCopiedRows` writes them.
   */
  readonly port: MessagePort;
  readonly columns: Columns | undefined;
  readonly hasNames: boolean | undefined;
  /** Lines and links somebody pasted, whatever else they look like. */
  readonly isPasted: boolean;
  /** Old domains of the site that are told apart. */
  readonly domains: readonly string[];
  /** Whose addresses those without a host are; undefined for the site itself. */
  readonly domain: string | undefined;
}

export type OldFile =
  | ({
      readonly kind: 'read';
      readonly source: OldFileSource;
      /** Rows that went through the port, and in how many pieces; they may come in after this. */
      readonly count: number;
      readonly pieces: number;
      readonly notRead: readonly NotRead[];
      readonly notReadCount: number;
      /** The first line of a table that names its columns. */
      readonly names?: readonly string[];
    } & Omit<GatheredAddresses, 'rows'>)
  | {
      readonly kind: 'columns';
      readonly rows: readonly (readonly string[])[];
      readonly columns: Columns;
      readonly hasNames: boolean;
    }
  | { readonly kind: 'unreadable'; readonly why: ReasonMessage };

type OldFileSource = 'log' | 'sitemap' | 'index' | 'table' | 'pasted';

/** What is no log has to fit into memory. */
const MOST_BYTES = 64 * 1024 * 1024; // 64 MiB
/** A few kilobytes of gzip can stand for any number of bytes. */
const MOST_UNPACKED = 16 * 1024 * 1024 * 1024; // 16 GiB
const FIRST_BYTES = 64 * 1024; // 64 KiB
const MOST_NOT_READ = 200;
const SHOWN_ROWS = 6;
const AHEAD = 4;

export async function readOldAddresses(request: OldFileRequest): Promise<OldFile> {
  const { port, columns, hasNames } = request;
  try {
    const pieces = unpackPieces(readPieces(port));
    const { first, all } = await withFirst(pieces);
    if (first.length === 0) return { kind: 'unreadable', why: reason('empty') };
    if (request.isPasted) return send(request, mergeRead(request, readAsText((await holdText(all)) ?? '')));
    const text = first.toString('utf8');
    // A log may hold anything that was asked for; one line in its form is enough to know it.
    if (text.split('\n', 20).some((line) => readLogLine(line) !== undefined))
      return send(request, await readLog(request, all));
    if (isBinary(first)) return { kind: 'unreadable', why: reason('no-text') };
    const whole = await holdText(all);
    if (whole === undefined) return { kind: 'unreadable', why: reason('larger-no-log', { most: MOST_BYTES }) };
    const read = readText(whole, columns, hasNames);
    return read.kind === 'read' ? send(request, mergeRead(request, read)) : read;
  } catch (error) {
    if (error instanceof Error && 'code' in error && String(error.code).startsWith('Z_'))
      return { kind: 'unreadable', why: reason('gzip-broken') };
    throw error;
  }
}

/** What stands for the same address is one. */
function mergeRead({ domains, domain }: OldFileRequest, { sightings, ...read }: Read) {
  const context = { domains: new Set(domains), domain, isListed: isListed(read.source), isLive: false };
  return { ...read, gathered: gatherSightings(sightings, context) };
}

/** Sends the rows on, and says what there was. */
function send(
  { port }: OldFileRequest,
  { gathered: { rows, ...counts }, ...read }: ReturnType<typeof mergeRead>,
): OldFile {
  let pieces = 0;
  for (const piece of writeCopiedRows(rows)) {
    port.postMessage(piece, [piece.buffer]);
    pieces += 1;
  }
  return { ...read, ...counts, count: rows.length, pieces };
}

interface Read {
  readonly kind: 'read';
  readonly source: OldFileSource;
  readonly sightings: Iterable<Sighting>;
  readonly notRead: readonly NotRead[];
  readonly notReadCount: number;
  readonly names?: readonly string[];
}

function readText(
  text: string,
  columns: Columns | undefined,
  hasNames: boolean | undefined,
): Read | Exclude<OldFile, { kind: 'read' }> {
  const trimmed = withoutMark(text).trimStart();
  if (/^<(?:\?xml|urlset|sitemapindex|feed|rss|OpenSearch)/i.test(trimmed)) {
    const { pages, sitemaps } = readSitemap(trimmed);
    if (pages.length > 0)
      return listEntries(
        'sitemap',
        pages.map((address) => ({ address })),
      );
    if (sitemaps.length > 0)
      return {
        kind: 'unreadable',
        why: reason('sitemap-index'),
      };
    const page = readIndexPage(trimmed);
    if (page)
      return listEntries(
        'index',
        page.entries.map(({ address, title, summary }) => ({ address, title, text: summary })),
      );
    if (!/<html/i.test(trimmed)) return { kind: 'unreadable', why: reason('xml-unknown') };
  }
  if (!trimmed.startsWith('<')) {
    const rows = parseTableRows(text);
    if (rows !== undefined) {
      const guess = guessColumns(rows);
      if (columns === undefined && guess.columns.address !== undefined)
        return { kind: 'columns', rows: rows.slice(0, SHOWN_ROWS), columns: guess.columns, hasNames: guess.hasNames };
      if (columns !== undefined) return readTable(rows, columns, hasNames ?? guess.hasNames);
    }
  }
  return readAsText(text);
}

function readAsText(text: string): Read {
  const { addresses, notRead } = readPasted(text);
  return {
    kind: 'read',
    source: 'pasted',
    sightings: addresses.map(({ address, host, title }) => ({ address, host, title })),
    ...boundNotRead(notRead),
  };
}

function listEntries(
  source: 'sitemap' | 'index',
  entries: readonly { address: string; title?: string; text?: string }[],
): Read {
  const notRead: NotRead[] = [];
  const sightings = entries.flatMap(({ address: written, ...more }, at): Sighting[] => {
    const parsed = parseAddress(written);
    if (parsed.ok) return [{ address: formatAddress(parsed.address), host: parsed.host, ...more }];
    notRead.push({ line: at + 1, text: written.slice(0, 200), why: unread('no-address') });
    return [];
  });
  return { kind: 'read', source, sightings, ...boundNotRead(notRead) };
}

/** Undefined for what has no columns. */
function parseTableRows(text: string): string[][] | undefined {
  const head = text.split('\n', 5).join('\n');
  const [delimiter, count] = [',', ';', '\t', '|']
    .map((each) => [each, head.split(each).length - 1] as const)
    .reduce((a, b) => (b[1] > a[1] ? b : a));
  if (count === 0) return undefined;
  try {
    const rows = parse(text, {
      delimiter,
      bom: true,
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      info: false,
    }) as string[][];
    return rows.some((row) => row.length > 1) ? rows : undefined;
  } catch {
    return undefined;
  }
}

function readTable(rows: readonly (readonly string[])[], columns: Columns, hasNames: boolean): Read {
  const notRead: NotRead[] = [];
  const cell = (row: readonly string[], meaning: keyof Columns) => {
    const at = columns[meaning];
    return at === undefined ? '' : (row[at] ?? '').trim();
  };
  const sightings = rows.slice(hasNames ? 1 : 0).flatMap((row, at): Sighting[] => {
    const line = at + (hasNames ? 2 : 1);
    const written = cell(row, 'address');
    const parsed = parseAddress(written);
    if (!parsed.ok) {
      notRead.push({
        line,
        text: row.join(', ').slice(0, 200),
        why: unread(written === '' ? 'column-empty' : 'no-address'),
      });
      return [];
    }
    const count = cell(row, 'visits');
    const visits = readCount(count);
    if (count !== '' && visits === undefined)
      notRead.push({
        line,
        text: `${written} ${count}`.slice(0, 200),
        why: unread('no-visits'),
      });
    const day = Date.parse(cell(row, 'lastSeen'));
    const status = Number(cell(row, 'status'));
    return [
      {
        address: formatAddress(parsed.address),
        host: parsed.host,
        visits,
        lastSeenMs: Number.isNaN(day) ? undefined : day,
        status: status >= 100 && status <= 599 ? status : undefined,
        title: cell(row, 'title') || undefined,
      },
    ];
  });
  return {
    kind: 'read',
    source: 'table',
    sightings,
    ...boundNotRead(notRead),
    ...(hasNames && rows[0] ? { names: rows[0] } : {}),
  };
}

async function readLog(
  { domains, domain }: OldFileRequest,
  pieces: AsyncIterable<Buffer>,
): Promise<Omit<Read, 'sightings'> & { readonly gathered: GatheredAddresses }> {
  const tally = new Tally({ domains: new Set(domains), domain });
  const notRead: NotRead[] = [];
  let notReadCount = 0;
  const scanner = new LogScanner(tally, (line, text) => {
    notReadCount += 1;
    if (notRead.length < MOST_NOT_READ)
      notRead.push({
        line,
        text: (text ?? '').slice(0, 200),
        why: unread(text === undefined ? 'line-too-long' : 'no-log-line'),
      });
  });
  for await (const piece of pieces) scanner.scan(piece);
  scanner.end();
  return { kind: 'read', source: 'log', gathered: tally.gather(), notRead, notReadCount };
}

function boundNotRead(notRead: readonly NotRead[]): { notRead: readonly NotRead[]; notReadCount: number } {
  return { notRead: notRead.slice(0, MOST_NOT_READ), notReadCount: notRead.length };
}

/** Some are asked for ahead, so that the next is here when one is read. */
async function* readPieces(port: MessagePort): AsyncGenerator<Buffer> {
  const pieces = on(port, 'message') as AsyncIterableIterator<[Uint8Array | null]>;
  for (let ahead = 0; ahead < AHEAD; ahead += 1) port.postMessage('more');
  for await (const [piece] of pieces) {
    if (piece === null) return;
    port.postMessage('more');
    yield Buffer.from(piece.buffer, piece.byteOffset, piece.byteLength);
  }
}

/** RFC 1952: gzip begins with 1f 8b. */
async function* unpackPieces(pieces: AsyncGenerator<Buffer>): AsyncGenerator<Buffer> {
  const { first, all } = await withFirst(pieces);
  if (first[0] !== 0x1f || first[1] !== 0x8b) {
    yield* all;
    return;
  }
  let size = 0;
  for await (const piece of Readable.from(all).pipe(createGunzip()) as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > MOST_UNPACKED) return;
    yield piece;
  }
}

/** The beginning, and everything, the beginning included. */
async function withFirst(pieces: AsyncGenerator<Buffer>): Promise<{ first: Buffer; all: AsyncGenerator<Buffer> }> {
  const begun: Buffer[] = [];
  let size = 0;
  while (size < FIRST_BYTES) {
    const next = await pieces.next();
    if (next.done) break;
    begun.push(next.value);
    size += next.value.length;
  }
  const all = async function* () {
    yield* begun;
    yield* pieces;
  };
  return { first: Buffer.concat(begun).subarray(0, FIRST_BYTES), all: all() };
}

async function holdText(pieces: AsyncIterable<Buffer>): Promise<string | undefined> {
  const all: Buffer[] = [];
  let size = 0;
  for await (const piece of pieces) {
    size += piece.length;
    if (size > MOST_BYTES) return undefined;
    all.push(piece);
  }
  return decodeList(Buffer.concat(all));
}

/** What XML declares (XML 1.0, section 4.3.3); else as tables are told by their bytes. */
function decodeList(bytes: Buffer): string {
  const declared = /^\s*<\?xml[^>]{0,200}\sencoding\s*=\s*["']([\w.:-]+)["']/.exec(
    bytes.toString('latin1', 0, 300),
  )?.[1];
  const encoding = declared === undefined ? undefined : findEncoding(declared);
  const declaredText = encoding === undefined ? undefined : decodeStrictly(bytes, encoding);
  return declaredText === undefined ? decodeTable(bytes).text : withoutMark(declaredText);
}

function isBinary(first: Buffer): boolean {
  // UTF-16 is known by its mark; every other letter of it is a NUL.
  const isWide = (first[0] === 0xff && first[1] === 0xfe) || (first[0] === 0xfe && first[1] === 0xff);
  if (isWide) return false;
  if (first.includes(0)) return true;
  const text = decodeTable(first).text;
  return (text.match(/\uFFFD|[\u0001-\u0008\u000e-\u001f]/g)?.length ?? 0) > text.length / 20;
}
