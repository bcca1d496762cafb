/** Where last year's visits to old addresses land. */
import type { RedirectRow } from '@fastigium/contracts/api/draft';

export interface Coverage {
  readonly landing: number;
  readonly gone: number;
  readonly lost: number;
  readonly visits: number;
}

/** Without visits every address counts once, so that the bar still says something true. */
export function coverage(rows: readonly RedirectRow[]): Coverage {
  const known = rows.some(({ visits }) => visits !== null);
  const sum = { landing: 0, gone: 0, lost: 0 };
  for (const row of rows) {
    const weight = known ? (row.visits ?? 0) : 1;
    if (row.status === 410) sum.gone += weight;
    else if (row.origin === 'open') sum.lost += weight;
    else sum.landing += weight;
  }
  return { ...sum, visits: sum.landing + sum.gone + sum.lost };
}
