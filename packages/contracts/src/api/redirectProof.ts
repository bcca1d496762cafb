/** Proof of redirects: what visitors of all old addresses meet, on the draft and on the live host. */
import { liveWay } from '@fastigium/core/redirects';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { createMessageSchema } from '../messages/schema.ts';
import { id } from '../id.ts';
import { instant, personRef, siteParams, version } from './common.ts';

export const PROOF_ENDS = ['page', 'home', 'outside', 'gone', 'missing', 'loop', 'unasked'] as const;
export type ProofEnd = (typeof PROOF_ENDS)[number];

const hop = z.object({ address: z.string(), status: z.number().int() });
/** `hops`: what was asked and answered, in order; `final`: where it ended, an address here or a URL elsewhere. */
const way = z.object({ hops: z.array(hop), end: z.enum(PROOF_ENDS), final: z.string().nullable() });
export type ProofWay = z.infer<typeof way>;

export const proofRow = z.object({
  from: z.string(),
  visits: z.number().int().nullable(),
  draft: way,
  /** Of the page the draft ends at. */ title: z.string().nullable(),
  live: way
    .extend({ /** What is otherwise than the release says. */ problem: createMessageSchema(liveWay).nullable() })
    .nullable(),
});
export type ProofRow = z.infer<typeof proofRow>;

export const redirectProof = z.object({
  version,
  /** The last time the live host was asked; `isCurrent`: another release has not gone live since. */
  live: z
    .object({ release: z.number().int(), origin: z.string(), at: instant, by: personRef, isCurrent: z.boolean() })
    .nullable(),
  /** Whether there is a live release that can be asked. */
  isLive: z.boolean(),
  rows: z.array(proofRow),
});
export type RedirectProof = z.infer<typeof redirectProof>;

export const redirectProofApi = {
  get: defineEndpoint('GET /sites/:site/redirects/proof', {
    summary: 'What visitors of all old addresses meet',
    access: 'reviewer',
    params: siteParams,
    answer: redirectProof,
  }),
  ask: defineEndpoint('POST /sites/:site/redirects/proof', {
    summary: 'Asks the live host for all old addresses',
    access: 'editor',
    params: siteParams,
    answer: z.object({ job: id }),
    status: 202,
  }),
  table: defineEndpoint('GET /sites/:site/redirects/proof.csv', {
    summary: 'The proof as a table',
    access: 'reviewer',
    params: siteParams,
    answer: z.never(),
    gives: 'text/csv',
  }),
  report: defineEndpoint('GET /sites/:site/redirects/proof.html', {
    summary: 'The proof as a page that can be kept',
    access: 'reviewer',
    params: siteParams,
    answer: z.never(),
    gives: 'text/html',
  }),
};
