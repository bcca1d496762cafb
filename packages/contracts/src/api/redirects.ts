/** Old addresses: gathered, with suggestions, and where each lands. */
import { z } from 'zod';
import { REDIRECT_STATUSES, ruleFault } from '@fastigium/core/redirects';
import { COLUMN_MEANINGS, NOISE } from '@fastigium/core/redirects/gather';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { done, instant, personRef, siteParams, version } from './common.ts';
import { redirectTarget } from '../decisions/redirects.ts';
import { createMessageSchema, part } from '../messages/schema.ts';

/** How an old address came to be known; `list`: with the site, or by the programming interface; `live`: asked of the live site, which has nothing there. */
export const OLD_SOURCES = ['sitemap', 'index', 'log', 'table', 'pasted', 'crawl', 'list', 'live'] as const;
export type OldSource = (typeof OLD_SOURCES)[number];

export const OLD_KINDS = ['page', 'file', 'noise'] as const;

const probability = z.number().min(0).max(1);
const redirectStatus = z.union([
  z.literal(REDIRECT_STATUSES[0]),
  z.literal(302),
  z.literal(307),
  z.literal(308),
  z.literal(410),
]);

export const suggestion = z.object({
  /** Of a page; null for a file. */
  page: id.nullable(),
  address: z.string(),
  title: z.string(),
  /** Of a hundred such suggestions so many are right, over 100. */
  probability,
});
export type Suggestion = z.infer<typeof suggestion>;

/** What is wrong with a rule, and where it ends when it is to lead there at once. */
export const ruleProblem = z.object({
  kind: z.enum(['loop', 'chain', 'dead', 'idle', 'twice', 'outside', 'no-target', 'over']),
  message: createMessageSchema(ruleFault),
  final: z.string().nullable(),
});
export type RuleProblem = z.infer<typeof ruleProblem>;

export const redirectRow = z.object({
  from: z.string(),
  visits: z.number().int().nullable(),
  kind: z.enum(OLD_KINDS),
  noise: z.enum(NOISE).nullable(),
  /** Decided by a person, made by a move, or nothing yet. */
  origin: z.enum(['decided', 'pattern', 'moved', 'open', 'page']),
  status: redirectStatus.nullable(),
  to: z.string().nullable(),
  toTitle: z.string().nullable(),
  toPage: id.nullable(),
  /** As it was decided, for the form; null where nobody decided, and for what is gone. */
  target: redirectTarget.nullable(),
  dropsQuery: z.boolean(),
  ignoreCase: z.boolean(),
  anySlash: z.boolean(),
  note: z.string().nullable(),
  /** The last day it holds; one that is past has run out. */
  until: z.string().nullable(),
  /** Where a visitor of the draft ends, all steps followed. */
  end: z.enum(['page', 'home', 'outside', 'gone', 'missing', 'loop']),
  /** What has to change; null for most. */
  problem: ruleProblem.nullable(),
  /** The best one, for what is open. */
  suggestion: suggestion.nullable(),
});
export type RedirectRow = z.infer<typeof redirectRow>;

export const redirects = z.object({
  version,
  rows: z.array(redirectRow),
  /** Whether suggestions are being reckoned, or wait to be. */ suggesting: z.boolean(),
});

/** How much each kind of evidence says, from 0 to 1, and what a person can check it by. */
export const evidence = z.object({
  kind: z.enum(['address', 'title', 'headings', 'text']),
  strength: probability,
  /** Words both have. */
  words: z.array(z.string()),
});
/** Of `all` old addresses in the same folder that were settled, so many lead into the folder of the page. */
const neighbours = z.object({
  count: z.number().int(),
  all: z.number().int(),
  from: z.string(),
  to: z.string(),
});
export type Neighbours = z.infer<typeof neighbours>;
export type Evidence = z.infer<typeof evidence>;

