import { note } from '../messages/importNote.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { touch } from '../messages/touch.ts';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { done, siteParams, version } from './common.ts';

export const importNote = z.object({ message: createMessageSchema(note), path: z.string() });

export const surveyPage = z.object({
  id,
  sourcePath: z.string(),
  address: z.string(),
  title: z.string().nullable(),
  language: z.string().nullable(),
  sizeBytes: z.number().int(),
  linksOut: z.number().int(),
  deadLinks: z.number().int(),
});
export const surveyAsset = z.object({
  path: z.string(),
  type: z.string(),
  sizeBytes: z.number().int(),
  uses: z.number().int(),
});
export const surveyLink = z.object({
  from: z.string(),
  fromTitle: z.string().nullable(),
  href: z.string(),
  element: z.string(),
  target: z.string(),
});
export const survey = z.object({
  fileName: z.string(),
  /** The address it was crawled from; null for a zip or folder. */
  crawledFrom: z.string().nullable(),
  pages: z.array(surveyPage),
  assets: z.array(surveyAsset),
  links: z.object({ inside: z.number().int(), outside: z.number().int(), dead: z.array(surveyLink) }),
  notes: z.array(importNote),
  totalBytes: z.number().int(),
});
export type Survey = z.infer<typeof survey>;

export const sourcePlace = z.object({
  line: z.number().int(),
  lines: z
    .array(
      z.object({
        number: z.number().int(),
        text: z.string(),
        mark: z.object({ start: z.number().int(), end: z.number().int() }).optional(),
      }),
    )
    .readonly(),
});
export type SourcePlace = z.infer<typeof sourcePlace>;

const reviewedPage = z.object({ path: z.string(), title: z.string() });
export const conflictChoice = z.enum(['ours', 'theirs']);
/** A place that was touched here and is another one in the newer export. */
export const conflict = z.object({
  /** Of the touch, or of the decision about the title. */
  key: z.string(),
  page: id,
  title: z.string(),
  /** All pages it concerns, the named one among them. */
  pages: z.number().int(),
  kind: z.enum(['touch', 'title']),
  message: createMessageSchema(touch),
  before: z.string(),
  theirs: z.string(),
  ours: part,
});
export type Conflict = z.infer<typeof conflict>;

export const importReview = z.object({
  import: id,
  fileName: z.string(),
  version,
  added: z.array(reviewedPage),
  changed: z.array(reviewedPage),
  dropped: z.array(reviewedPage.extend({ isHome: z.boolean(), linksIn: z.number().int() })),
  moved: z.array(z.object({ from: z.string(), to: z.string(), title: z.string(), alike: z.number() })),
  unchanged: z.number().int(),
  files: z.object({ added: z.number().int(), changed: z.number().int(), dropped: z.number().int() }),
  conflicts: z.array(conflict),
  /** Touches whose place is in no page of the newer export: they wait. */
  waiting: z.array(z.object({ key: z.string(), message: createMessageSchema(touch) })),
});
export type ImportReview = z.infer<typeof importReview>;

export const importsApi = {
  review: defineEndpoint('GET /sites/:site/imports/review', {
    summary: 'What a newer export adds, changes and drops, before it is applied',
    access: 'reviewer',
    params: siteParams,
    answer: importReview,
  }),
  apply: defineEndpoint('POST /sites/:site/imports/review', {
    isLarge: true,
    summary: 'Apply the newer export that was looked at',
    access: 'editor',
    params: siteParams,
    body: z.object({ import: id, version, choices: z.record(z.string(), conflictChoice) }),
    answer: z.object({ version }),
  }),
  drop: defineEndpoint('DELETE /sites/:site/imports/review', {
    summary: 'Leave the newer export; nothing of it is kept',
    access: 'editor',
    params: siteParams,
    answer: done,
  }),
  start: defineEndpoint('POST /sites/:site/imports', {
    summary: 'Bring in a finished site as a zip',
    access: 'editor',
    params: siteParams,
    query: z.object({ fileName: z.string().max(255).default('site.zip') }),
    streams: 'application/zip',
    holds: 'site',
    answer: z.object({ import: id, job: id }),
    status: 202,
  }),
  crawl: defineEndpoint('POST /sites/:site/imports/crawl', {
    summary: 'Bring in a running site by its address',
    access: 'editor',
    params: siteParams,
    body: z.object({ address: z.string().min(1).max(2048) }),
    answer: z.object({ import: id, job: id }),
    status: 202,
  }),
  place: defineEndpoint('GET /sites/:site/survey/place', {
    summary: 'Where in a file a reference stands',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ path: z.string().max(4096), href: z.string().max(65_536) }),
    answer: sourcePlace,
  }),
  survey: defineEndpoint('GET /sites/:site/survey', {
    summary: 'What came in',
    access: 'reviewer',
    params: siteParams,
    answer: survey,
  }),
};
