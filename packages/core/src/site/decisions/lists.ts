/** What lists pages: menus and listings. */
import type { MenuItem } from '../../menus/index.ts';
import type { PageId } from '../pageId.ts';
import type { KindsOf } from './kind.ts';

export type ListDecision =
  | {
      readonly kind: 'menu';
      readonly menu: string;
      readonly items: readonly MenuItem[];
      /** Written also where a page has another list in its place. */
      readonly whereItDiffers: boolean;
    }
  /** Back to the menu as it was imported. */
  | { readonly kind: 'menu-removed'; readonly menu: string }
  | { readonly kind: 'listing'; readonly page: PageId; readonly perPage: number }
  | { readonly kind: 'listing-removed'; readonly page: PageId };

const listMenuSubjects = ({ menu }: { readonly menu: string }) => [`menu ${menu}`];
const listListingSubjects = ({ page }: { readonly page: PageId }) => [`listing ${page}`];

export const listKinds: KindsOf<ListDecision> = {
  menu: {
    subjects: listMenuSubjects,
    apply: (draft, { menu, items, whereItDiffers }) => draft.menus.set(menu, { items, whereItDiffers }),
  },
  'menu-removed': { subjects: listMenuSubjects, apply: (draft, { menu }) => draft.menus.delete(menu) },
  listing: {
    subjects: listListingSubjects,
    apply: (draft, { page, perPage }) => draft.listings.set(page, { perPage }),
  },
  'listing-removed': { subjects: listListingSubjects, apply: (draft, { page }) => draft.listings.delete(page) },
};
