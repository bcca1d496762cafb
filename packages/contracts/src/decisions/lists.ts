/** What lists pages: menus and listings. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { id } from '../id.ts';
import { fragment, newest } from './parts.ts';

const menuTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('home') }),
  z.object({ kind: z.literal('page'), page: id, fragment, newest }),
  /** It heads what is below it, or leads nowhere yet. */
  z.object({ kind: z.literal('none') }),
  z.object({
    kind: z.literal('address'),
    address: z.string().regex(/^\//, 'an address of the site begins with a slash').max(2000),
  }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^(https?|mailto|tel)$/ }).max(2000) }),
]);
const menuItemFields = {
  /** The removal that took it out; it keeps its place. */ removed: z.number().int().min(1).optional(),
  target: menuTarget,
  was: z.string().max(4000).optional(),
  label: z.string().trim().min(1, 'an item needs a label').max(200),
  newWindow: z.boolean(),
};
const leafItem = z.object({ ...menuItemFields, children: z.array(z.never()).max(0) });
/** Three levels are as deep as menus go. */
export const menuItem = z.object({
  ...menuItemFields,
  children: z.array(z.object({ ...menuItemFields, children: z.array(leafItem).max(100) })).max(100),
});
export type MenuItemRequest = z.infer<typeof menuItem>;

export const listRequests = [
  z.object({
    kind: z.literal('menu'),
    menu: z.string().max(4000),
    items: z.array(menuItem).max(200),
    whereItDiffers: z.boolean(),
  }),
  z.object({ kind: z.literal('menu-removed'), menu: z.string().max(4000) }),
  z.object({ kind: z.literal('listing'), page: id, perPage: z.number().int().min(1).max(1000) }),
  z.object({ kind: z.literal('listing-removed'), page: id }),
] as const;

export const listMessages = {
  'listing-set': { name: 'text', perPage: 'number' },
  'listing-removed': { name: 'text' },
  'menu-set': { menu: 'message', items: 'series' },
  'menu-reset': { menu: 'message' },
} as const satisfies Definitions;
