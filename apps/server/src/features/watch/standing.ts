/** What the frame says of the days after. */
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { findAddressOfFile, splitAddress } from '@fastigium/core/address';
import { decide, indexRules, type Rule } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readAlerts } from './alerts.ts';
import type { Part } from '@fastigium/core/messages';

interface DraftSide {
  readonly rules: readonly Rule[];
  readonly basePath: string;
  readonly importId: string | null;
  /** Of pages that were given another one than they came with. */
  readonly addresses: readonly string[];
}

/** Without compiling: an address counts as found where a page of the draft has it or a rule answers it. */
export async function watchStanding(
  deps: Deps,
  db: Queries,
  site: string,
  { rules, basePath, importId, addresses }: DraftSide,
): Promise<SiteOverview['watch']> {
  const log = await db.maybeOne<{ readAt: Date | null; problem: Part | null }>(
    'select read_at as "readAt", problem from watched_log where site_id = $1',
    [site],
  );
  const asked = await db.many<{ address: string }>(
    `select v.address from visit_address v join old_address o using (site_id, address) where v.site_id = $1 and v.outcome = 'lost' and o.kind <> 'noise' group by v.address having sum(v.visits) > 0`,
    [site],
  );
  const standing = {
    alerts: (await readAlerts(deps, db, site)).map(({ kind, weight, message }) => ({ kind, weight, message })),
    readAt: log?.readAt?.toISOString() ?? null,
    problem: log?.problem ?? null,
  };
  if (asked.length === 0) return { lost: 0, ...standing };
  const known = new Set(addresses);
  const files = new Set(
    (await db.many<{ path: string }>('select path from source_file where import_id = $1', [importId])).map(
      ({ path }) => basePath + findAddressOfFile(path),
    ),
  );
  const index = indexRules(rules);
  const isFound = (address: string) => {
    const split = splitAddress(address);
    return (
      known.has(split.path) || files.has(split.path) || decide(split, { has: () => false }, index).kind !== 'missing'
    );
  };
  return { lost: asked.filter(({ address }) => !isFound(address)).length, ...standing };
}
