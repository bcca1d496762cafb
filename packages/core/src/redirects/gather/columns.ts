/** Which column of a table holds what: a first guess by names and contents, which a person can change. */
import { parseAddress } from '../../address/index.ts';

export const COLUMN_MEANINGS = ['address', 'visits', 'lastSeen', 'title', 'status', 'target'] as const;
export type ColumnMeaning = (typeof COLUMN_MEANINGS)[number];
/** By meaning, the column's index from 0. */
export type Columns = Readonly<Partial<Record<ColumnMeaning, number>>>;

const NAMES: Readonly<Record<ColumnMeaning, RegExp>> = {
  address:
    /^(?:old|source|from|top|landing|request)?[\s_-]*(?:url|uri|address|path|page|link|pages?)(?:[\s_-]*path)?$|^(?:old|from|source|adresse|cyfeiriad)$/i,
  target: /^(?:new|target|to|destination|redirect)[\s_-]*(?:url|uri|address|path|page|to)?$/i,
  visits: /visit|view|hit|click|session|count|traffic|impression|besuch|ymweliad/i,
  lastSeen: /last|date|seen|day|when|time/i,
  title: /title|name|heading|titel|teitl/i,
  status: /status|code|response/i,
};
const SAMPLE = 50;

/** @param rows the table's first rows, the names of the columns among them where there are any */
export function guessColumns(rows: readonly (readonly string[])[]): {
  readonly columns: Columns;
  readonly hasNames: boolean;
} {
  const [head = [], ...rest] = rows.slice(0, SAMPLE);
  const hasNames = rest.length > 0 && !head.some(isLikeAddress) && rest.some((row) => row.some(isLikeAddress));
  const body = hasNames ? rest : rows.slice(0, SAMPLE);
  const columns: Partial<Record<ColumnMeaning, number>> = {};
  const width = Math.max(0, ...rows.slice(0, SAMPLE).map((row) => row.length));
  const free = (at: number) => !Object.values(columns).includes(at);
  const share = (at: number, is: (cell: string) => boolean) =>
    body.filter((row) => is(row[at] ?? '')).length / Math.max(1, body.length);
  const named = (meaning: ColumnMeaning) =>
    hasNames ? head.findIndex((name, at) => free(at) && NAMES[meaning].test(name.trim())) : -1;
  const addresses = Array.from({ length: width }, (_, at) => at).filter((at) => share(at, isLikeAddress) >= 0.5);
  // Named as the new one, a column of addresses is not the old one, wherever it stands.
  const target = addresses.find((at) => hasNames && NAMES.target.test((head[at] ?? '').trim()));
  const address =
    addresses.find((at) => at !== target && (!hasNames || NAMES.address.test((head[at] ?? '').trim()))) ??
    addresses.find((at) => at !== target);
  if (address !== undefined) columns.address = address;
  const to = target ?? (hasNames ? undefined : addresses.find((at) => at !== address));
  if (to !== undefined) columns.target = to;
  for (const meaning of ['status', 'lastSeen', 'title', 'visits'] as const) {
    const at = named(meaning);
    if (at >= 0 && fits(meaning, at)) columns[meaning] = at;
  }
  if (!hasNames && columns.visits === undefined) {
    const at = Array.from({ length: width }, (_, i) => i).find(
      (i) => free(i) && share(i, (cell) => /^\d[\d,.\s]*$/.test(cell)) > 0.8,
    );
    if (at !== undefined) columns.visits = at;
  }
  return { columns, hasNames };

  function fits(meaning: ColumnMeaning, at: number): boolean {
    if (meaning === 'visits') return share(at, (cell) => readCount(cell) !== undefined) >= 0.5;
    if (meaning === 'status') return share(at, (cell) => /^\d{3}$/.test(cell.trim())) >= 0.5;
    return true;
  }
}

/** `1,234`, `1.234` and `1 234` are one number; undefined for what is none. */
export function readCount(cell: string): number | undefined {
  const digits = cell.trim().replace(/(?<=\d)[,.\s\u00a0'’](?=\d{3}(?:\D|$))/g, '');
  return /^\d{1,15}$/.test(digits) ? Number(digits) : undefined;
}

function isLikeAddress(cell: string): boolean {
  const text = cell.trim();
  if (!/^(?:https?:\/\/|\/|www\.)\S*$|^[^\s/]+\.[a-z]{2,}\/\S*$|^[^\s/]+\.(?:html?|php|aspx?)(?:\?\S*)?$/i.test(text))
    return false;
  return parseAddress(text).ok;
}
