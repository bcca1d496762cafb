/** Touches as people see them: what each does, where it stands, and whether its place is still there. */
import { where } from '@fastigium/contracts/messages/names';
import type { Message } from '@fastigium/core/messages';
import type { TouchPlaces, TouchRow } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, isUnder } from '@fastigium/core/address';
import { findDraftAddress, labelTitle, findSiteAddress, type Draft } from '@fastigium/core/site';
import type { Scope, Touch } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { readListedPages } from './listedPages.ts';
import { readAllPages, readPagesById } from './pageFiles.ts';
import { readTitleEndings } from './prepare/situation.ts';
import { describeTouch } from './prepare/touches.ts';
import { readStylesShowing } from './plainFiles.ts';
import { findTouchPlaces, findPagesInScope } from './touchPlaces.ts';

async function openSite(
  queries: Queries,
  site: string,
): Promise<{ importId: string; draft: Draft; nameOf: (id: string) => string }> {
  const { currentImport: importId } = await readSiteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await readLatestDraft(queries, site);
  const pages = new Map((await readListedPages(queries, importId, draft)).map((page) => [page.id, page]));
  const endings = await readTitleEndings(queries, importId);
  return { importId, draft, nameOf: (id) => labelTitle(draft.titles.get(id) ?? pages.get(id)?.title ?? '', endings) };
}

export async function readTouchRows(deps: Deps, site: string): Promise<TouchRow[]> {
  const { importId, draft, nameOf } = await openSite(deps.db, site);
  const seqs = [...draft.touches.keys()].filter(Number.isInteger);
  const places = new Map(
    (
      await deps.db.many<{ seq: number; places: number; pages: number; changed: boolean }>(
        `select seq, sum(places)::int as places, count(*)::int as pages, bool_or(changed) as changed from touch_place where import_id = $1 and seq = any($2) group by seq`,
        [importId, seqs],
      )
    ).map((row) => [row.seq, row]),
  );
  const made = new Map(
    (
      await deps.db.many<{ seq: number; by: string; at: Date }>(
        'select d.seq, p.name as by, d.at from decision d join person p on p.id = d.by where d.site_id = $1 and d.seq = any($2)',
        [site, seqs],
      )
    ).map((row) => [row.seq, row]),
  );
  return seqs
    .flatMap((seq) => {
      const touch = draft.touches.get(seq);
      const by = made.get(seq);
      if (!touch || !by) return [];
      const place = places.get(seq);
      return [
        {
          seq,
          message: describeTouch(touch),
          kind: touch.kind,
          where: placeOf(touch.scope, nameOf),
          page: touch.scope.kind === 'everywhere' ? null : touch.scope.page,
          places: place?.places ?? 0,
          pages: place?.pages ?? 0,
          state:
            (place?.places ?? 0) > 0 ? ('done' as const) : place?.changed ? ('changed' as const) : ('waiting' as const),
          by: by.by,
          at: by.at.toISOString(),
        },
      ];
    })
    .sort((a, b) => b.seq - a.seq);
}

function placeOf(scope: Scope, nameOf: (id: string) => string): Message {
  return scope.kind === 'everywhere'
    ? where('everywhere')
    : where(scope.kind === 'page' ? 'page-named' : 'branch-named', { name: nameOf(scope.page) });
}

/** What each answer to the scope question would change. */
export async function readTouchPlaces(deps: Deps, site: string, page: string, touch: Touch): Promise<TouchPlaces> {
  const { importId, draft, nameOf } = await openSite(deps.db, site);
  const ownPage = (await readPagesById(deps.db, importId, draft, [page])).get(page);
  if (!ownPage) throw new DomainError('not-found', { what: 'page' });
  const everywhere: Touch = { ...touch, scope: { kind: 'everywhere' } };
  const pages = findPagesInScope(await readAllPages(deps.db, importId, draft), draft, everywhere);
  const found = await findTouchPlaces(deps, pages, everywhere);
  const branch = findSiteAddress(draft, ownPage);
  const rows = found
    .filter(({ places }) => places > 0)
    .map(({ page: each, places }) => ({
      id: each.id,
      title: nameOf(each.id),
      address: findDraftAddress(draft, each),
      places,
      inBranch: branch !== '/' && isUnder(findSiteAddress(draft, each), branch),
    }));
  const sum = (list: typeof rows) => list.reduce((total, { places }) => total + places, 0);
  return {
    page: 1,
    branch: sum(rows.filter(({ inBranch }) => inBranch)),
    everywhere: sum(rows),
    places: rows.slice(0, 200),
    styles:
      touch.kind === 'picture'
        ? (await readStylesShowing(deps.db, importId, draft, [touch.from])).map(
            ({ path }) => draft.basePath + findAddressOfFile(path),
          )
        : [],
  };
}
