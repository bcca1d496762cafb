/** Where visits to old addresses land, by the draft or by what a proof found. */
import type { ProofRow } from '@fastigium/contracts/api/redirectProof';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';

export interface Coverage {
  /** On a page of the new site that takes its place. */
  readonly landing: number;
  /** On the home page, since nothing takes its place. */
  readonly home: number;
  readonly gone: number;
  /** Nobody decided yet, but a page is likely. */
  readonly suggested: number;
  readonly lost: number;
  /** All of them: visits, or addresses where no visits are known. */
  readonly visits: number;
  readonly hasVisits: boolean;
}

/** From here on a suggestion counts as likely. */
export const LIKELY = 0.5;
/** From here on it is taken in bulk without being looked at one by one. */
export const SURE = 0.9;
/** Search engines take a redirect to the home page for an error where most pages are sent there (common practice, no source). */
export const MUCH_HOME = 0.15;

type Counted = Pick<RedirectRow, 'kind' | 'visits' | 'origin' | 'end' | 'suggestion'>;

/** Without visits every address counts once, so that the bar still says something true. Noise counts nowhere. */
export function reckonCoverage(rows: readonly Counted[]): Coverage {
  // Both in one go over what may be fifty thousand rows.
  const [byVisits, byAddress] = [
    { landing: 0, home: 0, gone: 0, suggested: 0, lost: 0 },
    { landing: 0, home: 0, gone: 0, suggested: 0, lost: 0 },
  ];
  let hasVisits = false;
  for (const row of rows) {
    if (row.kind === 'noise') continue;
    const part = judgePart(row);
    byAddress[part] += 1;
    if (row.visits === null) continue;
    hasVisits = true;
    byVisits[part] += row.visits;
  }
  const sum = hasVisits ? byVisits : byAddress;
  return { ...sum, hasVisits, visits: sum.landing + sum.home + sum.gone + sum.suggested + sum.lost };
}

function judgePart({ end, origin, suggestion }: Counted): 'landing' | 'home' | 'gone' | 'suggested' | 'lost' {
  if (end === 'gone') return 'gone';
  if (origin === 'open') return (suggestion?.probability ?? 0) >= LIKELY ? 'suggested' : 'lost';
  if (end === 'missing' || end === 'loop') return 'lost';
  return end === 'home' && origin !== 'page' ? 'home' : 'landing';
}

/** Of a proof: from outside a suggestion is nothing yet, so what is suggested is lost. */
export function reckonProvedCoverage(rows: readonly ProofRow[], asked: 'draft' | 'live'): Coverage {
  return reckonCoverage(
    rows.flatMap((row) => {
      const way = asked === 'draft' ? row.draft : row.live;
      if (!way) return [];
      const end = way.end === 'unasked' ? 'missing' : way.end;
      const answered = way.hops.length === 1 && (end === 'page' || end === 'home') ? 'page' : 'decided';
      return [
        {
          kind: 'page' as const,
          visits: row.visits,
          origin: end === 'missing' ? ('open' as const) : answered,
          end,
          suggestion: null,
        },
      ];
    }),
  );
}
