/** The draft on a temporary address of its own, before anybody else sees it. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { findingMessage, instant, personRef, siteParams, version } from './common.ts';
import { aspectResult, VERDICTS } from './inspection.ts';

export const rehearsal = z.object({
  origin: z.string(),
  version,
  at: instant,
  by: personRef,
  verdict: z.enum(VERDICTS),
  results: z.array(aspectResult),
  findings: z.array(z.object({ address: z.string(), message: findingMessage, weight: z.enum(['wrong', 'note']) })),
  /** Decisions made since. */
  since: z.number().int(),
});
export type Rehearsal = z.infer<typeof rehearsal>;

export const rehearsalApi = {
  get: defineEndpoint('GET /sites/:site/rehearsal', {
    summary: 'The last rehearsal, and whether the host can have one',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ rehearsal: rehearsal.nullable(), isPossible: z.boolean() }),
  }),
  begin: defineEndpoint('POST /sites/:site/rehearsal', {
    summary: 'Put the draft on a temporary address of its own, and ask for it from outside',
    access: 'editor',
    trail: 'releases',
    params: siteParams,
    answer: z.object({ job: id }),
    status: 202,
  }),
};
