/** The draft as it stands, for reading. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { foldDraftAt, readHistory, readSiteState } from './history.ts';
import { readSituation, type Situation } from './prepare/situation.ts';

export async function openDraft(queries: Queries, site: string) {
  const { currentImport: importId, version } = await readSiteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const decisions = await readHistory(queries, site);
  return { importId, version, decisions, draft: foldDraftAt(decisions, Infinity) };
}

/** The same as if a decision were to be made on it. */
export async function readSituationNow(deps: Deps, site: string): Promise<Situation> {
  return readSituation(deps.db, deps, site, await readSiteState(deps.db, site));
}
