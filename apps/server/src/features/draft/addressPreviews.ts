/** What moves when a page gets another address, or the whole site another style; the same reckoning as deciding it. */
import type { AddressPreview } from '@fastigium/contracts/api/pages';
import { findDraftAddress, foldDecisions, isAdded, labelTitle, type Decision, type Draft } from '@fastigium/core/site';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readSiteState } from './history.ts';
import { readAllPages, readPagesLinkingTo } from './pageFiles.ts';
import { readSituation, readTitleEndings, readTitle, type Situation } from './prepare/situation.ts';
import { prepareRename, prepareStyle } from './prepare/tree.ts';

const MOST_SHOWN = 200;

export async function previewAddresses(
  deps: Deps,
  site: string,
  request: Extract<DecisionRequest, { kind: 'rename' | 'address-style' }>,
): Promise<AddressPreview> {
  const situation = await readSituation(deps.db, deps, site, await readSiteState(deps.db, site));
  const { decision } =
    request.kind === 'rename' ? await prepareRename(situation, request) : await prepareStyle(situation, request);
  return findMoves(deps.db, situation, decision);
}

async function findMoves(queries: Queries, situation: Situation, decision: Decision): Promise<AddressPreview> {
  const { draft, importId } = situation;
  const after: Draft = foldDecisions([...situation.decisions, { seq: situation.seq, decision }]);
  const endings = await readTitleEndings(queries, importId);
  const pages = [...(await readAllPages(queries, importId, after)).values()];
  const moved = pages.filter((page) => findDraftAddress(draft, page) !== findDraftAddress(after, page));
  const linking = await readPagesLinkingTo(
    queries,
    importId,
    after,
    moved.filter(({ id }) => !isAdded(after, id)).map(({ sourcePath }) => sourcePath),
  );
  const moves = await Promise.all(
    moved.slice(0, MOST_SHOWN).map(async (page) => ({
      id: page.id,
      title: labelTitle(await readTitle(situation, page), endings),
      from: findDraftAddress(draft, page),
      to: findDraftAddress(after, page),
    })),
  );
  return { moves, movesInAll: moved.length, linkingPages: new Set(linking.map(({ id }) => id)).size };
}
