/** A row of the page tree for tests: a page that nothing special is said of, with what a test says of it. */
import type { PageRow } from '@fastigium/contracts/api/draft';

export const createPageRow = (id: string, more: Partial<PageRow> = {}): PageRow => ({
  id,
  kind: 'page',
  sourcePath: `${id}.html`,
  address: `/${id}/`,
  depth: 0,
  parent: null,
  title: id,
  label: id,
  importedTitle: null,
  language: 'en',
  isHome: false,
  isAdded: false,
  isReady: true,
  inMenus: true,
  menus: [],
  menuWords: [],
  date: null,
  lists: null,
  touches: 0,
  state: 'live',
  linksIn: 1,
  textOf: null,
  ...more,
});
