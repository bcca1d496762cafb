/** Menus: edited as a whole, each item leading to something that is there. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { walkItems, withRemovedItems, type MenuItem } from '@fastigium/core/menus';
import { readImportedItems } from '@fastigium/core/release';
import { withRemoved } from '@fastigium/core/site';
import { nameMenu } from '../menuNames.ts';
import { readPagesOfItems, readSiteMenus } from '../menus.ts';
import { readPagesById } from '../pageFiles.ts';
import type { Prepared, Situation } from './situation.ts';
import { refuseNoListing } from './listings.ts';

export async function prepareMenu(
  situation: Situation,
  request: Extract<DecisionRequest, { kind: 'menu' }>,
): Promise<Prepared> {
  const { tx, importId, draft } = situation;
  const menus = await readSiteMenus(tx, importId);
  const menu = menus.find(({ id }) => id === request.menu);
  if (!menu) throw new DomainError('menu-unknown');
  const former =
    draft.menus.get(menu.id)?.items ?? readImportedItems(menu, await readPagesOfItems(tx, importId, menus));
  const marks = new Set([...walkItems(former)].flatMap(({ removed }) => removed ?? []));
  // A mark that this menu does not have was undone while somebody worked on it.
  const items = withRemovedItems(former, withoutForeign(request.items as readonly MenuItem[], marks));
  const all = [...walkItems(items)];
  // An item may lead to a removed page: it shows again when the page does.
  const pages = await readPagesById(
    tx,
    importId,
    withRemoved(draft),
    all.flatMap(({ target }) => (target.kind === 'page' ? [target.page] : [])),
  );
  for (const { target, label } of all)
    if (target.kind === 'page' && !pages.has(target.page)) throw new DomainError('menu-page-gone', { label });
  for (const { target } of all) refuseNoListing(draft, target);
  return {
    decision: { kind: 'menu', menu: menu.id, items, whereItDiffers: request.whereItDiffers },
    message: decided('menu-set', {
      menu: nameMenu(menu, menus),
      items: items.filter(({ removed }) => removed === undefined).map(({ label }) => label),
    }),
  };
}

function withoutForeign(items: readonly MenuItem[], marks: ReadonlySet<number>): MenuItem[] {
  return items.map(({ removed, ...item }) => ({
    ...item,
    children: withoutForeign(item.children, marks),
    ...(removed !== undefined && marks.has(removed) ? { removed } : {}),
  }));
}

export async function prepareMenuRemoved({ tx, importId, draft }: Situation, id: string): Promise<Prepared> {
  const menus = await readSiteMenus(tx, importId);
  const menu = menus.find((each) => each.id === id);
  if (!menu || !draft.menus.has(id)) throw new DomainError('menu-unknown');
  return {
    decision: { kind: 'menu-removed', menu: id },
    message: decided('menu-reset', { menu: nameMenu(menu, menus) }),
  };
}
