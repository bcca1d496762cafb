/** The site's menus as the draft has them, and the pages where a menu differs. */
import type { MenuRow } from '@fastigium/contracts/api/pages';
import type { MenuItemRequest } from '@fastigium/contracts/decisions/lists';
import { DomainError } from '@fastigium/contracts/errors';
import type { KeptApart } from '@fastigium/core/menus';
import { draftAddress, labelOf } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { latestDraft, siteState } from './history.ts';
import { listedPages } from './listedPages.ts';
import { menuName } from './menuNames.ts';
import { foundMenus, itemsOf, pagesOfItems } from './menus.ts';
import { titleEndings } from './prepare/situation.ts';

export async function menuRows(
  deps: Deps,
  site: string,
): Promise<{ version: number; menus: MenuRow[]; apart: (KeptApart & { labels: string[] })[] }> {
  const { db } = deps;
  const { currentImport: importId, version } = await siteState(db, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await latestDraft(db, site);
  const { menus, apart } = await foundMenus(db, importId);
  const pageAt = await pagesOfItems(db, importId, menus);
  const bySource = new Map((await listedPages(db, importId, draft)).map((page) => [page.sourcePath, page]));
  const endings = await titleEndings(db, importId);
  return {
    version,
    apart: apart.map((each) => ({ ...each, labels: [...each.labels] })),
    menus: menus.map((menu) => {
      const decided = draft.menus.get(menu.id);
      return {
        id: menu.id,
        name: menuName(menu, menus),
        way: menu.way,
        isPointed: menu.isPointed === true,
        isEdited: decided !== undefined,
        whereItDiffers: decided?.whereItDiffers ?? false,
        pages: menu.pages.length,
        items: [...itemsOf(draft, menu, pageAt)] as MenuItemRequest[],
        differing: menu.differing.slice(0, 200).flatMap(({ page: path, missing, extra }) => {
          const page = bySource.get(path);
          return page
            ? [
                {
                  id: page.id,
                  title: labelOf(draft.titles.get(page.id) ?? page.title ?? '', endings),
                  address: draftAddress(draft, page),
                  missing: [...missing],
                  extra: [...extra],
                },
              ]
            : [];
        }),
      };
    }),
  };
}
