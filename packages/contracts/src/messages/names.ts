/** What things and places are called in the middle of other messages. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

/** Menus, by where they stand; several in one place by their first item, and by their order where that is one too. */
export const menu = defineMessages('menu', {
  main: {},
  foot: {},
  side: {},
  other: {},
  'beginning-with': { menu: 'message', first: 'text' },
  nth: { menu: 'message', nth: 'number' },
});

export type MenuMessage = MessageOf<typeof menu>;

/** Where in the site something holds. */
export const where = defineMessages('where', {
  site: {},
  pages: { count: 'number' },
  branch: { address: 'text' },
  page: { address: 'text' },
  /** As the object of a sentence. */
  'the-site': {},
  'page-and-below': { name: 'text' },
  everywhere: {},
  'page-named': { name: 'text' },
  'branch-named': { name: 'text' },
});

/** What is or was removed. */
export const thing = defineMessages('thing', {
  named: { label: 'text' },
  pages: {},
  section: { label: 'text' },
  'section-of': { label: 'text', page: 'text' },
  file: { address: 'text' },
  'menu-item': { label: 'text' },
  'item-of-menu': { label: 'text', menu: 'message' },
  redirect: { label: 'text' },
  'a-pattern': {},
  redirects: { count: 'number' },
});
