/** Telling programs elsewhere what happens to a site: webhooks. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { part } from '../messages/schema.ts';
import { id } from '../id.ts';
import { done, instant, personRef, siteParams } from './common.ts';

export const HOOK_EVENTS = [
  'release-live',
  'release-failed',
  'found-otherwise',
  'away',
  'back',
  'drifted',
  'spike',
  'date-near',
] as const;
export type HookEvent = (typeof HOOK_EVENTS)[number];
/** A program that is told what happens; a search index that is told addresses; an account that posts messages. */
export const HOOK_KINDS = ['webhook', 'index', 'account'] as const;
export type HookKind = (typeof HOOK_KINDS)[number];

export const delivery = z.object({
  id,
  event: z.enum([...HOOK_EVENTS, 'try', 'message']),
  at: instant,
  state: z.enum(['waiting', 'arrived', 'given-up']),
  attempts: z.number().int(),
  nextAt: instant.nullable(),
  status: z.number().int().nullable(),
  problem: part.nullable(),
});
export type Delivery = z.infer<typeof delivery>;

export const hook = z.object({
  id,
  kind: z.enum(HOOK_KINDS),
  url: z.string(),
  events: z.array(z.enum(HOOK_EVENTS)),
  by: personRef,
  /** The last twenty, newest first. */
  deliveries: z.array(delivery),
});
export type Hook = z.infer<typeof hook>;

/** What is sent, as JSON, signed: `X-Hub-Signature: sha256=` and the HMAC of the body (W3C WebSub, section 8). */
export const told = z.object({
  event: z.enum([...HOOK_EVENTS, 'try', 'message']),
  at: instant,
  words: z.string(),
  site: z.object({ name: z.string(), url: z.string().nullable() }),
  release: z.object({ number: z.number().int(), note: z.string(), by: z.string() }).optional(),
  /** Addresses of pages, with `release-live`: at most 500 of each. */
  pages: z.object({ new: z.array(z.string()), changed: z.array(z.string()), gone: z.array(z.string()) }).optional(),
});
export type Told = z.infer<typeof told>;

const toldUrl = z.url({ protocol: /^https?$/ }).max(2000);
const hookParams = siteParams.extend({ hook: id });

export const tellingApi = {
  hooks: defineEndpoint('GET /sites/:site/hooks', {
    summary: 'Who is told, and what became of each telling',
    access: 'editor',
    params: siteParams,
    answer: z.object({
      hooks: z.array(hook),
      /** Stand-ins that may be told; null on a real internet. */ offered: z.object({
        index: z.string().nullable(),
        /** Its token is nobody's to read here. */ account: z.object({ url: z.string() }).nullable(),
      }),
    }),
  }),
  add: defineEndpoint('POST /sites/:site/hooks', {
    summary: 'Tell an address; the secret is shown this once',
    access: 'owner',
    trail: 'secrets',
    params: siteParams,
    body: z.union([
      z.object({
        kind: z.literal('webhook').default('webhook'),
        url: toldUrl,
        events: z.array(z.enum(HOOK_EVENTS)).min(1, 'at least one event'),
      }),
      z.object({ kind: z.literal('index'), url: toldUrl }),
      z.object({
        kind: z.literal('account'),
        url: toldUrl,
        /** Left out for the one that is offered. */
        token: z.string().trim().min(1, 'an account needs its token').max(2000).optional(),
      }),
    ]),
    /** The secret a webhook is signed with; of the others nothing is shown. */
    answer: z.object({ hook, secret: z.string().nullable() }),
    status: 201,
  }),
  remove: defineEndpoint('DELETE /sites/:site/hooks/:hook', {
    summary: 'Tell it no more',
    access: 'owner',
    trail: 'secrets',
    params: hookParams,
    answer: done,
  }),
  draft: defineEndpoint('GET /sites/:site/message', {
    summary: 'A message about the live release, drafted',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ text: z.string(), release: z.number().int().nullable() }),
  }),
  send: defineEndpoint('POST /sites/:site/hooks/:hook/message', {
    summary: 'Post a message to an account',
    access: 'editor',
    params: hookParams,
    body: z.object({ text: z.string().trim().min(1, 'a message needs words').max(2000) }),
    answer: done,
    status: 202,
  }),
  try: defineEndpoint('POST /sites/:site/hooks/:hook/try', {
    summary: 'Tell it something harmless, now',
    access: 'editor',
    params: hookParams,
    answer: done,
    status: 202,
  }),
};
