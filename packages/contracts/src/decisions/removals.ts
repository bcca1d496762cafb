/** What is taken out, put back, held and swept. */
import { LINK_TREATMENTS } from '@fastigium/core/site';
import { z } from 'zod';
import type { Definitions } from '@fastigium/core/messages';
import { id } from '../id.ts';
import { ONE_OF_TWO } from './parts.ts';

const section = z.object({ name: z.string().max(20_000), nth: z.number().int().min(0) });
const removal = z.number().int().min(1);

export const removeRequest = z.object({
  kind: z.literal('remove'),
  thing: z.discriminatedUnion('kind', [
    /** A page, group or outside link; alone, what stands below it stays. */
    z.object({ kind: z.literal('node'), node: id, alone: z.boolean().default(false) }),
    z.object({ kind: z.literal('section'), page: id, section }),
    z.object({
      kind: z.literal('file'),
      address: z.string().regex(/^\/./, 'a file of the site begins with a slash').max(2000),
    }),
    z.object({
      kind: z.literal('menu-item'),
      menu: z.string().max(4000),
      /** Its place at each level, from 0. */ path: z.array(z.number().int().min(0)).min(1).max(3),
    }),
    z.object({
      kind: z.literal('redirects'),
      froms: z.array(z.string().max(4000)).max(100_000),
      patterns: z.array(id).max(10_000),
    }),
  ]),
  standIn: z
    .discriminatedUnion('kind', [
      z.object({ kind: z.literal('parent') }),
      z.object({ kind: z.literal('home') }),
      z.object({ kind: z.literal('gone') }),
      z.object({ kind: z.literal('none') }),
      z.object({ kind: z.literal('page'), page: id }),
    ])
    .default({ kind: 'none' }),
  links: z.enum(LINK_TREATMENTS).default('kept'),
  why: z.string().trim().max(500, 'use at most 500 letters').default(''),
  /** The page that takes over, where the home page goes. */
  newHome: id.nullable().default(null),
});
export type RemoveRequest = z.infer<typeof removeRequest>;

export const putBackRequest = z.object({
  kind: z.literal('put-back'),
  things: z
    .array(z.object({ of: removal, /** Some of its pages only. */ nodes: z.array(id).min(1).max(100_000).optional() }))
    .min(1)
    .max(10_000),
  /** Where the page above is removed: below whatever stands above that, with it, or at the top. */
  where: z.enum(['in-place', 'with-parents', 'top']).default('in-place'),
  /** Where somebody else has its address: nothing is done, it gets another one, or the other one does. */
  taken: z.enum(['stop', 'keep-both', 'swap']).default('stop'),
});
export type PutBackRequest = z.infer<typeof putBackRequest>;

/** Something as a kept release had it. */
export const takeRequest = z.object({
  kind: z.literal('take-from-release'),
  release: z.number().int().min(1),
  /** Of the published file. */
  path: z.string().min(1).max(4000),
  take: z.discriminatedUnion('kind', [
    /** A page of its own where its neighbours of then stand, or a file that is not there any more. */
    z.object({ kind: z.literal('beside') }),
    /** In place of today's text or content. */
    z.object({ kind: z.literal('instead') }),
    /** One section, into today's page. */
    z.object({ kind: z.literal('section'), section }),
  ]),
});
export type TakeRequest = z.infer<typeof takeRequest>;

export const removalRequests = [
  removeRequest,
  putBackRequest,
  takeRequest,
  z.object({ kind: z.literal('text-of-file'), page: id }),
  z.object({
    kind: z.literal('hold-removals'),
    of: z.array(removal).min(1).max(100_000),
    reason: z.string().trim().min(1, 'say why it is to be kept').max(500, 'use at most 500 letters'),
  }),
  z.object({ kind: z.literal('free-removals'), of: z.array(removal).min(1).max(100_000) }),
] as const;

export const removalMessages = {
  /** `page`: where its address leads; `home`: what becomes the home page. Empty where there is none. */
  removed: {
    thing: 'message',
    /** How much goes with it, where it is a branch. */
    below: 'number',
    leads: ['nowhere', 'gone', 'home', 'page'],
    page: 'text',
    newHome: ONE_OF_TWO,
    home: 'text',
  },
  'put-back': { thing: 'message', more: 'number', readdressed: ONE_OF_TWO, address: 'text' },
  'many-put-back': { count: 'number' },
  held: { count: 'number', reason: 'text' },
  freed: { count: 'number' },
  /** `label`: the first of them. */
  swept: { count: 'number', label: 'text', by: ['person', 'time'] },
  'page-of-release': { title: 'text', release: 'number', address: 'text' },
  'text-of-release': { name: 'text', release: 'number' },
  'text-of-file': { name: 'text' },
  'section-of-release': { section: 'text', page: 'text', release: 'number' },
  'file-of-release': { address: 'text', release: 'number' },
} as const satisfies Definitions;
