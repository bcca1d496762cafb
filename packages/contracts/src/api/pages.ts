/** What is inside pages: their sections, places to touch, touches made, and the site's menus. */
import { anyMessage, createMessageSchema } from '../messages/schema.ts';
import { touch as touchMessages } from '../messages/touch.ts';
import { z } from 'zod';
import { PART_NAMES } from '@fastigium/core/html';
import { ADDRESS_STYLES } from '@fastigium/core/address';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { done, instant, menuMessage, personRef, siteParams, version } from './common.ts';
import { anchor, touch } from '../decisions/touches.ts';
import { menuItem } from '../decisions/lists.ts';

const pageParams = siteParams.extend({ page: id });

export const pageInside = z.object({
  sections: z.array(
    z.object({
      name: z.string(),
      nth: z.number().int(),
      /** What the page will call it. */ label: z.string(),
      out: z.boolean(),
      /** The removal that took it out; null where it stands, or was only left out. */ removal: z
        .object({ of: z.number().int(), by: personRef, at: instant })
        .nullable(),
    }),
  ),
  parts: z.array(z.object({ part: z.enum(PART_NAMES), out: z.boolean() })),
  css: z.string(),
});
export type PageInside = z.infer<typeof pageInside>;

/** The list of links around a place, which may be a menu. */
export const pointedList = z.object({
  labels: z.array(z.string()),
  /** The menu it is; null for one that was not found as one. */
  menu: z.object({ id: z.string(), name: menuMessage }).nullable(),
});
export type PointedList = z.infer<typeof pointedList>;

/** What stands at a place somebody pointed at. */
export const pointed = z.object({
  anchor,
  text: z.string().nullable(),
  link: z
    .object({
      /** As the page will be published. */
      href: z.string(),
      /** The page it leads to in the draft; home as such where it leads to the front. */
      page: id.nullable(),
      isHome: z.boolean(),
      newWindow: z.boolean(),
      anchor,
      /** Where it led as it was imported, in one spelling, so that it is known on other pages; null where that is nowhere. */
      leads: z.string().nullable(),
    })
    .nullable(),
  picture: z.object({ address: z.string().nullable(), alt: z.string().nullable(), anchor }).nullable(),
  /** Around a link. */
  list: pointedList.nullable(),
});
export type Pointed = z.infer<typeof pointed>;

export const touchPlaces = z.object({
  page: z.number().int(),
  branch: z.number().int(),
  everywhere: z.number().int(),
  /** Of a picture: the style sheets that show it, by their addresses; they change with "everywhere" alone. */
  styles: z.array(z.string()),
  places: z.array(
    z.object({ id, title: z.string(), address: z.string(), places: z.number().int(), inBranch: z.boolean() }),
  ),
});
export type TouchPlaces = z.infer<typeof touchPlaces>;

export const touchRow = z.object({
  seq: z.number().int(),
  message: createMessageSchema(touchMessages),
  kind: z.string(),
  where: anyMessage,
  page: id.nullable(),
  places: z.number().int(),
  pages: z.number().int(),
  /** `waiting`: its place is in no page of the import any more; `changed`: something else stands there now. */
  state: z.enum(['done', 'waiting', 'changed']),
  by: z.string(),
  at: z.iso.datetime(),
});
export type TouchRow = z.infer<typeof touchRow>;

export const menuRow = z.object({
  id: z.string(),
  name: menuMessage,
  way: z.string(),
  /** Somebody pointed at it, since it was not found by itself. */
  isPointed: z.boolean(),
  items: z.array(menuItem),
  isEdited: z.boolean(),
  whereItDiffers: z.boolean(),
  pages: z.number().int(),
  differing: z.array(
    z.object({ id, title: z.string(), address: z.string(), missing: z.array(z.string()), extra: z.array(z.string()) }),
  ),
});
export type MenuRow = z.infer<typeof menuRow>;

export const addressPreview = z.object({
  moves: z.array(z.object({ id, title: z.string(), from: z.string(), to: z.string() })),
  movesInAll: z.number().int(),
  linkingPages: z.number().int(),
});
export type AddressPreview = z.infer<typeof addressPreview>;

