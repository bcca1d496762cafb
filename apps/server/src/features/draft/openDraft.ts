/** The draft as it stands, for reading. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { draftAt, history, siteState } from './history.ts';
import { situationOf, type Situation } from './prepare/situation.ts';

export async function openDraft(queries: Queries, site: string) {
  const { currentImport: importId, version } = await siteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const decisions = await history(queries, site);
  return { importId, version, decisions, draft: draftAt(decisions, Infinity) };
}

/** The same as if a decision were to be made on it. */
export async function situationNow(deps: Deps, site: string): Promise<Situation> {
  return situationOf(deps.db, deps, site, await siteState(deps.db, site));
}
