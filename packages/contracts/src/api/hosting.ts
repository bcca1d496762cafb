import { planLack } from '@fastigium/core/hosting';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { hostLabel, hostPlan } from '../ports/host.ts';
import { HOST_KINDS, hostRequest } from '../hosts/request.ts';
import { sftpServer } from '../hosts/sftp.ts';
import { instant, siteParams } from './common.ts';
import { host } from '../messages/address.ts';
import { createMessageSchema } from '../messages/schema.ts';

export const planOffer = z.object({
  plan: hostPlan,
  fits: z.boolean(),
  lacks: z.array(createMessageSchema(planLack)),
  usedPercent: z.number(),
  setUpCents: z.number().int(),
  totalCents: z.number().int(),
  perMonthCents: z.number().int(),
  downMinutesPerMonth: z.number(),
});
/** Distances are null while nobody has said where visitors are. */
export const regionOffer = z.object({
  id: z.string(),
  name: z.string(),
  km: z.number().nullable(),
  leastRoundTripMs: z.number().nullable(),
});
export const visitorGroup = z.object({
  code: z.string(),
  country: z.string(),
  latitude: z.number(),
  longitude: z.number(),
  weight: z.number(),
});
export const country = z.object({ code: z.string(), name: z.string(), latitude: z.number(), longitude: z.number() });

export const hostAccount = z.object({
  kind: z.enum(HOST_KINDS),
  words: createMessageSchema(host),
  plan: z.string().nullable(),
  region: z.string().nullable(),
  months: z.number().int().nullable(),
  pinnedKey: z.string().nullable(),
  probedAt: instant.nullable(),
  hasSecret: z.boolean(),
});

export const hostingView = z.object({
  account: hostAccount,
  simulated: z.boolean(),
  needs: z.object({
    files: z.number().int(),
    bytes: z.number().int(),
    ownDomain: z.boolean(),
    certificate: z.boolean(),
    password: z.boolean(),
    backups: z.boolean(),
  }),
  months: z.number().int(),
  plans: z.array(planOffer),
  regions: z.array(regionOffer),
  visitors: z.array(visitorGroup),
  temporary: z.object({ label: z.string(), url: z.string() }).nullable(),
  /** Folders of the machine Fastigium runs on that sites may be published into, with all below them. */
  folders: z.array(z.string()),
});
export type HostingView = z.infer<typeof hostingView>;

export const hostKey = z.object({ fingerprint: z.string() });

export const hostingApi = {
  view: defineEndpoint('GET /sites/:site/hosting', {
    summary: 'Plans against what the site needs, regions by distance',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ months: z.coerce.number().int().min(1).max(60).default(12) }),
    answer: hostingView,
  }),
  choose: defineEndpoint('PUT /sites/:site/hosting/plan', {
    summary: 'Choose a plan and a region',
    access: 'owner',
    trail: 'hosts',
    params: siteParams,
    answer: hostingView,
    body: z.object({ plan: z.string().max(60), region: z.string().max(60), months: z.number().int().min(1).max(60) }),
  }),
  visitors: defineEndpoint('PUT /sites/:site/hosting/visitors', {
    summary: 'Say where visitors are',
    access: 'editor',
    trail: 'secrets',
    params: siteParams,
    body: z.object({
      visitors: z
        .array(z.object({ code: z.string().regex(/^[A-Z]{2}$/), visits: z.number().min(0).max(1e12) }))
        .max(250),
    }),
    answer: hostingView,
  }),
  countries: defineEndpoint('GET /countries', {
    summary: 'Countries and where they are',
    access: 'reviewer',
    answer: z.array(country),
  }),
  temporary: defineEndpoint('PUT /sites/:site/hosting/temporary', {
    summary: 'Change the temporary address; the old one redirects for a while',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    answer: hostingView,
    body: z.object({ label: hostLabel, keepOldDays: z.number().int().min(0).max(365).default(30) }),
  }),
  hostKey: defineEndpoint('POST /sites/:site/hosting/host-key', {
    summary: 'The key a server shows, to be agreed to',
    access: 'owner',
    trail: 'hosts',
    params: siteParams,
    body: z.object(sftpServer),
    answer: hostKey,
  }),
  connect: defineEndpoint('PUT /sites/:site/hosting/account', {
    summary: 'Publish to an account of any kind, tried before it counts',
    access: 'owner',
    trail: 'hosts',
    params: siteParams,
    body: hostRequest,
    answer: hostingView,
  }),
};
