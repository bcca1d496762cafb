/** Menus: edited as a whole, each item leading to something that is there. */
import type { DecisionRequest } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import { allItems, type MenuItem } from '@fastigium/core/menus';
import { menuName } from '../menuNames.ts';
import { siteMenus } from '../menus.ts';
import { pagesById } from '../pageFiles.ts';
import type { Prepared, Situation } from './situation.ts';

export async function prepareMenu(situation: Situation, request: Extract<DecisionRequest, { kind: 'menu' }>): Promise<Prepared> {
  const { tx, importId, draft } = situation;
  const menus = await siteMenus(tx, importId);
  const menu = menus.find(({ id }) => id === request.menu);
  if (!menu) throw new DomainError('menu-unknown');
  const items = request.items as readonly MenuItem[];
  const all = [...allItems(items)];
  const pages = await pagesById(tx, importId, draft, all.flatMap(({ target }) => (target.kind === 'page' ? [target.page] : [])));
  for (const { target, label } of all) if (target.kind === 'page' && !pages.has(target.page)) throw new DomainError('menu-page-gone', { label });
  return {
    decision: { kind: 'menu', menu: menu.id, items, whereItDiffers: request.whereItDiffers },
    words: `${menuName(menu, menus)} changed: ${items.map(({ label }) => label).join(', ')}`,
  };
}

export async function prepareMenuRemoved({ tx, importId, draft }: Situation, id: string): Promise<Prepared> {
  const menus = await siteMenus(tx, importId);
  const menu = menus.find((each) => each.id === id);
  if (!menu || !draft.menus.has(id)) throw new DomainError('menu-unknown');
  return { decision: { kind: 'menu-removed', menu: id }, words: `${menuName(menu, menus)} is as it was imported` };
}
