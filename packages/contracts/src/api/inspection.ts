/** A live release asked for from outside, and the report of it that can be kept. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { findingMessage, instant, personRef, siteParams } from './common.ts';

export const ASPECTS = [
  'home',
  'pages',
  'visitors',
  'old addresses',
  'files',
  'not found',
  'machines',
  'types',
  'caching',
  'security',
  'certificate',
] as const;
export const VERDICTS = ['right', 'noted', 'wrong'] as const;

export const aspectResult = z.object({
  aspect: z.enum(ASPECTS),
  asked: z.number().int(),
  wrong: z.number().int(),
  notes: z.number().int(),
});
export type AspectResult = z.infer<typeof aspectResult>;

export const inspectionFinding = z.object({
  aspect: z.enum(ASPECTS),
  address: z.string(),
  message: findingMessage,
  weight: z.enum(['wrong', 'note']),
});
export type InspectionFinding = z.infer<typeof inspectionFinding>;

export const inspection = z.object({
  release: z.number().int(),
  origin: z.string(),
  at: instant,
  by: personRef,
  verdict: z.enum(VERDICTS),
  results: z.array(aspectResult),
  /** Files that were not asked for, since a sample of them was. */
  unasked: z.number().int(),
  findings: z.array(inspectionFinding),
  /** All of them; the list holds the first thousand, wrong ones before notes. */
  findingsInAll: z.number().int(),
  /** How many old addresses end where; `otherwise`: not as published. */
  oldAddresses: z.array(z.object({ end: z.string(), count: z.number().int() })),
  /** The release to go back to: the one that was live before; null for the first one. */
  before: z.number().int().nullable(),
});
export type Inspection = z.infer<typeof inspection>;

const releaseParams = siteParams.extend({ number: z.coerce.number().int().min(1) });

export const inspectionApi = {
  get: defineEndpoint('GET /sites/:site/releases/:number/inspection', {
    summary: 'What was found when a release was asked for from outside; null while it was not',
    access: 'reviewer',
    params: releaseParams,
    answer: z.object({ inspection: inspection.nullable() }),
  }),
  ask: defineEndpoint('POST /sites/:site/inspection', {
    summary: 'Asks the live host for everything, from outside',
    access: 'editor',
    params: siteParams,
    answer: z.object({ job: id }),
    status: 202,
  }),
  printed: defineEndpoint('GET /sites/:site/releases/:number/report.pdf', {
    summary: 'The same, printed',
    access: 'client',
    params: releaseParams,
    answer: z.never(),
    gives: 'application/pdf',
  }),
  report: defineEndpoint('GET /sites/:site/releases/:number/report.html', {
    summary: 'The report of a release as a page that can be kept',
    access: 'client',
    params: releaseParams,
    answer: z.never(),
    gives: 'text/html',
  }),
};
