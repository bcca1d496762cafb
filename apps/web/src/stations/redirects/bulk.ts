/** What settling many at once would take, before it does. */
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { findSuggestedTarget } from '../shared/settling/target.ts';

/** What becomes of them; `removed` concerns those that are settled, all others those that are open. */
export type BulkAnswer = 'suggested' | 'home' | 'gone' | 'removed';

export interface BulkChoice {
  /** Beginning of the old address; empty for all. */
  readonly branch: string;
  readonly answer: BulkAnswer;
  /** Only for suggestions: the least probability. */
  readonly least: number;
}

export interface Branch {
  readonly path: string;
  readonly open: number;
}

const isSettled = (row: RedirectRow): boolean => row.origin === 'decided';
const isMeant = (row: RedirectRow, answer: BulkAnswer): boolean =>
  answer === 'removed' ? isSettled(row) : isOpen(row);

export const isOpen = (row: RedirectRow): boolean => row.origin === 'open' && row.kind !== 'noise';

/** Folders, and programs with their queries, that at least two addresses share that an answer would concern; the largest first. */
export function listBranches(rows: readonly RedirectRow[], answer: BulkAnswer = 'suggested'): Branch[] {
  const counts = new Map<string, number>();
  for (const row of rows) {
    if (!isMeant(row, answer)) continue;
    for (const path of listBeginnings(row.from)) counts.set(path, (counts.get(path) ?? 0) + 1);
  }
  return [...counts]
    .filter(([, open]) => open > 1)
    .map(([path, open]) => ({ path, open }))
    .sort((a, b) => b.open - a.open || (a.path < b.path ? -1 : 1))
    .slice(0, 200);
}

function listBeginnings(address: string): string[] {
  const [path = '', query] = address.split('?', 2);
  const folders = path.split('/').slice(1, -1);
  const out = folders.map((_, at) => `/${folders.slice(0, at + 1).join('/')}/`);
  return query === undefined ? out : [...out, `${path}?`];
}

/** Those the choice concerns, most visits first as they come. */
export function filterConcerned(rows: readonly RedirectRow[], { branch, answer, least }: BulkChoice): RedirectRow[] {
  return rows.filter(
    (row) =>
      isMeant(row, answer) &&
      row.from.startsWith(branch) &&
      (answer !== 'suggested' || (row.suggestion !== null && row.suggestion.probability >= least)),
  );
}

type Settling = Extract<DecisionRequest, { kind: 'redirects' }>['settle'];

export function prepareBulkDecision(
  rows: readonly RedirectRow[],
  answer: BulkAnswer,
  home: string | undefined,
): DecisionRequest {
  if (answer === 'removed')
    return {
      kind: 'remove',
      thing: { kind: 'redirects', froms: rows.map(({ from }) => from), patterns: [] },
      standIn: { kind: 'none' },
      links: 'kept',
      why: '',
      newHome: null,
    };
  const settle = rows.flatMap((row): Settling => {
    if (answer === 'gone') return [{ from: row.from, to: { status: 410 } }];
    const target =
      answer === 'home'
        ? home === undefined
          ? undefined
          : { kind: 'home' as const }
        : findSuggestedTarget(row.suggestion);
    return target ? [{ from: row.from, to: { status: 301, target } }] : [];
  });
  return { kind: 'redirects', settle, remove: [] };
}
