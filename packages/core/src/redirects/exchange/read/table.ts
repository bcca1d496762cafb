/** Rules in a table: columns by their names, in any order; without names, old address, new one and perhaps a status. */
import { unread } from '../../messages.ts';
import { RuleGatherer, type RulesReading } from './reading.ts';

const NAMES: Readonly<Record<string, readonly string[]>> = {
  from: ['from', 'old', 'source', 'old address', 'old url', 'address', 'request', 'path'],
  to: ['to', 'new', 'target', 'new address', 'new url', 'destination', 'location'],
  status: ['status', 'code', 'type'],
  pattern: ['pattern'],
  query: ['query'],
  letterCase: ['letter case'],
};

/** @returns undefined where no two columns can be an old address and a new one */
export function readRuleTable(rows: readonly (readonly string[])[]): RulesReading | undefined {
  const [first = []] = rows;
  const named = Object.fromEntries(
    Object.entries(NAMES).map(([column, names]) => [
      column,
      first.findIndex((cell) => names.includes(cell.trim().toLowerCase())),
    ]),
  );
  const hasNames = (named.from ?? -1) >= 0;
  if (!hasNames && !/^(?:\/|https?:\/\/)/i.test(first[0]?.trim() ?? '')) return undefined;
  const at = hasNames ? named : { from: 0, to: 1, status: 2 };
  if (first.length < 2 || (hasNames && (named.to ?? -1) < 0)) return undefined;
  const gatherer = new RuleGatherer();
  rows.slice(hasNames ? 1 : 0).forEach((row, index) => {
    const line = index + (hasNames ? 2 : 1);
    const cell = (column: string) => {
      const place = (at as Record<string, number | undefined>)[column] ?? -1;
      return place < 0 ? '' : (row[place]?.trim() ?? '');
    };
    if (row.every((each) => each.trim() === '')) return;
    const [from, to, status] = [cell('from'), cell('to'), cell('status')];
    const code = status === '' ? (to === '' ? 0 : 301) : /^\d{3}$/.test(status) ? Number(status) : -1;
    const text = row.join(', ');
    if (code === 0) gatherer.refuse(line, text, unread('no-end'));
    else if (code < 0) gatherer.refuse(line, text, unread('no-status', { text: status }));
    else
      gatherer.take({
        line,
        text,
        from,
        status: code,
        to,
        isPattern: cell('pattern').toLowerCase() === 'yes',
        ignoreCase: cell('letterCase') === 'any',
        dropsQuery: cell('query') === 'dropped',
      });
  });
  return gatherer.reading;
}
