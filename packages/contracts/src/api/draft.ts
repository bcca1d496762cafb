import { z } from 'zod';
import { REDIRECT_STATUSES } from '@fastigium/core/redirects';
import { endpoint } from '../define.ts';
import { id, instant, personRef, siteParams, version } from './common.ts';

export const pageRow = z.object({
  id,
  sourcePath: z.string(),
  address: z.string(),
  depth: z.number().int(),
  title: z.string(),
  /** The title in the imported source, where it differs from the one set here. */
  importedTitle: z.string().nullable(),
  language: z.string().nullable(),
  isHome: z.boolean(),
  /** Against the live release: as it is there, different, or not there yet. */
  state: z.enum(['live', 'changed', 'new']),
  linksIn: z.number().int(),
});
export type PageRow = z.infer<typeof pageRow>;

export const pages = z.object({ version, pages: z.array(pageRow) });

const redirectTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('page'), page: id }),
  z.object({ kind: z.literal('address'), address: z.string().min(1).max(2000) }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^https?$/ }).max(2000) }),
]);
const movingStatus = z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308)]);

/** What the web may ask for; the server adds what only it knows and records a core decision. */
export const decisionRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('title'), page: id, title: z.string().trim().max(1000) }),
  z.object({ kind: z.literal('home'), page: id }),
  z.object({
    kind: z.literal('redirect'),
    from: z.string().max(4000),
    to: z.union([z.object({ status: movingStatus, target: redirectTarget }), z.object({ status: z.literal(410) })]),
  }),
  z.object({ kind: z.literal('redirect-removed'), from: z.string().max(4000) }),
  z.object({ kind: z.literal('base-path'), path: z.string().max(200) }),
  z.object({ kind: z.literal('undo'), of: z.number().int().min(1) }),
  z.object({ kind: z.literal('step'), direction: z.enum(['back', 'forward']) }),
]);
export type DecisionRequest = z.infer<typeof decisionRequest>;

export const decided = z.object({ version, words: z.string() });

export const historyRow = z.object({ seq: z.number().int(), words: z.string(), by: personRef, at: instant, undone: z.boolean() });

export const hop = z.object({ address: z.string(), status: z.number().int(), location: z.string().nullable() });
export const proof = z.object({
  hops: z.array(hop),
  end: z.enum(['page', 'gone', 'missing', 'outside', 'loop']),
  /** Title of the page it lands on. */
  title: z.string().nullable(),
});
export type Proof = z.infer<typeof proof>;

export const redirectRow = z.object({
  from: z.string(),
  visits: z.number().int().nullable(),
  /** Decided by a person, made by a move, or nothing yet. */
  origin: z.enum(['decided', 'moved', 'open', 'page']),
  status: z.union([z.literal(REDIRECT_STATUSES[0]), z.literal(302), z.literal(307), z.literal(308), z.literal(410)]).nullable(),
  to: z.string().nullable(),
  toTitle: z.string().nullable(),
  toPage: id.nullable(),
});
export type RedirectRow = z.infer<typeof redirectRow>;
export const redirects = z.object({ version, rows: z.array(redirectRow) });

export const draftApi = {
  pages: endpoint('GET /sites/:site/pages', { summary: 'Pages of the draft as a tree', access: 'reviewer', params: siteParams, answer: pages }),
  decide: endpoint('POST /sites/:site/decisions', {
    summary: 'Change the draft',
    access: 'editor',
    params: siteParams,
    body: z.object({ version, decision: decisionRequest }),
    answer: decided,
    status: 201,
  }),
  history: endpoint('GET /sites/:site/history', { summary: 'Every decision, newest first', access: 'reviewer', params: siteParams, answer: z.array(historyRow) }),
  redirects: endpoint('GET /sites/:site/redirects', { summary: 'Old addresses and where they land', access: 'reviewer', params: siteParams, answer: redirects }),
  prove: endpoint('POST /sites/:site/proofs', {
    summary: 'Ask the draft for an address and follow it',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ address: z.string().min(1).max(4000) }),
    answer: proof,
  }),
  addOldAddresses: endpoint('POST /sites/:site/old-addresses', {
    summary: 'Old addresses with their visits; known ones are updated',
    access: 'editor',
    params: siteParams,
    body: z.object({ addresses: z.array(z.object({ address: z.string().max(4000), visits: z.number().int().min(0).nullable() })).min(1).max(100_000) }),
    answer: z.object({ taken: z.number().int(), notAddresses: z.array(z.string()) }),
  }),
  previewLink: endpoint('POST /sites/:site/previews', {
    summary: 'An address, good for a while, that shows the draft on an origin of its own',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ origin: z.string(), until: instant }),
  }),
};
