import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { decisionMessage, instant, personRef, siteParams } from './common.ts';
import { job } from './jobs.ts';
import { alert } from './watch.ts';
import { keptError } from '../errors.ts';
import { part } from '../messages/schema.ts';

export const siteSummary = z.object({
  id,
  name: z.string(),
  /** Name of the site at the host stand-in: `lanternmoor` answers at lanternmoor.localhost. */
  hostName: z.string(),
  /** Whether it can be published: to the host this Fastigium came with, or to one of its own. */
  hasHost: z.boolean(),
  /** Where visitors find it at the host, by its temporary name. */
  liveUrl: z.string().nullable(),
  /** Where it is found or will be: its domain, else its name at the host; null while it has neither. */
  answersAt: z.string().nullable(),
  pages: z.number().int(),
  files: z.number().int(),
  liveRelease: z.number().int().nullable(),
  createdAt: instant,
});
export type SiteSummary = z.infer<typeof siteSummary>;

const liveRelease = z.object({
  number: z.number().int(),
  at: instant,
  by: personRef,
  rollbackOf: z.number().int().nullable(),
  /** The last day it could be visited, where that is past: nobody gets it any more. */ downSince: z
    .string()
    .nullable(),
});

/** What the frame shows of a site: the frieze and the sill. */
export const siteOverview = siteSummary.extend({
  version: z.number().int(),
  live: liveRelease.nullable(),
  snags: z.object({
    must: z.number().int(),
    should: z.number().int(),
    dismissed: z.number().int(),
    /** Whether the draft as it stands has not been checked yet: then the numbers are those of before. */ checking:
      z.boolean(),
    /** Of these, those worked on under Metadata. */ metadata: z.number().int(),
  }),
  notes: z.number().int(),
  oldAddresses: z.number().int(),
  oldAddressesWithRule: z.number().int(),
  redirects: z.number().int(),
  homeTitle: z.string().nullable(),
  /** The path the draft is published under; empty at the root. */
  basePath: z.string(),
  /** The domain and how it stands; null while the site has none. */
  address: z
    .object({
      main: z.string(),
      state: z.enum(['right', 'moving', 'broken', 'waiting']),
      /** A text where it was kept before messages were data. */
      words: part,
    })
    .nullable(),
  /** What can be put back; how much of it goes for good within a week, and when the first. */
  removals: z.object({
    all: z.number().int(),
    pages: z.number().int(),
    sweptSoon: z.number().int(),
    firstSweep: instant.nullable(),
  }),
  /** Of the live site: addresses visitors asked for that find nothing, on the draft too; and whether the access log is read. */
  watch: z.object({
    lost: z.number().int(),
    readAt: instant.nullable(),
    problem: part.nullable(),
    alerts: z.array(alert),
  }),
  steps: z.object({ undo: decisionMessage.nullable(), redo: decisionMessage.nullable() }),
  runningJobs: z.array(job),
  lastImport: z
    .object({
      id,
      state: z.enum(['waiting', 'reading', 'reviewing', 'applied', 'failed', 'cancelled', 'dropped']),
      fileName: z.string(),
      error: keptError.nullable(),
    })
    .nullable(),
});
export type SiteOverview = z.infer<typeof siteOverview>;

export const newSite = z.object({ name: z.string().trim().min(1, 'a name is needed').max(100) });

/** A site that is deleted, and can still be taken back. */
export const goingSite = z.object({
  id,
  name: z.string(),
  /** Where visitors find it; it stays there, since it is at its own host. */
  answersAt: z.string().nullable(),
  isLive: z.boolean(),
  deletedAt: instant,
  by: z.string().nullable(),
  /** From then on nothing of it is kept. */
  goneAt: instant,
});
export type GoingSite = z.infer<typeof goingSite>;

export const sitesApi = {
  list: defineEndpoint('GET /sites', {
    summary: 'All sites of the team',
    access: 'client',
    answer: z.array(siteSummary),
  }),
  create: defineEndpoint('POST /sites', {
    summary: 'A new, empty site',
    access: 'editor',
    body: newSite,
    answer: siteSummary,
    status: 201,
  }),
  overview: defineEndpoint('GET /sites/:site', {
    summary: 'How a site stands',
    access: 'reviewer',
    params: siteParams,
    answer: siteOverview,
  }),
  delete: defineEndpoint('DELETE /sites/:site', {
    summary: 'A site is deleted; it can be taken back for 30 days',
    access: 'owner',
    params: siteParams,
    body: z.object({
      /** Its name, typed again. */
      confirmed: z.string(),
    }),
    trail: 'sites',
    answer: goingSite,
  }),
  going: defineEndpoint('GET /going-sites', {
    summary: 'Sites that are deleted and can be taken back',
    access: 'owner',
    answer: z.array(goingSite),
  }),
  takeBack: defineEndpoint('DELETE /going-sites/:going', {
    summary: 'A deleted site is taken back',
    access: 'owner',
    params: z.object({ going: id }),
    trail: 'sites',
    answer: siteSummary,
  }),
};
