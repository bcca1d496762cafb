/** Removing, what is removed, putting back, and removing for good. */
import { z } from 'zod';
import { LINK_TREATMENTS } from '@fastigium/core/site';
import { defineEndpoint } from '../define.ts';
import { notice as noticeMessages } from '../messages/notice.ts';
import { menuPart, puttingBack, standIn, stood } from '../messages/removal.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { id } from '../id.ts';
import { decisionMessage, done, instant, personRef, siteParams, version } from './common.ts';
import { putBackRequest, removeRequest } from '../decisions/removals.ts';

export const REMOVAL_KINDS = ['page', 'branch', 'section', 'file', 'menu item', 'redirects', 'group', 'link'] as const;

export const removalRow = z.object({
  /** The number of the decision that removed it. */
  of: z.number().int(),
  kind: z.enum(REMOVAL_KINDS),
  /** Its name; of redirects, the address the first of them leads from. */
  label: z.string(),
  /** Where it stood. */
  from: createMessageSchema(stood),
  /** Null for what has none. */
  address: z.string().nullable(),
  /** The page it is, or stands in; null for what is in no page. */
  page: id.nullable(),
  by: personRef,
  at: instant,
  why: z.string(),
  /** What visitors get at its addresses while it is away; null for what has none. */
  standsIn: createMessageSchema(standIn).nullable(),
  /** Things that went with it, itself counted, and how many are still out. */
  size: z.number().int(),
  left: z.number().int(),
  /** Visits of its addresses as they were counted; null where nobody counted. */
  visits: z.number().int().nullable(),
  /** The last time somebody asked for one of its addresses after it was removed, as logs have it. */
  askedSince: instant.nullable(),
  /** Null where it is kept without end. */
  keptUntil: instant.nullable(),
  held: z.object({ reason: z.string(), by: personRef }).nullable(),
});
export type RemovalRow = z.infer<typeof removalRow>;

export const removalList = z.object({
  version,
  /** Days; 0 for without end. */
  keptDays: z.number().int(),
  /** How many the next sweeps take within a week. */
  sweptSoon: z.number().int(),
  rows: z.array(removalRow),
});
export type RemovalList = z.infer<typeof removalList>;

export const removalDetail = z.object({
  of: z.number().int(),
  bundle: z.array(
    z.object({
      id: z.string(),
      kind: z.enum(['page', 'group', 'link', 'section', 'file', 'menu item', 'redirect', 'pattern']),
      label: z.string(),
      address: z.string().nullable(),
      depth: z.number().int(),
      isOut: z.boolean(),
    }),
  ),
  /** What each menu lost. */
  menus: z.array(createMessageSchema(menuPart)),
  links: z.enum(LINK_TREATMENTS),
  /** Of a section, its text as it stood. */
  text: z.string().nullable(),
});
export type RemovalDetail = z.infer<typeof removalDetail>;

const named = z.object({ id, label: z.string(), address: z.string() });

export const removePreview = z.object({
  label: part,
  /** What goes, itself first. */
  goes: z.array(z.object({ label: part, address: z.string().nullable() })),
  goesInAll: z.number().int(),
  /** Pages that link here from outside of what goes. */
  linkedFrom: z.array(named),
  linkedFromInAll: z.number().int(),
  menus: z.array(createMessageSchema(menuPart)),
  /** Old addresses that land on what goes. */
  redirects: z.array(z.string()),
  redirectsInAll: z.number().int(),
  visits: z.number().int().nullable(),
  roles: z.array(z.enum(['home', 'listing'])),
  /** The page above, which may stand in. */
  parent: named.nullable(),
  /** Whether it has an address that visitors may know. */
  hasAddress: z.boolean(),
  /** Of a section: what is in it. */
  inside: z
    .object({
      /** All of its text, as visitors read it. */
      words: z.string(),
      links: z.array(z.object({ label: z.string(), /** An address in the site, or a URL. */ to: z.string() })),
      linksInAll: z.number().int(),
      pictures: z.array(
        z.object({
          words: z.string(),
          /** In the site; null for one from elsewhere. */ address: z.string().nullable(),
        }),
      ),
      picturesInAll: z.number().int(),
      /** Pages no other link leads to. */
      lost: z.array(named),
    })
    .nullable(),
});
export type RemovePreview = z.infer<typeof removePreview>;

export const putBackPreview = z.object({
  /** What will change, a line each. */
  lines: z.array(
    z.object({
      what: z.enum(['back', 'place', 'menu', 'links', 'redirect', 'address', 'home', 'stays']),
      message: createMessageSchema(puttingBack),
    }),
  ),
  /** Addresses that somebody else has by now. */
  taken: z.array(
    z.object({
      label: z.string(),
      address: z.string(),
      by: z.string(),
      isFile: z.boolean(),
      /** A free one near it. */ free: z.string(),
    }),
  ),
  /** A removed page above it, where there is one. */
  parentOut: z.object({ label: z.string() }).nullable(),
  /** Where it comes to stand if the page above stays away. */
  under: createMessageSchema(stood),
});
export type PutBackPreview = z.infer<typeof putBackPreview>;

