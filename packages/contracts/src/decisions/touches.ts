/** What is changed inside pages, and the files that are put beside them for it. */
import type { Definitions } from '@fastigium/core/messages';
import { PART_NAMES } from '@fastigium/core/html';
import { z } from 'zod';
import { id } from '../id.ts';
import { newest, scope } from './parts.ts';

export const anchor = z.object({
  tag: z.string().max(100),
  what: z.enum(['text', 'element']),
  mark: z.string().max(20_000),
  nth: z.number().int().min(0),
  under: z.string().max(20_000),
  way: z.string().max(4000),
});
const section = z.object({ name: z.string().max(20_000), nth: z.number().int().min(0) });
const fileAddress = z.string().regex(/^\/./, 'a file of the site begins with a slash').max(2000);
const touchedAttribute = z.string().max(2000).nullable().optional();
const linkTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('home') }),
  z.object({ kind: z.literal('page'), page: id, fragment: z.string().max(200).optional(), newest }),
  z.object({ kind: z.literal('file'), address: fileAddress }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^(https?|mailto|tel)$/ }).max(2000) }),
]);
/** `</style` would end the rules and let markup in (HTML standard, section 13.1.2.1). */
const css = z
  .string()
  .max(20_000)
  .refine((text) => !/<\/style|<!--/i.test(text), 'style rules hold no markup');
export const touch = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('text'),
    scope,
    place: anchor,
    to: z.string().trim().min(1, 'a text cannot be empty; leave the section out instead').max(20_000),
  }),
  z.object({
    kind: z.literal('attributes'),
    scope,
    place: anchor,
    set: z.object({
      alt: touchedAttribute,
      width: touchedAttribute,
      height: touchedAttribute,
      title: touchedAttribute,
      rel: touchedAttribute,
      target: touchedAttribute,
      lang: touchedAttribute,
    }),
  }),
  z.object({
    kind: z.literal('link'),
    scope,
    place: anchor,
    target: linkTarget.optional(),
    newWindow: z.boolean().optional(),
    leads: z.string().max(4000).optional(),
  }),
  z.object({
    kind: z.literal('picture'),
    scope,
    from: fileAddress,
    to: fileAddress,
    alt: z.string().max(2000).optional(),
    size: z.object({ widthPx: z.number().int().min(1), heightPx: z.number().int().min(1) }).optional(),
  }),
  z.object({
    kind: z.literal('sections'),
    scope,
    order: z.array(section.extend({ out: z.literal(true).optional() })).max(1000),
  }),
  z.object({ kind: z.literal('parts-out'), scope, parts: z.array(z.enum(PART_NAMES)).max(PART_NAMES.length) }),
  z.object({ kind: z.literal('css'), scope, css }),
  z.object({
    kind: z.literal('embed'),
    scope,
    file: fileAddress,
    label: z.string().trim().min(1, 'a link needs words').max(300),
    mediaType: z.string().max(200),
    after: section.optional(),
  }),
  z.object({
    kind: z.literal('head'),
    scope,
    line: z.enum(['charset', 'viewport', 'language']),
    value: z.string().trim().min(1).max(200),
  }),
]);
export type TouchRequest = z.infer<typeof touch>;

export const touchRequests = [
  z.object({ kind: z.literal('touch'), touch }),
  z.object({ kind: z.literal('touch-removed'), of: z.number().int().min(1) }),
] as const;

export const touchMessages = {
  touched: { touch: 'message', where: 'message' },
  'touch-removed': { touch: 'message' },
  'file-added': { address: 'text' },
  'as-export-has-it': { touch: 'message' },
  'kept-over-export': { touch: 'message' },
  'former-place': { touch: 'message' },
} as const satisfies Definitions;