export const oldAddress = z.object({
  from: z.string(),
  visits: z.number().int().nullable(),
  lastSeen: instant.nullable(),
  seen: z.array(
    z.object({ source: z.enum(OLD_SOURCES), visits: z.number().int().nullable(), lastSeen: instant.nullable() }),
  ),
  /** Of the last answer somebody got there. */
  oldStatus: z.number().int().nullable(),
  title: z.string().nullable(),
  text: z.string().nullable(),
  headings: z.array(z.string()),
  kind: z.enum(OLD_KINDS),
  noise: z.enum(NOISE).nullable(),
  /** How probable it is that nothing takes its place. */
  none: probability.nullable(),
  /** Nothing is like it, people still ask for it, and its text is known: it could be put back. */
  isWorthPuttingBack: z.boolean(),
  /** The removed page that had this address, and its removal; null where there is none. */
  wasPage: z.object({ of: z.number().int(), page: id, label: z.string() }).nullable(),
  suggestions: z.array(suggestion.extend({ evidence: z.array(evidence), neighbours: neighbours.nullable() })),
  settledBy: personRef.nullable(),
  settledAt: instant.nullable(),
});
export type OldAddress = z.infer<typeof oldAddress>;

const columns = z.partialRecord(z.enum(COLUMN_MEANINGS), z.number().int().min(0).max(1000));
export const notRead = z.object({ line: z.number().int(), text: z.string(), why: part });

/** What was found in a list or log. */
const gatheredFigures = z.object({
  source: z.enum(OLD_SOURCES),
  name: z.string(),
  /** Different addresses in it, and how many of them nobody knew. */
  read: z.number().int(),
  fresh: z.number().int(),
  files: z.number().int(),
  noise: z.number().int(),
  /** Noise that was counted and not kept, and addresses of a log beyond as many as are held: the least visited. */
  leftOut: z.number().int(),
  notRead: z.number().int(),
  problems: z.array(notRead),
});

export const gathered = z.discriminatedUnion('state', [
  gatheredFigures.extend({ state: z.literal('taken') }),
  /** It is large: a job reads and keeps it, and what came of it stands among the gatherings. */
  z.object({ state: z.literal('taking'), job: id }),
  /** A table whose columns nobody has matched yet. */
  z.object({ state: z.literal('columns'), hasNames: z.boolean(), rows: z.array(z.array(z.string())), columns }),
]);
export type Gathered = z.infer<typeof gathered>;

export const gathering = gatheredFigures.extend({
  id,
  by: personRef,
  at: instant,
  /** That brought it in; null where it was small, or where the job is forgotten. */
  job: id.nullable(),
});
export type Gathering = z.infer<typeof gathering>;

const patternFields = {
  text: z.string().max(2000),
  status: redirectStatus,
  target: z.string().max(2000).nullable(),
  ignoreCase: z.boolean(),
  dropsQuery: z.boolean(),
};
export const patternRow = z.object({
  id,
  ...patternFields,
  /** Known old addresses it answers, and their visits. */
  catches: z.number().int(),
  visits: z.number().int(),
  /** Known old addresses it would match if nothing before it answered. */
  hidden: z.number().int(),
  note: z.string().nullable(),
  until: z.string().nullable(),
  problem: ruleProblem.nullable(),
});
export type PatternRow = z.infer<typeof patternRow>;

const landing = z.object({ status: z.number().int(), to: z.string().nullable() });
export const patternCatch = z.object({
  from: z.string(),
  visits: z.number().int().nullable(),
  before: landing,
  after: landing,
  /** Whether something answers there; null for another site. */ lands: z.boolean().nullable(),
});
export type PatternCatch = z.infer<typeof patternCatch>;
export const patternPreview = z.object({
  problem: part.nullable(),
  catches: z.array(patternCatch),
  caught: z.number().int(),
  hidden: z.number().int(),
});
export type PatternPreview = z.infer<typeof patternPreview>;

export const patternProposal = z.object({
  text: z.string(),
  status: redirectStatus,
  target: z.string().nullable(),
  /** Old addresses whose single redirects it takes the place of, without any of them landing elsewhere. */
  replaces: z.array(z.string()),
  /** An address nobody has seen that it would catch, where that leads, and whether anything is there. */
  unknown: z.object({ address: z.string(), to: z.string().nullable(), isThere: z.boolean() }),
});
export type PatternProposal = z.infer<typeof patternProposal>;

export const FETCHED = ['sitemap', 'index', 'crawl'] as const;

/** Whose addresses those are that name no host: an old domain that is told apart; absent for the site itself. */
const oldDomain = z.string().min(1).max(260);

