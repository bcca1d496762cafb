/** What compiling any page of a draft needs to know of the others. */
import {
  linksToRemoved,
  movedAddresses,
  siteAddress,
  standInAddress,
  withRemoved,
  type Draft,
} from '@fastigium/core/site';
import type { PagePlan, SharedPlan } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import type { Heads } from './heads/heads.ts';
import { addressesOf, type MenusInDraft } from './menus.ts';
import { allPages, pagesById, type SourcePage } from './pageFiles.ts';

export function withHead(plan: PagePlan, heads: Heads | undefined): PagePlan {
  return heads ? { ...plan, head: heads.of(plan.id, plan.after).plan } : plan;
}

export async function sharedPlan(
  tx: Queries,
  importId: string,
  draft: Draft,
  menus: MenusInDraft,
): Promise<SharedPlan> {
  const moved =
    draft.style === 'imported'
      ? await pagesById(tx, importId, draft, draft.addresses.keys())
      : await allPages(tx, importId, draft);
  const linked = [...draft.touches.values()].flatMap((touch) =>
    touch.kind === 'link' && touch.target?.kind === 'page' ? [touch.target.page] : [],
  );
  const linkedAddresses = await addressesOf(tx, importId, draft, linked);
  const away = await pagesAway(tx, importId, draft);
  const { leadOn, unlinked } = linksToRemoved(draft, away);
  const ledOn = linked.flatMap((id) => {
    const removal = draft.removals.get(draft.removed.get(id) ?? 0);
    const to = removal?.links === 'lead-on' ? standInAddress(draft, removal, away) : undefined;
    return to === undefined ? [] : [[id, draft.basePath + to] as const];
  });
  return {
    basePath: draft.basePath,
    moves: new Map([...movedAddresses(draft, moved.values()), ...leadOn]),
    unlinked,
    pageAddresses: new Map([...menus.pageAddresses, ...linkedAddresses, ...ledOn]),
    menus: menus.plans,
  };
}

/** Pages that are removed, where links to them change, and those that stand in for them. */
async function pagesAway(tx: Queries, importId: string, draft: Draft): Promise<Map<string, SourcePage>> {
  const ids = [...draft.removals.values()]
    .filter(({ links }) => links !== 'kept')
    .flatMap(({ left, standIn }) => [...left, ...(standIn.kind === 'page' ? [standIn.page] : [])]);
  return pagesById(tx, importId, withRemoved(draft), ids);
}

/** Addresses of the pages that branches begin at; also of removed ones, since what they held stays. */
export async function branchAddresses(
  tx: Queries,
  importId: string,
  draft: Draft,
): Promise<(page: string) => string | undefined> {
  const roots = [...draft.touches.values()].flatMap(({ scope }) => (scope.kind === 'branch' ? [scope.page] : []));
  const pages = await pagesById(tx, importId, withRemoved(draft), roots);
  return (id) => {
    const page = pages.get(id);
    return page && siteAddress(draft, page);
  };
}
