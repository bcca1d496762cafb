/** The site's menus as the draft has them, and the pages where a menu differs. */
import type { MenuRow } from '@fastigium/contracts/api/pages';
import type { MenuItemRequest } from '@fastigium/contracts/decisions/lists';
import { DomainError } from '@fastigium/contracts/errors';
import type { KeptApart } from '@fastigium/core/menus';
import { findDraftAddress, labelTitle } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { readListedPages } from './listedPages.ts';
import { nameMenu } from './menuNames.ts';
import { readFoundMenus, findMenuItems, readPagesOfItems } from './menus.ts';
import { readTitleEndings } from './prepare/situation.ts';

export async function readMenuRows(
  deps: Deps,
  site: string,
): Promise<{ version: number; menus: MenuRow[]; apart: (KeptApart & { labels: string[] })[] }> {
  const { db } = deps;
  const { currentImport: importId, version } = await readSiteState(db, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await readLatestDraft(db, site);
  const { menus, apart } = await readFoundMenus(db, importId);
  const pageAt = await readPagesOfItems(db, importId, menus);
  const bySource = new Map((await readListedPages(db, importId, draft)).map((page) => [page.sourcePath, page]));
  const endings = await readTitleEndings(db, importId);
  return {
    version,
    apart: apart.map((each) => ({ ...each, labels: [...each.labels] })),
    menus: menus.map((menu) => {
      const decided = draft.menus.get(menu.id);
      return {
        id: menu.id,
        name: nameMenu(menu, menus),
        way: menu.way,
        isPointed: menu.isPointed === true,
        isEdited: decided !== undefined,
        whereItDiffers: decided?.whereItDiffers ?? false,
        pages: menu.pages.length,
        items: [...findMenuItems(draft, menu, pageAt)] as MenuItemRequest[],
        differing: menu.differing.slice(0, 200).flatMap(({ page: path, missing, extra }) => {
          const page = bySource.get(path);
          return page
            ? [
                {
                  id: page.id,
                  title: labelTitle(draft.titles.get(page.id) ?? page.title ?? '', endings),
                  address: findDraftAddress(draft, page),
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
