/** Telling programs elsewhere what happens to a site: webhooks. */
import { z } from 'zod';
import { endpoint } from '../define.ts';
import { done, id, instant, personRef, siteParams } from './common.ts';

export const HOOK_EVENTS = ['release-live', 'release-failed', 'found-otherwise', 'away', 'back'] as const;
export type HookEvent = (typeof HOOK_EVENTS)[number];

export const delivery = z.object({
  id, event: z.enum([...HOOK_EVENTS, 'try']), at: instant, state: z.enum(['waiting', 'arrived', 'given-up']),
  attempts: z.number().int(), nextAt: instant.nullable(), status: z.number().int().nullable(), problem: z.string().nullable(),
});
export type Delivery = z.infer<typeof delivery>;

export const hook = z.object({
  id, url: z.string(), events: z.array(z.enum(HOOK_EVENTS)), by: personRef,
  /** The last twenty, newest first. */
  deliveries: z.array(delivery),
});
export type Hook = z.infer<typeof hook>;

/** What is sent, as JSON, signed: `X-Hub-Signature: sha256=` and the HMAC of the body (W3C WebSub, section 8). */
export const told = z.object({
  event: z.enum([...HOOK_EVENTS, 'try']), at: instant, words: z.string(),
  site: z.object({ name: z.string(), url: z.string().nullable() }),
  release: z.object({ number: z.number().int(), note: z.string(), by: z.string() }).optional(),
  /** Addresses of pages, with `release-live`: at most 500 of each. */
  pages: z.object({ new: z.array(z.string()), changed: z.array(z.string()), gone: z.array(z.string()) }).optional(),
});
export type Told = z.infer<typeof told>;

const hookParams = siteParams.extend({ hook: id });

export const tellingApi = {
  hooks: endpoint('GET /sites/:site/hooks', { summary: 'Who is told, and what became of each telling', access: 'editor', params: siteParams, answer: z.object({ hooks: z.array(hook) }) }),
  add: endpoint('POST /sites/:site/hooks', {
    summary: 'Tell an address; the secret is shown this once', access: 'owner', params: siteParams,
    body: z.object({ url: z.url({ protocol: /^https?$/ }).max(2000), events: z.array(z.enum(HOOK_EVENTS)).min(1, 'at least one event') }), answer: z.object({ hook, secret: z.string() }), status: 201,
  }),
  remove: endpoint('DELETE /sites/:site/hooks/:hook', { summary: 'Tell it no more', access: 'owner', params: hookParams, answer: done }),
  try: endpoint('POST /sites/:site/hooks/:hook/try', { summary: 'Tell it something harmless, now', access: 'editor', params: hookParams, answer: done, status: 202 }),
};
