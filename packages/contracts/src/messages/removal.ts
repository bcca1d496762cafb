/** Where removed things stood, what stands in for them, and what putting them back would change. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

/** Where something stood before it was removed. */
export const stood = defineMessages('stood', {
  'at-top': {},
  'nth-at-top': { nth: 'number' },
  under: { name: 'text' },
  'nth-under': { nth: 'number', name: 'text' },
  'in-page': { name: 'text' },
  'in-folder': { folder: 'text' },
  'at-root': {},
  'in-menu': { menu: 'message' },
  'in-lost-menu': {},
  'among-redirects': {},
});
export type StoodMessage = MessageOf<typeof stood>;

/** What visitors get at the addresses of removed things. */
export const standIn = defineMessages('stand-in', {
  nothing: {},
  gone: {},
  home: {},
  page: { name: 'text' },
});

/** A menu and what of it is meant. */
export const menuPart = defineMessages('menu-part', {
  items: { menu: 'part', items: 'series' },
});
export type MenuPartMessage = MessageOf<typeof menuPart>;

/** What putting back would change, a sentence each. */
export const puttingBack = defineMessages('putting-back', {
  page: { name: 'text' },
  'page-at': { name: 'text', address: 'text' },
  branch: { name: 'text', more: 'number' },
  thing: { thing: 'message' },
  'settled-otherwise': { from: 'text' },
  'stands-between': { place: 'message', before: 'text', behind: 'text' },
  'stands-behind': { place: 'message', before: 'text' },
  'stands-before': { place: 'message', behind: 'text' },
  'stands-alone': { place: 'message' },
  menu: { menu: 'message' },
  'links-lead-here-again': { pages: 'number' },
  'links-lead-here': { pages: 'number' },
  'redirect-retires': { from: 'text' },
  'redirects-retire': { count: 'number', some: 'series', all: ['yes', 'no'] },
  'answers-at': { name: 'text', address: 'text' },
  'more-move-along': { count: 'number' },
  'is-home-again': { name: 'text' },
});
export type PuttingBackMessage = MessageOf<typeof puttingBack>;
