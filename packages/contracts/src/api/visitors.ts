/** Who may visit the site and its branches, as the draft says it. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { siteParams, version } from './common.ts';

export const ENTRY_KINDS = ['everyone', 'password', 'nobody'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

export const visitorPlace = z.object({
  /** The page a branch begins at; null for the whole site. */
  place: id.nullable(),
  title: z.string(),
  address: z.string(),
  kind: z.enum(ENTRY_KINDS),
  /** The name that is typed beside a password. */
  user: z.string().nullable(),
});
export type VisitorPlace = z.infer<typeof visitorPlace>;

const shownPage = z.object({ page: id, title: z.string(), address: z.string() });

export const visitors = z.object({
  version,
  /** The site first, then branches by their address; what is not among them everyone may visit. */
  places: z.array(visitorPlace),
  /** Shown where nobody may visit yet, or the site has come down; null: a plain line of the host. */
  instead: shownPage.nullable(),
  /** The last day the site can be visited, in UTC. */
  lastDay: z.iso.date().nullable(),
  /** Whether the host does it by itself; other servers are told by files of the release that is taken along. */
  isEnforced: z.boolean(),
});
export type Visitors = z.infer<typeof visitors>;

export const visitorsApi = {
  get: defineEndpoint('GET /sites/:site/visitors', {
    summary: 'Who may visit, as the draft says it',
    access: 'reviewer',
    params: siteParams,
    answer: visitors,
  }),
  passwords: defineEndpoint('GET /sites/:site/visitors/passwords', {
    summary: 'What visitors type, for whoever tells them',
    access: 'editor',
    trail: 'secrets',
    params: siteParams,
    answer: z.object({
      passwords: z.array(z.object({ place: id.nullable(), user: z.string(), password: z.string() })),
    }),
  }),
};
