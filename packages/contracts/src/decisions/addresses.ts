/** Where pages answer: home, addresses, how they are written, and the path the whole site is under. */
import type { Definitions } from '@fastigium/core/messages';
import { ADDRESS_STYLES } from '@fastigium/core/address';
import { z } from 'zod';
import { id } from '../id.ts';

export const addressRequests = [
  z.object({
    kind: z.literal('home'),
    page: id,
    /** Where the page goes that came in as home; without it, one made from its heading. */ formerAddress: z
      .string()
      .trim()
      .max(2000)
      .optional(),
  }),
  z.object({ kind: z.literal('rename'), page: id, address: z.string().trim().max(2000) }),
  z.object({ kind: z.literal('address-style'), style: z.enum(ADDRESS_STYLES) }),
  z.object({ kind: z.literal('base-path'), path: z.string().max(200) }),
] as const;

export const addressMessages = {
  'address-set': { before: 'text', after: 'text', below: 'number' },
  'style-set': { style: ['imported', 'slash', 'bare', 'html'] },
  'base-path-set': { path: 'text' },
  'base-path-root': {},
  'home-set': { name: 'text' },
} as const satisfies Definitions;
