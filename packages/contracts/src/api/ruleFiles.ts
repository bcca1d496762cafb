/** Redirects for other programs, and from them. */
import { z } from 'zod';
import { REDIRECT_STATUSES, unsaid } from '@fastigium/core/redirects';
import { defineEndpoint } from '../define.ts';
import { siteParams, version } from './common.ts';
import { notRead } from './redirects.ts';
import { createMessageSchema } from '../messages/schema.ts';

export const EXPORT_FORMS = ['nginx', 'apache-map', 'apache-lines', 'csv', 'json', 'pages'] as const;
export type ExportForm = (typeof EXPORT_FORMS)[number];

export const exportedRules = z.object({
  files: z.array(z.object({ name: z.string(), text: z.string() })),
  rules: z.number().int(),
  /** What this form cannot say, and why. */
  leftOut: z.array(z.object({ from: z.string(), why: createMessageSchema(unsaid) })),
});
export type ExportedRules = z.infer<typeof exportedRules>;

export const RULE_FORMS = ['table', 'apache', 'nginx'] as const;

export const ruleToTake = z.object({
  line: z.number().int(),
  from: z.string(),
  isPattern: z.boolean(),
  status: z.union([z.literal(REDIRECT_STATUSES[0]), z.literal(302), z.literal(307), z.literal(308), z.literal(410)]),
  to: z.string().nullable(),
  ignoreCase: z.boolean(),
  dropsQuery: z.boolean(),
  /** Against the draft: not there, there as it is, there with another answer, a live page, or leading to nothing. */
  state: z.enum(['new', 'same', 'differs', 'page', 'dead']),
  /** Where the draft leads it now. */
  now: z.string().nullable(),
});
export type RuleToTake = z.infer<typeof ruleToTake>;

export const rulesRead = z.object({
  version,
  form: z.enum(RULE_FORMS),
  rules: z.array(ruleToTake),
  notRead: z.array(notRead),
  notReadCount: z.number().int(),
});
export type RulesRead = z.infer<typeof rulesRead>;

export const ruleFilesApi = {
  write: defineEndpoint('GET /sites/:site/redirects/files', {
    summary: 'The draft’s redirects for a server, or as a table',
    access: 'reviewer',
    params: siteParams,
    query: z.object({
      form: z.enum(EXPORT_FORMS),
      /** An old domain; absent for the site itself. */ domain: z.string().max(260).optional(),
    }),
    answer: exportedRules,
  }),
  read: defineEndpoint('POST /sites/:site/redirects/files', {
    summary: 'What a file of redirects would change, before it does',
    access: 'editor',
    params: siteParams,
    query: z.object({
      fileName: z.string().min(1).max(255),
      /** Guessed where it is not given. */ form: z.enum(RULE_FORMS).optional(),
    }),
    streams: 'application/octet-stream',
    answer: rulesRead,
  }),
};
