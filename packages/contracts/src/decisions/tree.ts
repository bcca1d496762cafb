/** Where pages, groups and outside links stand, and which are added here. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { id } from '../id.ts';
import { ONE_OF_TWO, title } from './parts.ts';

const place = { parent: id.nullable(), after: id.nullable() };

export const treeRequests = [
  z.object({ kind: z.literal('place'), node: id, ...place, keepAddress: z.boolean().default(false) }),
  z.object({ kind: z.literal('duplicate'), page: id, title }),
  z.object({ kind: z.literal('add-page'), title, text: z.string().max(20_000), like: id, ...place }),
  z.object({ kind: z.literal('add-group'), title, ...place }),
  z.object({ kind: z.literal('add-link'), title, url: z.url({ protocol: /^https?$/ }).max(2000), ...place }),
  z.object({ kind: z.literal('node-removed'), node: id }),
] as const;

export const treeMessages = {
  'placed-at-top': { name: 'text', elsewhere: ONE_OF_TWO },
  'placed-under': { name: 'text', parent: 'text', elsewhere: ONE_OF_TWO },
  'page-duplicated': { name: 'text', title: 'text', address: 'text' },
  'page-added': { title: 'text', address: 'text' },
  'group-added': { title: 'text' },
  'link-added': { title: 'text', url: 'text' },
  'node-removed': { title: 'text', kind: ['group', 'link'] },
} as const satisfies Definitions;
