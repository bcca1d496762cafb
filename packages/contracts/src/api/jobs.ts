import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { done, instant, siteParams } from './common.ts';
import { keptError } from '../errors.ts';
import { progressStep } from '../messages/progress.ts';
import { createMessageSchema } from '../messages/schema.ts';

export const JOB_KINDS = [
  'import',
  'publish',
  'compile',
  'certificate',
  'pictures',
  'inspect',
  'gather',
  'suggest',
  'prove',
  'sweep',
  'rehearse',
] as const;
export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;

export const progress = z.object({
  /** What is being done right now. */
  step: createMessageSchema(progressStep),
  done: z.number().int(),
  /** 0 while the whole is not known. */
  total: z.number().int(),
  unit: z.enum(['files', 'pages', 'bytes', 'names', 'addresses']),
});
export type Progress = z.infer<typeof progress>;

export const job = z.object({
  id,
  site: id,
  kind: z.enum(JOB_KINDS),
  state: z.enum(JOB_STATES),
  // What an older version kept of a job that ended says nothing any more.
  progress: progress.nullable().catch(null),
  error: keptError.nullable(),
  /** While it waits to try again what failed for a reason that may pass. */
  retry: z
    .object({
      /** Times it has failed so, one after another. */
      tries: z.number().int().min(1),
      at: instant,
      error: keptError,
    })
    .nullable(),
  createdAt: instant,
  endedAt: instant.nullable(),
});
export type Job = z.infer<typeof job>;

const jobParams = z.object({ job: id });

/** What the event stream of a site carries; each says "look again at this", with the job itself for jobs. */
export const siteEvent = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('job'), job }),
  z.object({ kind: z.literal('draft'), version: z.number().int(), by: z.string() }),
  z.object({ kind: z.literal('release') }),
  z.object({ kind: z.literal('snags') }),
  z.object({ kind: z.literal('pictures') }),
  z.object({ kind: z.literal('address') }),
  z.object({ kind: z.literal('redirects') }),
  z.object({ kind: z.literal('notice') }),
  z.object({ kind: z.literal('watch') }),
]);
export type SiteEvent = z.infer<typeof siteEvent>;

export const jobsApi = {
  get: defineEndpoint('GET /jobs/:job', {
    summary: 'One piece of long work',
    access: 'reviewer',
    params: jobParams,
    answer: job,
  }),
  cancel: defineEndpoint('POST /jobs/:job/cancel', {
    summary: 'Ask a job to stop; nothing of it is kept',
    access: 'editor',
    params: jobParams,
    answer: done,
  }),
  events: defineEndpoint('GET /sites/:site/events', {
    summary: 'Server-sent events of a site',
    access: 'reviewer',
    params: siteParams,
    answer: siteEvent,
  }),
};
