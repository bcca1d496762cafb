/**
 * The table of all pages as text in rows and columns, for a writer and back. Reading and writing the rows as
 * CSV (RFC 4180) is for whoever has a file; here is what they mean.
 */
import { fold } from '../html/index.ts';
import { normaliseTableAddress } from './tableAddress.ts';
import { withoutMark } from '../text/index.ts';

export interface TablePage {
  readonly id: string;
  /** Where it answers. */
  readonly address: string;
  readonly values: Readonly<Record<TableColumn, string>>;
}

/** Columns by the line they set; the first one only says which page a row is about. */
export const TABLE_COLUMNS = {
  title: 'Title',
  'meta:description': 'Description',
  language: 'Language',
  'meta:og:title': 'Share title',
  'meta:og:image': 'Share picture',
  'meta:robots': 'Robots',
  'link:canonical': 'Canonical',
} as const;
export type TableColumn = keyof typeof TABLE_COLUMNS;
export const ADDRESS_COLUMN = 'Address';
const COLUMN_NAMES = Object.keys(TABLE_COLUMNS) as TableColumn[];

export function writeTableRows(pages: readonly TablePage[]): string[][] {
  return [
    [ADDRESS_COLUMN, ...Object.values(TABLE_COLUMNS)],
    ...pages.map(({ address, values }) => [address, ...COLUMN_NAMES.map((name) => values[name])].map(guardCell)),
  ];
}

/** Cells that spreadsheets would take for formulas begin with an apostrophe (OWASP, "CSV Injection"), and so do those that begin like that already. */
function guardCell(text: string): string {
  return /^'*[=+\-@\t\r\uff1d\uff0b\uff0d\uff20]/.test(text) ? `'${text}` : text;
}

function unguardCell(text: string): string {
  return /^'+[=+\-@\t\r\uff1d\uff0b\uff0d\uff20]/.test(text) ? text.slice(1) : text;
}

export interface TableChange {
  readonly page: string;
  readonly address: string;
  readonly name: TableColumn;
  readonly before: string;
  readonly after: string;
}

export interface TableReading {
  readonly changes: readonly TableChange[];
  /** Addresses of rows about no page of the site. */
  readonly unknown: readonly string[];
  /** Rows about a page that an earlier row was about too; only the first counts. */
  readonly doubled: readonly string[];
  /** Names of columns that mean nothing here. */
  readonly ignored: readonly string[];
  readonly rows: number;
}

/**
 * What a table would change. Columns are known by their names, in any order and letter case; an empty cell
 * changes nothing, so a writer may leave out what is right.
 *
 * @returns undefined where no column says which page a row is about
 */
export function readTable(rows: readonly (readonly string[])[], pages: readonly TablePage[]): TableReading | undefined {
  const [header = [], ...body] = rows;
  const names = header.map((cell) => fold(withoutMark(cell)).toLowerCase());
  const addressAt = names.findIndex((name) => name === ADDRESS_COLUMN.toLowerCase() || name === 'url');
  if (addressAt < 0) return undefined;
  const columns = names.map((name) => COLUMN_NAMES.find((each) => TABLE_COLUMNS[each].toLowerCase() === name));
  const byAddress = new Map(pages.map((page) => [page.address, page]));
  const changes: TableChange[] = [];
  const unknown: string[] = [];
  const doubled: string[] = [];
  const seen = new Set<string>();
  for (const row of body) {
    const written = unguardCell(row[addressAt] ?? '').trim();
    if (written === '') continue;
    const page = byAddress.get(written) ?? byAddress.get(normaliseTableAddress(written));
    if (!page) {
      unknown.push(written);
      continue;
    }
    if (seen.has(page.id)) {
      doubled.push(written);
      continue;
    }
    seen.add(page.id);
    for (const [index, name] of columns.entries()) {
      if (name === undefined) continue;
      const after = fold(unguardCell(row[index] ?? ''));
      const before = page.values[name];
      if (after !== '' && after !== fold(before))
        changes.push({ page: page.id, address: page.address, name, before, after });
    }
  }
  const ignored = header.filter(
    (cell, index) => index !== addressAt && columns[index] === undefined && fold(cell) !== '',
  );
  return {
    changes,
    unknown,
    doubled,
    ignored,
    rows: body.filter((row) => (row[addressAt] ?? '').trim() !== '').length,
  };
}
