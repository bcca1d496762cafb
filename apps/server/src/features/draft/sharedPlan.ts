/** What compiling any page of a draft needs to know of the others. */
import {
  findLinksToRemoved,
  findMovedAddresses,
  findSiteAddress,
  findStandInAddress,
  withRemoved,
  type Draft,
} from '@fastigium/core/site';
import type { PagePlan, SharedPlan } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import type { Heads } from './heads/heads.ts';
import { readAddresses, type MenusInDraft } from './menus.ts';
import { readAllPages, readPagesById, type SourcePage } from './pageFiles.ts';

export function withHead(plan: PagePlan, heads: Heads | undefined): PagePlan {
  return heads ? { ...plan, head: heads.of(plan.id, plan.after).plan } : plan;
}

export async function readSharedPlan(
  tx: Queries,
  importId: string,
  draft: Draft,
  menus: MenusInDraft,
): Promise<SharedPlan> {
  const moved =
    draft.style === 'imported'
      ? await readPagesById(tx, importId, draft, draft.addresses.keys())
      : await readAllPages(tx, importId, draft);
  const linked = [...draft.touches.values()].flatMap((touch) =>
    touch.kind === 'link' && touch.target?.kind === 'page' ? [touch.target.page] : [],
  );
  const linkedAddresses = await readAddresses(tx, importId, draft, linked);
  const away = await readPagesAway(tx, importId, draft);
  const { leadOn, unlinked } = findLinksToRemoved(draft, away);
  const ledOn = linked.flatMap((id) => {
    const removal = draft.removals.get(draft.removed.get(id) ?? 0);
    const to = removal?.links === 'lead-on' ? findStandInAddress(draft, removal, away) : undefined;
    return to === undefined ? [] : [[id, draft.basePath + to] as const];
  });
  return {
    basePath: draft.basePath,
    moves: new Map([...findMovedAddresses(draft, moved.values()), ...leadOn]),
    unlinked,
    pageAddresses: new Map([...menus.pageAddresses, ...linkedAddresses, ...ledOn]),
    menus: menus.plans,
  };
}

/** Pages that are removed, where links to them change, and those that stand in for them. */
async function readPagesAway(tx: Queries, importId: string, draft: Draft): Promise<Map<string, SourcePage>> {
  const ids = [...draft.removals.values()]
    .filter(({ links }) => links !== 'kept')
    .flatMap(({ left, standIn }) => [...left, ...(standIn.kind === 'page' ? [standIn.page] : [])]);
  return readPagesById(tx, importId, withRemoved(draft), ids);
}

/** Addresses of the pages that branches begin at; also of removed ones, since what they held stays. */
export async function readBranchAddresses(
  tx: Queries,
  importId: string,
  draft: Draft,
): Promise<(page: string) => string | undefined> {
  const roots = [...draft.touches.values()].flatMap(({ scope }) => (scope.kind === 'branch' ? [scope.page] : []));
  const pages = await readPagesById(tx, importId, withRemoved(draft), roots);
  return (id) => {
    const page = pages.get(id);
    return page && findSiteAddress(draft, page);
  };
}
