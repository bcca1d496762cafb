/** What a client sees of a site. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { instant, siteParams } from './common.ts';
import { VERDICTS } from './inspection.ts';

export const clientView = z.object({
  name: z.string(),
  /** Where it is found or will be; null while it has neither a domain nor a host. */
  answersAt: z.string().nullable(),
  liveUrl: z.string().nullable(),
  live: z.object({ number: z.number().int(), at: instant }).nullable(),
  /** The draft on a temporary address of its own, as last put there. */
  rehearsal: z.object({ origin: z.string(), at: instant, verdict: z.enum(VERDICTS) }).nullable(),
  /** Releases that were asked for from outside, the newest first. */
  reports: z.array(
    z.object({ release: z.number().int(), at: instant, verdict: z.enum(VERDICTS), isLive: z.boolean() }),
  ),
});
export type ClientView = z.infer<typeof clientView>;

export const clientViewApi = {
  get: defineEndpoint('GET /sites/:site/client', {
    summary: 'What a client sees: the live site, the rehearsal, the reports',
    access: 'client',
    params: siteParams,
    answer: clientView,
  }),
};
