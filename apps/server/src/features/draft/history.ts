/** A site's decisions, read back. */
import { foldDecisions, type Decision, type Draft, type RecordedDecision } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';

export interface SiteState {
  readonly id: string;
  readonly name: string;
  readonly hostName: string;
  readonly version: number;
  readonly currentImport: string | null;
  readonly liveRelease: string | null;
}

/** @param lock held to the end of the transaction against others who ask for it, but not against rows that only belong to the site */
export async function siteState(queries: Queries, site: string, lock?: 'locked'): Promise<SiteState> {
  return queries.one<SiteState & Record<string, unknown>>(
    `select id, name, host_name as "hostName", version, current_import as "currentImport", live_release as "liveRelease"
       from site where id = $1 ${lock ? 'for no key update' : ''}`,
    [site],
  );
}

/** Decisions in order; they were validated when recorded, and nothing changes them afterwards. */
export async function history(queries: Queries, site: string): Promise<RecordedDecision[]> {
  const rows = await queries.many<{ seq: number; body: Decision }>(
    'select seq, body from decision where site_id = $1 order by seq',
    [site],
  );
  return rows.map(({ seq, body }) => ({ seq, decision: body }));
}

/** The draft as it stood after the first `version` decisions. */
export function draftAt(decisions: readonly RecordedDecision[], version: number): Draft {
  return foldDecisions(decisions.filter(({ seq }) => seq <= version));
}
