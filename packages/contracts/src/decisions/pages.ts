/** What a page is called, which text it has, and whether it is shown. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { id } from '../id.ts';
import { ONE_OF_TWO, title } from './parts.ts';

export const pageRequests = [
  z.object({ kind: z.literal('title'), page: id, title }),
  z.object({ kind: z.literal('ready'), page: id, ready: z.boolean() }),
  z.object({ kind: z.literal('in-menus'), page: id, shown: z.boolean() }),
] as const;

export const pageMessages = {
  'title-set': { address: 'text', title: 'text' },
  'name-set': { before: 'text', title: 'text' },
  'ready-set': { name: 'text', ready: ONE_OF_TWO },
  'in-menus-set': { name: 'text', shown: ONE_OF_TWO },
  'title-of-export': { title: 'text' },
} as const satisfies Definitions;
