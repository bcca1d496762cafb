/** Choosing among removals and putting them in order. */
import { speak } from '../../../words/index.ts';
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { say } from '../words.ts';

export const SORTS = {
  newest: say('listing.newestFirst'),
  oldest: say('listing.oldestFirst'),
  name: say('listing.byName'),
  visits: say('listing.mostVisits'),
  kept: say('listing.soonestToGo'),
} as const;
export type SortBy = keyof typeof SORTS;

export function filterRemovals(
  rows: readonly RemovalRow[],
  { search, person, kind }: { readonly search: string; readonly person: string; readonly kind: string },
): RemovalRow[] {
  const wanted = search.trim().toLowerCase();
  return rows.filter(
    (row) =>
      (person === '' || row.by.id === person) &&
      (kind === '' || row.kind === kind) &&
      (wanted === '' ||
        `${row.label} ${row.address ?? ''} ${speak(row.from)} ${row.why} ${row.by.name}`
          .toLowerCase()
          .includes(wanted)),
  );
}

/** Those nothing is known of come last, whatever is asked. */
export function sortRemovals(rows: readonly RemovalRow[], by: SortBy): RemovalRow[] {
  const late = '9999';
  const compare: Readonly<Record<SortBy, (a: RemovalRow, b: RemovalRow) => number>> = {
    newest: (a, b) => b.of - a.of,
    oldest: (a, b) => a.of - b.of,
    name: (a, b) => a.label.localeCompare(b.label) || a.of - b.of,
    visits: (a, b) => (b.visits ?? -1) - (a.visits ?? -1) || b.of - a.of,
    kept: (a, b) =>
      (a.keptUntil ?? late) < (b.keptUntil ?? late)
        ? -1
        : (a.keptUntil ?? late) > (b.keptUntil ?? late)
          ? 1
          : a.of - b.of,
  };
  return [...rows].sort(compare[by]);
}
