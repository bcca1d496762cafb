import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { instant, siteParams } from './common.ts';
import { mail, recordNote, recordStep, resolved } from '@fastigium/core/dns';
import { nameScore } from '@fastigium/core/domain/messages';
import { link, meaning } from '@fastigium/core/reach';
import { keptError } from '../errors.ts';
import { certificate, host, nameFound } from '../messages/address.ts';
import { createMessageSchema, part } from '../messages/schema.ts';

export const LINKS = ['registration', 'name-servers', 'records', 'certificate', 'host'] as const;
export type LinkName = (typeof LINKS)[number];
export const LINK_STATES = ['right', 'moving', 'broken', 'waiting'] as const;

/** One question put to the world, and what came back. */
export const evidence = z.object({
  question: z.string(),
  ofWhom: z.string(),
  answer: part,
  at: instant,
  ms: z.number().int().nullable(),
  ok: z.boolean(),
});
export type AskedEvidence = z.infer<typeof evidence>;

export const chainLink = z.object({
  link: z.enum(LINKS),
  state: z.enum(LINK_STATES),
  words: createMessageSchema(link),
  meaning: createMessageSchema(meaning),
  asked: z.array(evidence),
});
export type ChainLink = z.infer<typeof chainLink>;

export const recordRow = z.object({
  name: z.string(),
  type: z.string(),
  answered: z.array(z.string()),
  answeredTtlSeconds: z.number().nullable(),
  needed: z.array(z.string()).nullable(),
  state: z.enum(['right', 'missing', 'wrong', 'in-the-way', 'kept', 'unneeded']),
  note: createMessageSchema(recordNote).nullable(),
});
export type RecordRowView = z.infer<typeof recordRow>;

export const recordChange = z.object({
  zone: z.string(),
  kind: z.enum(['add', 'replace', 'remove']),
  name: z.string(),
  type: z.string(),
  from: z.array(z.string()),
  to: z.array(z.string()),
  ttlSeconds: z.number().int(),
  words: createMessageSchema(recordStep),
});
export type RecordChangeView = z.infer<typeof recordChange>;

export const resolverSpread = z.object({
  resolver: z.string(),
  address: z.string(),
  state: z.enum(['new', 'old', 'silent']),
  oldUntil: instant.nullable(),
  /** What it answers otherwise than it will. */
  answers: z.array(createMessageSchema(resolved)),
  added: z.boolean(),
});

export const spread = z.object({
  /** False: no name server answered at the last lookup, and what is said of them is older. */
  authorityAnswers: z.boolean(),
  authorityNewSince: instant.nullable(),
  everyoneBy: instant.nullable(),
  resolvers: z.array(resolverSpread),
  /** The longest time a present answer may be kept, for planning a change. */
  presentTtlSeconds: z.number().int().nullable(),
  negativeTtlSeconds: z.number().int().nullable(),
});
export type SpreadView = z.infer<typeof spread>;

export const certificateView = z.object({
  state: z.enum(['none', 'waiting', 'ordering', 'served', 'wrong', 'expired']),
  words: createMessageSchema(certificate),
  names: z.array(z.string()),
  issuer: z.string().nullable(),
  chain: z.array(z.string()),
  notBefore: instant.nullable(),
  notAfter: instant.nullable(),
  daysLeft: z.number().nullable(),
  renewAt: instant.nullable(),
  nextTry: instant.nullable(),
  error: keptError.nullable(),
});
export type CertificateView = z.infer<typeof certificateView>;

export const siteDomain = z.object({
  name: z.string(),
  unicode: z.string(),
  zone: z.string(),
  main: z.string(),
  mainForm: z.enum(['www', 'apex']),
  hasPair: z.boolean(),
  others: z.array(
    z.object({ name: z.string(), status: z.union([z.literal(301), z.literal(308)]), further: z.boolean() }),
  ),
  inAccount: z.boolean(),
  updates: z.object({ server: z.string(), keyName: z.string() }).nullable(),
  /** Zones whose name servers take updates from here. */
  updatable: z.array(z.string()),
  forceHttps: z.boolean(),
  hstsSeconds: z.number().int().nullable(),
  zoneBrought: z.boolean(),
});

/** How one domain stands: a chain, records and a certificate of its own, whatever becomes of the site's others. */
const domainStanding = z.object({
  chain: z.array(chainLink),
  firstBroken: z.enum(LINKS).nullable(),
  records: z.array(recordRow),
  changes: z.array(recordChange),
  /** A message for each zone there is something to say of, the main one first. */
  mail: z.object({ endangered: z.boolean(), messages: z.array(createMessageSchema(mail)) }).nullable(),
  spread: spread.nullable(),
  certificate: certificateView,
});
export type DomainStanding = z.infer<typeof domainStanding>;

/** What was registered, its apex, with the names in it that lead to the site. */
const furtherDomain = domainStanding.extend({
  zone: z.string(),
  unicode: z.string(),
  names: z.array(z.string()),
});
export type FurtherDomain = z.infer<typeof furtherDomain>;