export const redirectsApi = {
  rows: defineEndpoint('GET /sites/:site/redirects', {
    summary: 'Old addresses and where they land',
    access: 'reviewer',
    params: siteParams,
    answer: redirects,
  }),
  one: defineEndpoint('GET /sites/:site/old-addresses/one', {
    summary: 'All that is known of an old address, with suggestions and their evidence',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ from: z.string().min(1).max(4000) }),
    answer: oldAddress,
  }),
  add: defineEndpoint('POST /sites/:site/old-addresses', {
    isLarge: true,
    summary: 'Old addresses with their visits; known ones are updated',
    access: 'editor',
    params: siteParams,
    body: z.object({
      addresses: z
        .array(z.object({ address: z.string().max(4000), visits: z.number().int().min(0).nullable() }))
        .min(1)
        .max(100_000),
    }),
    answer: z.object({ taken: z.number().int(), notAddresses: z.array(z.string()) }),
  }),
  paste: defineEndpoint('POST /sites/:site/old-addresses/pasted', {
    isLarge: true,
    summary: 'Old addresses in lines, text or a page’s source',
    access: 'editor',
    params: siteParams,
    body: z.object({ text: z.string().min(1).max(2_000_000), domain: oldDomain.optional() }),
    answer: gathered,
  }),
  file: defineEndpoint('POST /sites/:site/old-addresses/file', {
    summary: 'Old addresses in an access log, a sitemap, a table, a listing or a text, plain or gzip',
    access: 'editor',
    params: siteParams,
    query: z.object({
      fileName: z.string().min(1).max(255),
      /** JSON of which column holds what, where a table is confirmed. */ columns: z.string().max(400).optional(),
      hasNames: z.enum(['yes', 'no']).optional(),
      domain: oldDomain.optional(),
    }),
    streams: 'application/octet-stream',
    holds: 'log',
    answer: gathered,
  }),
  fetched: defineEndpoint('POST /sites/:site/old-addresses/fetched', {
    summary: 'Asks a sitemap, a search index or the old site for addresses',
    access: 'editor',
    params: siteParams,
    body: z.object({
      source: z.enum(FETCHED),
      address: z.string().trim().min(1).max(2000),
      /** For a search index: the domain to list. */ domain: z.string().trim().max(253).optional(),
    }),
    answer: z.object({ job: id }),
    status: 202,
  }),
  gatherings: defineEndpoint('GET /sites/:site/old-addresses/gatherings', {
    summary: 'What was gathered so far',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({
      /** A search index to ask, by its description; null where none is set up. */ searchIndex: z.string().nullable(),
      done: z.array(gathering),
    }),
  }),
  kind: defineEndpoint('PATCH /sites/:site/old-addresses', {
    isLarge: true,
    summary: 'Says that old addresses are noise, or that they are not',
    access: 'editor',
    params: siteParams,
    body: z.object({ addresses: z.array(z.string().max(4000)).min(1).max(10_000), noise: z.boolean() }),
    answer: done,
  }),
  oldDomains: defineEndpoint('GET /sites/:site/old-domains', {
    summary: 'Domains that lead here and whose addresses are told apart',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(z.string()),
  }),
  addOldDomain: defineEndpoint('POST /sites/:site/old-domains', {
    summary: 'Tells the addresses of an old domain apart from here on',
    access: 'editor',
    params: siteParams,
    body: z.object({ host: z.string().trim().min(1).max(260) }),
    answer: z.object({ host: z.string() }),
    status: 201,
  }),
  removeOldDomain: defineEndpoint('DELETE /sites/:site/old-domains', {
    summary: 'Tells them apart no longer; what is known stays',
    access: 'editor',
    params: siteParams,
    query: z.object({ host: oldDomain }),
    answer: done,
  }),
  patterns: defineEndpoint('GET /sites/:site/patterns', {
    summary: 'Patterns in the order they are tried',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(patternRow),
  }),
  proposals: defineEndpoint('GET /sites/:site/patterns/proposals', {
    summary: 'Patterns that would take the place of many single redirects',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(patternProposal),
  }),
  previewPattern: defineEndpoint('POST /sites/:site/patterns/preview', {
    summary: 'What a pattern would catch, and where that lands before and after',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ id: id.nullable(), ...patternFields }),
    answer: patternPreview,
  }),
  suggest: defineEndpoint('POST /sites/:site/old-addresses/suggest', {
    summary: 'Reckons suggestions anew',
    access: 'editor',
    params: siteParams,
    answer: z.object({ job: id }),
    status: 202,
  }),
};