const namedPage = z.object({ id, label: z.string(), address: z.string() });
/** What making a page home does, before it is done. */
export const homePreview = z.object({
  version,
  page: namedPage,
  /** The page that is home now, with the address it gets; null where nothing answers at the front. */
  former: namedPage
    .extend({
      /** Whether its new address can be chosen: it came in as home and has no other. */ canChoose: z.boolean(),
    })
    .nullable(),
  /** What leads to the front today and leads to the new home from then on. */
  leading: z.array(
    z.object({
      kind: z.enum(['menu', 'logo', 'link']),
      label: z.string(),
      /** Of a menu item, its menu. */ menu: menuMessage.nullable(),
      pages: z.number().int(),
      on: z.array(namedPage),
    }),
  ),
  /** Pages that lead to the front, and how many of them were read for what does. */
  linkingPages: z.number().int(),
  readPages: z.number().int(),
});
export type HomePreview = z.infer<typeof homePreview>;

export const pagesApi = {
  inside: defineEndpoint('GET /sites/:site/pages/:page/inside', {
    summary: 'Sections and parts of a page',
    access: 'reviewer',
    params: pageParams,
    answer: pageInside,
  }),
  pointed: defineEndpoint('POST /sites/:site/pages/:page/pointed', {
    summary: 'What stands at a place of the source',
    access: 'reviewer',
    params: pageParams,
    body: z.object({ start: z.number().int().min(0), child: z.number().int().min(0).nullable() }),
    answer: pointed,
  }),
  places: defineEndpoint('GET /sites/:site/pages/:page/places', {
    summary: 'Elements of a page that a link can lead to',
    access: 'reviewer',
    params: pageParams,
    answer: z.array(z.object({ id: z.string(), /** Its heading or first words. */ label: z.string() })),
  }),
  files: defineEndpoint('GET /sites/:site/files', {
    summary: 'Files of the site that are no pages, by letters of their address',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ search: z.string().trim().min(1).max(200) }),
    answer: z.array(z.string()),
  }),
  touches: defineEndpoint('GET /sites/:site/touches', {
    summary: 'Every touch, and whether its place is still there',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(touchRow),
  }),
  touchPlaces: defineEndpoint('POST /sites/:site/touches/places', {
    summary: 'Where a touch would change something, by scope',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ page: id, touch }),
    answer: touchPlaces,
  }),
  menus: defineEndpoint('GET /sites/:site/menus', {
    summary: 'Menus found in the pages, as the draft has them',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({
      version,
      menus: z.array(menuRow),
      /** What is like a menu and differs from page to page: ways on, and trails of where one is. */
      apart: z.array(
        z.object({
          kind: z.enum(['steps', 'trail']),
          way: z.string(),
          pages: z.number().int(),
          labels: z.array(z.string()),
        }),
      ),
    }),
  }),
  pointMenu: defineEndpoint('POST /sites/:site/menus/pointed', {
    summary: 'Makes the list of links around a place a menu on all pages that have it',
    access: 'editor',
    params: siteParams,
    body: z.object({ page: id, start: z.number().int().min(0) }),
    answer: z.object({ id: z.string(), name: menuMessage, pages: z.number().int() }),
    status: 201,
  }),
  letGoMenu: defineEndpoint('POST /sites/:site/menus/let-go', {
    summary: 'A menu that was pointed at is none any more',
    access: 'editor',
    params: siteParams,
    body: z.object({ menu: z.string().max(20_000) }),
    answer: done,
  }),
  previewRename: defineEndpoint('POST /sites/:site/pages/:page/rename-preview', {
    summary: 'What moves when a page gets another address',
    access: 'reviewer',
    params: pageParams,
    body: z.object({ address: z.string().trim().max(2000) }),
    answer: addressPreview,
  }),
  previewHome: defineEndpoint('POST /sites/:site/pages/:page/home-preview', {
    summary: 'What making a page home does',
    access: 'reviewer',
    params: pageParams,
    body: z.object({ formerAddress: z.string().trim().max(2000).optional() }),
    answer: homePreview,
  }),
  previewStyle: defineEndpoint('POST /sites/:site/address-style-preview', {
    summary: 'What moves in another address style',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ style: z.enum(ADDRESS_STYLES) }),
    answer: addressPreview,
  }),
  addAsset: defineEndpoint('POST /sites/:site/assets', {
    summary: 'A file added to the draft',
    access: 'editor',
    params: siteParams,
    query: z.object({
      fileName: z.string().trim().min(1).max(255),
      folder: z.string().max(1000).default(''),
      version: z.coerce.number().int().min(0),
    }),
    streams: 'application/octet-stream',
    answer: z.object({
      version,
      address: z.string(),
      size: z.object({ widthPx: z.number().int(), heightPx: z.number().int() }).nullable(),
    }),
    status: 201,
  }),
};
