/** Putting a site on an import, as it was planned, in one short transaction. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readSiteState } from '../draft/history.ts';
import { recordDecisions } from '../draft/record.ts';
import { keepTouchPlaces } from '../draft/touchPlaces.ts';
import { clearImport } from './clearImport.ts';
import {
  readFormerPages,
  planImport,
  type Chosen,
  type ImportPlan,
  type KeptPage,
  type PagesPlan,
} from './planImport.ts';

const MOST_TRIES = 5;

/**
 * @param chosen for a newer export: who applies it, and how its conflicts are settled; those left open wait as touches do
 * @returns the version of the draft
 */
export async function applyImport(
  deps: Deps,
  site: string,
  importId: string,
  chosen: Chosen | undefined,
): Promise<number> {
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    const version = await applyPlanned(deps, site, await planImport(deps, site, importId, chosen));
    if (version !== undefined) return version;
    // Whoever chose has to see what was decided meanwhile.
    if (chosen) break;
  }
  throw new DomainError('draft-stale');
}

/** @returns undefined where the site is not any more what the plan was made on */
async function applyPlanned(deps: Deps, site: string, plan: ImportPlan): Promise<number | undefined> {
  const { importId, by } = plan;
  return deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.version !== plan.version || state.currentImport !== plan.currentImport) return undefined;
    if (!(await keepPages(tx, site, importId, plan.pages))) return undefined;
    await keepRemoved(tx, site, plan.removed);
    const applied = await tx.run(
      `update import set state = 'applied', applied_at = now() where id = $1 and state in ('reading', 'reviewing')`,
      [importId],
    );
    if (applied === 0) throw new DomainError('no-review');
    await tx.run('update site set current_import = $2 where id = $1', [site, importId]);
    for (const { seq, found } of plan.places) await keepTouchPlaces(tx, site, importId, seq, found);
    return recordDecisions(tx, state, by, plan.steps);
  });
}

/** @returns whether pages that come back are still those that were dropped, and not removed for good since */
async function keepPages(
  tx: Queries,
  site: string,
  importId: string,
  { byPath, fresh, former }: PagesPlan,
): Promise<boolean> {
  const stillThere = await readFormerPages(tx, site, [...former.keys()]);
  if ([...former].some(([path, id]) => stillThere.get(path) !== id)) return false;
  await tx.run(
    'insert into page (id, site_id, source_path) select k.id, $1, k.path from unnest($2::uuid[], $3::text[]) as k(id, path)',
    [site, [...fresh.values()], [...fresh.keys()]],
  );
  const pages = [[...byPath.values()], [...byPath.keys()]];
  await tx.run(
    'update page p set source_path = k.path from unnest($1::uuid[], $2::text[]) as k(id, path) where p.id = k.id',
    pages,
  );
  await tx.run(
    'update source_file f set page_id = k.id from unnest($2::uuid[], $3::text[]) as k(id, path) where f.import_id = $1 and f.path = k.path',
    [importId, ...pages],
  );
  return true;
}

/** What was read in removed pages that the newer export has no more; their sources stay as contents. */
async function keepRemoved(tx: Queries, site: string, kept: readonly KeptPage[]): Promise<void> {
  await tx.run(
    `insert into added_page (site_id, page_id, title, language, description, headings, dated, own_head, lead)
     select $1, k.id, r.title, r.language, r.description, r.headings, r.dated, coalesce(r.own_head, '[]'), coalesce(r.lead, '')
       from unnest($2::uuid[], $3::uuid[], $4::text[]) as k(id, import_id, path) join file_reading r using (import_id, path) on conflict (page_id) do nothing`,
    [site, kept.map(({ id }) => id), kept.map((page) => page.import), kept.map(({ path }) => path)],
  );
}

export async function dropReview(deps: Deps, site: string): Promise<void> {
  const dropped = await deps.db.maybeOne<{ id: string }>(
    `update import set state = 'dropped' where site_id = $1 and state = 'reviewing' returning id`,
    [site],
  );
  if (!dropped) throw new DomainError('no-review');
  await clearImport(deps, dropped.id);
}
