/** A release that goes out at a set time. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { done, instant, leaveOut, personRef, siteParams, version } from './common.ts';

/** A name of the IANA time zone database that this machine knows. */
const zone = z
  .string()
  .max(64)
  .refine((name) => {
    try {
      new Intl.DateTimeFormat('en', { timeZone: name });
      return true;
    } catch {
      return false;
    }
  }, 'a time zone, such as Europe/London');

export const setTime = z.object({
  at: instant,
  zone,
  note: z.string(),
  by: personRef,
  /** The draft as it goes out. */
  version,
  /** Decisions made since or left out, which do not go out with it. */
  since: z.number().int(),
});
export type SetTime = z.infer<typeof setTime>;

export const setTimeApi = {
  get: defineEndpoint('GET /sites/:site/set-time', {
    summary: 'When a release goes out by itself; null where none does',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ set: setTime.nullable() }),
  }),
  set: defineEndpoint('PUT /sites/:site/set-time', {
    summary: 'Let the draft as it was looked at go out at a time',
    access: 'editor',
    trail: 'releases',
    params: siteParams,
    body: z.object({ at: instant, zone, version, note: z.string().trim().max(500).default(''), leaveOut }),
    answer: z.object({ set: setTime }),
  }),
  leave: defineEndpoint('DELETE /sites/:site/set-time', {
    summary: 'Nothing goes out by itself',
    access: 'editor',
    trail: 'releases',
    params: siteParams,
    answer: done,
  }),
};
