import { check, remedy } from '@fastigium/core/checks';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { id } from '../id.ts';
import { done, instant, personRef, siteParams, version } from './common.ts';
import { decided } from './draft.ts';
import { sourcePlace } from './imports.ts';

export const snag = z.object({
  key: z.string(),
  code: z.string(),
  severity: z.enum(['must', 'should']),
  path: z.string(),
  page: id.nullable(),
  /** What people call the page; of other files, their path. */
  subject: z.string(),
  /** Tells it from others of its kind. */
  detail: part,
  /** Whether there is a place in the source to look at. */
  hasPlace: z.boolean(),
  /** Texts where they were kept before messages were data. */
  mend: z.object({ label: part, asks: part.nullable() }).nullable(),
  dismissed: z.object({ reason: z.string(), by: personRef, at: instant }).nullable(),
});
export type Snag = z.infer<typeof snag>;

export const snagKind = z.object({
  code: z.string(),
  severity: z.enum(['must', 'should']),
  title: createMessageSchema(check),
  how: createMessageSchema(remedy),
  source: z.string(),
});
export const snags = z.object({
  /** The draft that was checked; checks of a newer one may be under way. */
  version,
  isCurrent: z.boolean(),
  kinds: z.array(snagKind),
  snags: z.array(snag),
});
export type Snags = z.infer<typeof snags>;

const snagParams = siteParams.extend({ key: z.string().max(100) });

export const snagsApi = {
  list: defineEndpoint('GET /sites/:site/snags', {
    summary: 'What the checks found in the draft',
    access: 'reviewer',
    params: siteParams,
    answer: snags,
  }),
  place: defineEndpoint('GET /sites/:site/snags/:key/place', {
    summary: 'The very place in the source',
    access: 'reviewer',
    params: snagParams,
    answer: sourcePlace,
  }),
  dismiss: defineEndpoint('PUT /sites/:site/snags/:key/dismissal', {
    summary: 'Take a snag on one’s name, with a reason',
    access: 'editor',
    params: snagParams,
    body: z.object({ reason: z.string().trim().min(3, 'say why in a few words').max(500) }),
    answer: done,
  }),
  recall: defineEndpoint('DELETE /sites/:site/snags/:key/dismissal', {
    summary: 'Have a dismissed snag count again',
    access: 'editor',
    params: snagParams,
    answer: done,
  }),
  mend: defineEndpoint('POST /sites/:site/snags/:key/mend', {
    summary: 'Mend a snag in one step',
    access: 'editor',
    params: snagParams,
    body: z.object({ version, answer: z.string().trim().max(2000).default('') }),
    answer: decided,
    status: 201,
  }),
};
