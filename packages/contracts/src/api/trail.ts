/** The audit trail: who signed in, and who changed people, hosts, releases and secrets. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { TRAIL_KINDS } from '../endpoint.ts';
import { act } from '../messages/act.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { instant } from './common.ts';

export const trailEntry = z.object({
  /** Counts up in the order things began. */
  number: z.number().int(),
  at: instant,
  kind: z.enum(TRAIL_KINDS),
  what: createMessageSchema(act),
  /** Empty: whoever runs the server. */
  who: z.string(),
  /** Network address it was asked from; empty for the command line. */
  address: z.string(),
  /** Of the request, as the log has it. */
  request: z.string(),
  site: z.string().nullable(),
  /** A name as it stands, or a message. */
  about: part.nullable(),
  /** `done`, or the code of the error it was refused with; null while under way, or where the process ended in the middle. */
  outcome: z.string().nullable(),
});
export type TrailEntry = z.infer<typeof trailEntry>;

const kinds = z.object({ kind: z.enum(TRAIL_KINDS).optional() });

export const trailApi = {
  list: defineEndpoint('GET /trail', {
    summary: 'The audit trail, the newest first',
    access: 'owner',
    query: kinds.extend({ before: z.coerce.number().int().min(1).optional() }),
    answer: z.object({ entries: z.array(trailEntry), more: z.boolean() }),
  }),
  table: defineEndpoint('GET /trail.csv', {
    summary: 'All of the audit trail as a table (RFC 4180)',
    access: 'owner',
    query: kinds,
    answer: z.never(),
    gives: 'text/csv',
  }),
};