/** The main domain's standing, and those of the domains that redirect to it. */
export const addressView = domainStanding.extend({
  /** By the world's clock. */
  now: instant,
  simulated: z.boolean(),
  temporary: z.object({ label: z.string(), url: z.string() }).nullable(),
  hostWords: createMessageSchema(host),
  hostNaming: z.boolean(),
  /** Whether there is a registrar that names can be registered with from here. */
  canRegister: z.boolean(),
  domain: siteDomain.nullable(),
  lookedAt: instant.nullable(),
  nextLookupAt: instant.nullable(),
  further: z.array(furtherDomain),
});
export type AddressView = z.infer<typeof addressView>;

export const cost = z.object({
  years: z.number().int(),
  totalCents: z.number().int(),
  perYearCents: z.number().int(),
  renewalCents: z.number().int(),
  privacyCents: z.number().int(),
});
export const foundName = z.object({
  name: z.string(),
  unicode: z.string(),
  state: z.enum(['free', 'taken', 'unknown']),
  words: createMessageSchema(nameFound),
  asked: z.boolean(),
  alternative: z.boolean(),
  score: z.object({
    points: z.number().int(),
    reasons: z.array(z.object({ points: z.number().int(), message: createMessageSchema(nameScore) })),
  }),
  currency: z.string().nullable(),
  costs: z.array(cost),
  costsWithPrivacy: z.array(cost),
});
export type FoundName = z.infer<typeof foundName>;

const name = z.string().trim().min(1, 'write a name').max(300);

export const addressApi = {
  view: defineEndpoint('GET /sites/:site/address', {
    summary: 'How a visitor reaches the site, as last seen',
    access: 'reviewer',
    params: siteParams,
    answer: addressView,
  }),
  lookUp: defineEndpoint('POST /sites/:site/address/lookups', {
    summary: 'Ask everything again, now',
    access: 'editor',
    params: siteParams,
    answer: addressView,
  }),
  find: defineEndpoint('GET /sites/:site/names', {
    summary: 'Free and taken names near one',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ q: name }),
    answer: z.object({ siteWords: z.array(z.string()), names: z.array(foundName) }),
  }),
  register: defineEndpoint('POST /sites/:site/names', {
    summary: 'Register a free name and connect it',
    access: 'owner',
    trail: 'hosts',
    params: siteParams,
    status: 201,
    body: z.object({ name, years: z.number().int().min(1).max(10), privacy: z.boolean() }),
    answer: addressView,
  }),
  bring: defineEndpoint('PUT /sites/:site/domain', {
    summary: 'Connect a name that is owned already',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    body: z.object({ name }),
    answer: addressView,
    status: 201,
  }),
  leave: defineEndpoint('DELETE /sites/:site/domain/:name', {
    summary: 'Let a name go',
    access: 'editor',
    trail: 'hosts',
    params: siteParams.extend({ name }),
    answer: addressView,
  }),
  further: defineEndpoint('POST /sites/:site/domain/further', {
    summary: 'Add a name that redirects to the main one',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    body: z.object({ name }),
    answer: addressView,
    status: 201,
  }),
  settings: defineEndpoint('PATCH /sites/:site/address', {
    summary: 'Main form, https, HSTS',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    answer: addressView,
    body: z.object({
      mainForm: z.enum(['www', 'apex']).optional(),
      forceHttps: z.boolean().optional(),
      hstsSeconds: z.number().int().min(0).max(63_072_000).nullable().optional(),
    }),
  }),
  zone: defineEndpoint('GET /sites/:site/zone', {
    summary: 'The zone as a master file, with what is needed',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({ zone: z.string(), text: z.string(), now: z.string(), source: z.string() }),
  }),
  bringZone: defineEndpoint('PUT /sites/:site/zone', {
    isLarge: true,
    summary: 'Bring the zone file of before, so that nothing in it is lost',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    body: z.object({ text: z.string().max(1_000_000) }),
    answer: z.object({ records: z.number().int(), kept: z.number().int() }),
  }),
  updateKey: defineEndpoint('PUT /sites/:site/address/update-key', {
    summary: 'Keep a key for DNS updates',
    access: 'owner',
    trail: 'secrets',
    params: siteParams,
    answer: addressView,
    body: z.object({
      server: z.string().trim().max(300),
      keyName: name,
      algorithm: z.enum(['hmac-sha256', 'hmac-sha384', 'hmac-sha512']).default('hmac-sha256'),
      secret: z.string().trim().max(500),
    }),
  }),
  sendUpdate: defineEndpoint('POST /sites/:site/address/update', {
    summary: 'Send the changes to the name server',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    answer: addressView,
    body: z.object({
      changes: z
        .array(recordChange.omit({ words: true }))
        .min(1)
        .max(200),
    }),
  }),
  orderCertificate: defineEndpoint('POST /sites/:site/address/certificate', {
    summary: 'Order a certificate now, for the main domain or the one that is named by its zone',
    access: 'editor',
    trail: 'secrets',
    params: siteParams,
    body: z.object({ zone: name.optional() }),
    answer: z.object({ job: z.uuid() }),
    status: 202,
  }),
  addResolver: defineEndpoint('POST /sites/:site/resolvers', {
    summary: 'Ask one more resolver',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    body: z.object({ name, address: z.string().trim().max(100) }),
    answer: addressView,
    status: 201,
  }),
  removeResolver: defineEndpoint('DELETE /sites/:site/resolvers/:address', {
    summary: 'Ask it no more',
    access: 'editor',
    trail: 'hosts',
    params: siteParams.extend({ address: z.string().max(100) }),
    answer: addressView,
  }),
};
