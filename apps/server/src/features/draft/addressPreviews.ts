/** What moves when a page gets another address, or the whole site another style; the same reckoning as deciding it. */
import type { AddressPreview } from '@fastigium/contracts/api/pages';
import { draftAddress, foldDecisions, isAdded, labelOf, type Decision, type Draft } from '@fastigium/core/site';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { siteState } from './history.ts';
import { allPages, pagesLinkingTo } from './pageFiles.ts';
import { situationOf, titleEndings, titleOf, type Situation } from './prepare/situation.ts';
import { prepareRename, prepareStyle } from './prepare/tree.ts';

const MOST_SHOWN = 200;

export async function previewAddresses(
  deps: Deps,
  site: string,
  request: Extract<DecisionRequest, { kind: 'rename' | 'address-style' }>,
): Promise<AddressPreview> {
  const situation = await situationOf(deps.db, deps, site, await siteState(deps.db, site));
  const { decision } =
    request.kind === 'rename' ? await prepareRename(situation, request) : await prepareStyle(situation, request);
  return movesBetween(deps.db, situation, decision);
}

async function movesBetween(queries: Queries, situation: Situation, decision: Decision): Promise<AddressPreview> {
  const { draft, importId } = situation;
  const after: Draft = foldDecisions([...situation.decisions, { seq: situation.seq, decision }]);
  const endings = await titleEndings(queries, importId);
  const pages = [...(await allPages(queries, importId, after)).values()];
  const moved = pages.filter((page) => draftAddress(draft, page) !== draftAddress(after, page));
  const linking = await pagesLinkingTo(
    queries,
    importId,
    after,
    moved.filter(({ id }) => !isAdded(after, id)).map(({ sourcePath }) => sourcePath),
  );
  const moves = await Promise.all(
    moved.slice(0, MOST_SHOWN).map(async (page) => ({
      id: page.id,
      title: labelOf(await titleOf(situation, page), endings),
      from: draftAddress(draft, page),
      to: draftAddress(after, page),
    })),
  );
  return { moves, movesInAll: moved.length, linkingPages: new Set(linking.map(({ id }) => id)).size };
}
