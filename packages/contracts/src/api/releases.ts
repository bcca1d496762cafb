import { change as changeMessages } from '@fastigium/core/report';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { id } from '../id.ts';
import { decisionMessage, done, instant, leaveOut, personRef, siteParams, version } from './common.ts';
import { VERDICTS } from './inspection.ts';
import { keptError } from '../errors.ts';

export const CHANGE_GROUPS = ['visitors', 'pages', 'addresses', 'menus', 'metadata', 'redirects', 'files'] as const;

export const change = z.object({
  /** Stable while the draft stands; opens the evidence. */
  key: z.string(),
  group: z.enum(CHANGE_GROUPS),
  what: z.enum(['added', 'changed', 'removed', 'moved']),
  /** An address, or a message where it is many. */
  subject: part,
  message: createMessageSchema(changeMessages),
});
export type Change = z.infer<typeof change>;

/** A decision since the live release, and the changes it made or has a part in. */
export const cause = z.object({
  seq: z.number().int(),
  message: decisionMessage,
  /** Null where a time limit did it. */ by: personRef.nullable(),
  at: instant,
  /** False for facts, such as a newer export. */
  canLeaveOut: z.boolean(),
  /** Keys of changes, and of some that come to nothing. */
  changes: z.array(z.string()),
});
export type Cause = z.infer<typeof cause>;

export const changes = z.object({
  version,
  sinceRelease: z.number().int().nullable(),
  changes: z.array(change),
  /** Null where the host could not be asked; `hostProblem` says why. */
  sending: z.object({ files: z.number().int(), bytes: z.number().int() }).nullable(),
  hostProblem: part.nullable(),
  whole: z.object({ files: z.number().int(), bytes: z.number().int() }),
});
export type Changes = z.infer<typeof changes>;

export const evidence = z.object({
  key: z.string(),
  kind: z.enum(['source', 'file', 'proof']),
  before: z.object({ path: z.string(), sizeBytes: z.number().int() }).nullable(),
  after: z.object({ path: z.string(), sizeBytes: z.number().int() }).nullable(),
  lines: z.array(z.object({ sign: z.enum([' ', '-', '+']), text: z.string() })),
  cut: z.boolean(),
});
export type Evidence = z.infer<typeof evidence>;

export const RELEASE_STATES = ['sending', 'live', 'past', 'failed', 'cancelled', 'let-go'] as const;
export const release = z.object({
  id,
  number: z.number().int(),
  state: z.enum(RELEASE_STATES),
  note: z.string(),
  by: personRef,
  createdAt: instant,
  liveAt: instant.nullable(),
  rollbackOf: z.number().int().nullable(),
  filesTotal: z.number().int(),
  filesSent: z.number().int(),
  bytesSent: z.number().int(),
  error: keptError.nullable(),
  job: id.nullable(),
  /** Kept however many come after it. */
  isPinned: z.boolean(),
  /** How it was found from outside the last time; null while it was not looked at. */
  verdict: z.enum(VERDICTS).nullable(),
});
export type Release = z.infer<typeof release>;

const releaseNumber = z.coerce.number().int().min(1);

/** The live release as whoever asks has seen it, null for none; with another one live nothing is begun. */
const replaces = z.number().int().nullable().optional();

export const releasesApi = {
  compare: defineEndpoint('GET /sites/:site/releases/compare', {
    summary: 'What visitors noticed between any two releases',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ before: releaseNumber, after: releaseNumber }),
    answer: z.object({ changes: z.array(change) }),
  }),
  changes: defineEndpoint('GET /sites/:site/changes', {
    summary: 'What visitors will notice, and what will be sent',
    access: 'reviewer',
    params: siteParams,
    answer: changes,
  }),
  causes: defineEndpoint('GET /sites/:site/changes/causes', {
    summary: 'Which decisions made which changes since the live release',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ version, causes: z.array(cause), /** There are more than are looked at. */ cut: z.boolean() }),
  }),
  evidence: defineEndpoint('GET /sites/:site/changes/evidence', {
    summary: 'One change, before and after',
    access: 'reviewer',
    params: siteParams,
    /** `before` and `after`: numbers of releases; without them live against draft. */
    query: z.object({ key: z.string().max(4100), before: releaseNumber.optional(), after: releaseNumber.optional() }),
    answer: evidence,
  }),
  takeAlong: defineEndpoint('GET /sites/:site/releases/:number/release.zip', {
    // It holds hashes of visitors' passwords, and the whole site to keep: more than looking.
    summary: 'A release as an archive, with its redirects and headers for nginx and Apache',
    access: 'editor',
    trail: 'releases',
    params: siteParams.extend({ number: releaseNumber }),
    answer: z.never(),
    gives: 'application/zip',
  }),
  list: defineEndpoint('GET /sites/:site/releases', {
    summary: 'Releases, newest first',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(release),
  }),
  publish: defineEndpoint('POST /sites/:site/releases', {
    summary: 'Publish the draft as it was looked at',
    access: 'editor',
    trail: 'releases',
    params: siteParams,
    body: z.object({ version, note: z.string().trim().max(500).default(''), leaveOut, replaces }),
    answer: z.object({ release: z.number().int(), job: id }),
    status: 202,
  }),
  keeping: defineEndpoint('GET /sites/:site/releases/keeping', {
    summary: 'How many releases are kept beside those that are pinned',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ count: z.number().int() }),
  }),
  keep: defineEndpoint('PUT /sites/:site/releases/keeping', {
    summary: 'Keep the last few releases; older ones go, unless they are pinned',
    access: 'owner',
    trail: 'releases',
    params: siteParams,
    body: z.object({ count: z.number().int().min(2, 'keep two at least: the live one and the way back').max(1000) }),
    answer: done,
  }),
  pin: defineEndpoint('PUT /sites/:site/releases/:number/pin', {
    summary: 'Keep a release however many come after it, or no longer',
    access: 'editor',
    trail: 'releases',
    params: siteParams.extend({ number: releaseNumber }),
    body: z.object({ isPinned: z.boolean() }),
    answer: done,
  }),
  rollBack: defineEndpoint('POST /sites/:site/releases/:number/rollback', {
    summary: 'Make an earlier release live again, as a new release',
    access: 'editor',
    trail: 'releases',
    params: siteParams.extend({ number: z.coerce.number().int().min(1) }),
    body: z.object({ replaces }),
    answer: z.object({ release: z.number().int(), job: id }),
    status: 202,
  }),
};