/** What somebody is told when they come by, once. */
export const notice = z.object({ id, message: createMessageSchema(noticeMessages), at: instant });
export type Notice = z.infer<typeof notice>;

export const releaseThing = z.object({
  /** Of the published file. */
  path: z.string(),
  address: z.string(),
  kind: z.enum(['page', 'file']),
  label: z.string(),
  /** Against today's draft: not there, removed and still to be put back, or there with other contents. */
  today: z.enum(['missing', 'removed', 'different']),
});
export type ReleaseThing = z.infer<typeof releaseThing>;

export const releaseThingDetail = z.object({
  path: z.string(),
  address: z.string(),
  kind: z.enum(['page', 'file']),
  label: z.string(),
  /** The page it is today, and where; null where it is not in the draft. */
  page: id.nullable(),
  addressToday: z.string().nullable(),
  /** The removal it can be put back from instead. */
  removal: z.number().int().nullable(),
  sections: z.array(
    z.object({
      name: z.string(),
      nth: z.number().int(),
      /** Whether today's page has one of this name. */ today: z.boolean(),
      /** Where it is removed there and can be put back. */ removal: z.number().int().nullable(),
    }),
  ),
  lines: z.array(z.object({ sign: z.enum([' ', '-', '+']), text: z.string() })),
  sizeBytes: z.number().int(),
});
export type ReleaseThingDetail = z.infer<typeof releaseThingDetail>;

const removalParams = siteParams.extend({ of: z.coerce.number().int().min(1) });

export const removalsApi = {
  list: defineEndpoint('GET /sites/:site/removals', {
    summary: 'Everything that is removed and can be put back, newest first',
    access: 'reviewer',
    params: siteParams,
    answer: removalList,
  }),
  detail: defineEndpoint('GET /sites/:site/removals/:of', {
    summary: 'One removal with all that went with it',
    access: 'reviewer',
    params: removalParams,
    answer: removalDetail,
  }),
  previewRemove: defineEndpoint('POST /sites/:site/removals/preview', {
    isLarge: true,
    summary: 'What removing something would mean',
    access: 'reviewer',
    params: siteParams,
    body: removeRequest.pick({ thing: true }),
    answer: removePreview,
  }),
  previewPutBack: defineEndpoint('POST /sites/:site/removals/put-back-preview', {
    isLarge: true,
    summary: 'What putting something back would change',
    access: 'reviewer',
    params: siteParams,
    body: putBackRequest.omit({ kind: true }),
    answer: putBackPreview,
  }),
  inRelease: defineEndpoint('GET /sites/:site/releases/:number/things', {
    summary: 'What a kept release had and today’s draft has not, or has otherwise',
    access: 'reviewer',
    params: siteParams.extend({ number: z.coerce.number().int().min(1) }),
    answer: z.array(releaseThing),
  }),
  thingInRelease: defineEndpoint('GET /sites/:site/releases/:number/thing', {
    summary: 'One thing as a kept release had it, beside today’s',
    access: 'reviewer',
    params: siteParams.extend({ number: z.coerce.number().int().min(1) }),
    query: z.object({ path: z.string().min(1).max(4000) }),
    answer: releaseThingDetail,
  }),
  forGood: defineEndpoint('POST /sites/:site/removals/for-good', {
    isLarge: true,
    summary: 'Delete removed things for good',
    access: 'owner',
    trail: 'releases',
    params: siteParams,
    body: z.object({
      version,
      of: z.array(z.number().int().min(1)).min(1).max(100_000),
      /** How many, or the name of the only one, as typed to confirm. */ confirmed: z.string().trim().max(1000),
    }),
    answer: z.object({ version, message: decisionMessage }),
  }),
  notices: defineEndpoint('GET /sites/:site/notices', {
    summary: 'What you are to be told about this site',
    access: 'reviewer',
    params: siteParams,
    answer: z.array(notice),
  }),
  noticeSeen: defineEndpoint('PUT /sites/:site/notices/:notice/seen', {
    summary: 'You have read it',
    access: 'reviewer',
    params: siteParams.extend({ notice: id }),
    answer: done,
  }),
  keepFor: defineEndpoint('PUT /sites/:site/removals/kept-days', {
    summary: 'How long removed things are kept',
    access: 'owner',
    trail: 'releases',
    params: siteParams,
    body: z.object({
      days: z.number().int().min(0, 'use 0 for without end').max(3650, 'use at most 3,650 days, or 0 for without end'),
    }),
    answer: z.object({
      keptDays: z.number().int(),
      /** Removals the new limit reaches already, and the day before which none of them goes. */ reached: z
        .number()
        .int(),
      notBefore: instant.nullable(),
    }),
  }),
};
