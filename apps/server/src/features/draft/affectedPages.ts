/** The pages that have to be compiled again between two drafts of the same import. */
import type { MenuPlan } from '@fastigium/core/release';
import { findAffected, isAdded, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { MenusInDraft } from './menus.ts';
import { readPagesAt, readPagesById, readPagesLinkingTo, type SourcePage } from './pageFiles.ts';

export async function readAffectedPages(
  tx: Queries,
  importId: string,
  before: Draft,
  after: Draft,
  menus: { before: MenusInDraft; after: MenusInDraft },
): Promise<Map<string, SourcePage>> {
  const affected = findAffected(before, after);
  const both = mergeDrafts(before, after);
  const ids = new Set(affected.pages);
  for (const page of await readTouchedPages(tx, importId, before, after, affected.touches)) ids.add(page);
  const pages = await readPagesById(tx, importId, both, ids);
  const moved = await readPagesById(tx, importId, withRemoved(both), affected.moved);
  const paths = [
    ...[...moved.values()].filter(({ id }) => !isAdded(both, id)).map(({ sourcePath }) => sourcePath),
    ...affected.files,
  ];
  const more = [
    ...(await readPagesLinkingTo(tx, importId, both, paths)),
    ...(await readPagesInMenus(tx, importId, both, menus)),
  ];
  // Touches lead to pages by reference; where such a page moved, they are written anew.
  const leading = [...after.touches]
    .filter(
      ([, touch]) => touch.kind === 'link' && touch.target?.kind === 'page' && affected.moved.has(touch.target.page),
    )
    .map(([seq]) => seq);
  more.push(
    ...(
      await readPagesById(tx, importId, both, await readTouchedPages(tx, importId, before, after, new Set(leading)))
    ).values(),
  );
  for (const page of more) pages.set(page.id, page);
  return pages;
}

/** Everything that either draft has, so that what is gone is found as well as what is new. */
function mergeDrafts(before: Draft, after: Draft): Draft {
  const stillOut = new Map([...after.removed].filter(([id]) => before.removed.has(id)));
  return { ...after, nodes: new Map([...before.nodes, ...after.nodes]), removed: stillOut };
}

/** Touches of one page say it in their scope; where the others stand was found when they were made. */
async function readTouchedPages(
  tx: Queries,
  importId: string,
  before: Draft,
  after: Draft,
  touches: ReadonlySet<number>,
): Promise<string[]> {
  const out: string[] = [];
  const wide: number[] = [];
  for (const seq of touches) {
    const scope = (after.touches.get(seq) ?? before.touches.get(seq))?.scope;
    if (scope?.kind === 'page') out.push(scope.page);
    else if (scope) wide.push(seq);
  }
  if (wide.length === 0) return out;
  const rows = await tx.many<{ page: string }>(
    'select distinct page_id as page from touch_place where import_id = $1 and seq = any($2)',
    [importId, wide],
  );
  return [...out, ...rows.map(({ page }) => page)];
}

/** Pages with a menu that is written differently in the two drafts. */
async function readPagesInMenus(
  tx: Queries,
  importId: string,
  both: Draft,
  menus: { before: MenusInDraft; after: MenusInDraft },
): Promise<SourcePage[]> {
  const differing = compareMenus(menus.before.plans, menus.after.plans);
  if (differing.length === 0) return [];
  const ids = new Set(differing.map(({ menu }) => menu));
  const known = menus.after.menus.length > 0 ? menus.after.menus : menus.before.menus;
  const paths = new Set<string>();
  for (const menu of known) {
    if (!ids.has(menu.id)) continue;
    for (const path of menu.pages) paths.add(path);
    for (const { page } of menu.differing) paths.add(page);
  }
  const added = [...both.nodes.keys()];
  return [
    ...(await readPagesAt(tx, importId, [...paths])),
    ...(await readPagesById(tx, importId, both, added)).values(),
  ];
}

function compareMenus(before: readonly MenuPlan[], after: readonly MenuPlan[]): MenuPlan[] {
  const old = new Map(before.map((plan) => [plan.menu, plan]));
  const now = new Map(after.map((plan) => [plan.menu, plan]));
  return [...new Map([...old, ...now])]
    .filter(([id]) => JSON.stringify(old.get(id)) !== JSON.stringify(now.get(id)))
    .map(([, plan]) => plan);
}
