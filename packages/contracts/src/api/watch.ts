/** The days after: what visitors did not find, and which redirects they use. */
import { alert as alertMessages } from '@fastigium/core/watch';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { createMessageSchema, part } from '../messages/schema.ts';
import { id } from '../id.ts';
import { findingMessage, instant, siteParams } from './common.ts';

const count = z.number().int();

/** Of the last fourteen days, today last; every list of days has as many. */
export const WATCH_DAYS = 14;

export const lostAddress = z.object({
  address: z.string(),
  visits: count,
  byDay: z.array(count).length(WATCH_DAYS),
  robotVisits: count,
  lastAt: instant,
  /** Where the last visitor came from. */
  referrer: z.string().nullable(),
  /** `lost`: finds nothing, on the draft too; `settled`: the draft leads somewhere; `answers`: the live release does so by now. */
  standing: z.enum(['lost', 'settled', 'answers']),
  /** Asked for today far more than usual. */
  isSpike: z.boolean(),
  /** Set apart as noise, by a rule or a person. */
  isApart: z.boolean(),
});
export type LostAddress = z.infer<typeof lostAddress>;

export const usedRule = z.object({
  from: z.string(),
  isPattern: z.boolean(),
  status: count,
  to: z.string().nullable(),
  visits: count,
  addresses: count,
  lastAt: instant.nullable(),
});
export type UsedRule = z.infer<typeof usedRule>;

export const watchedDay = z.object({
  day: z.string(),
  found: count,
  redirected: count,
  lost: count,
  gone: count,
  failed: count,
  robots: count,
});
export type WatchedDay = z.infer<typeof watchedDay>;

export const UP_DAYS = 30;
export const upSchema = z.object({
  /** Of the last thirty days, as far as it was watched. */
  percent: z.number().nullable(),
  watchedMinutes: z.number(),
  downMinutes: z.number(),
  /** What the chosen plan promises, and the minutes that allows in thirty days. */
  promised: z.object({ percent: z.number(), minutes: z.number() }).nullable(),
  /** To the first byte, in milliseconds: the middle, and what nineteen of twenty stay below. */
  firstByte: z.object({ median: z.number(), p95: z.number() }).nullable(),
  lastAt: instant.nullable(),
  isUp: z.boolean().nullable(),
  days: z
    .array(z.object({ day: z.string(), percent: z.number().nullable(), median: z.number().nullable() }))
    .length(UP_DAYS),
  outages: z.array(z.object({ from: instant, to: instant.nullable(), problem: part })),
});
export type Up = z.infer<typeof upSchema>;

/** What the live host gives otherwise than the release, as far as it was asked. */
export const drift = z.object({
  checkedAt: instant,
  /** Null while all is right. */ since: instant.nullable(),
  asked: count,
  findings: z.array(z.object({ address: z.string(), message: findingMessage })),
});
export type Drift = z.infer<typeof drift>;

export const ALERT_KINDS = ['away', 'drift', 'certificate', 'registration', 'comes-down', 'spike', 'log'] as const;
export const alert = z.object({
  kind: z.enum(ALERT_KINDS),
  weight: z.enum(['wrong', 'caution']),
  message: createMessageSchema(alertMessages),
});
export type Alert = z.infer<typeof alert>;

export const watch = z.object({
  /** `none`: nothing is live; `no-log`: the host gives none. */
  state: z.enum(['none', 'no-log', 'reading']),
  readAt: instant.nullable(),
  problem: part.nullable(),
  notRead: count,
  days: z.array(watchedDay).length(WATCH_DAYS),
  lost: z.array(lostAddress),
  rules: z.array(usedRule),
  up: upSchema,
  /** Null while it was not looked at since the last release. */
  drift: drift.nullable(),
  alerts: z.array(alert),
  /** Days ahead; null where there is none, or none is known. */
  dates: z.object({
    /** Of each domain, the main one's first. */
    certificates: z.array(z.object({ name: z.string(), at: instant })),
    registrations: z.array(z.object({ name: z.string(), at: instant })),
    comesDown: z.iso.date().nullable(),
  }),
  /** Since when uses of redirects are counted. */
  since: instant.nullable(),
});
export type Watch = z.infer<typeof watch>;

export const watchApi = {
  get: defineEndpoint('GET /sites/:site/watch', {
    summary: 'What visitors of the live site met in the last days',
    access: 'reviewer',
    params: siteParams,
    answer: watch,
  }),
  checkDrift: defineEndpoint('POST /sites/:site/watch/drift', {
    summary: 'Asks the live host whether it still gives what was published',
    access: 'editor',
    params: siteParams,
    answer: z.object({ findings: count }),
  }),
  putRight: defineEndpoint('POST /sites/:site/watch/put-right', {
    summary: 'Publish the live release again, whole',
    access: 'editor',
    trail: 'hosts',
    params: siteParams,
    answer: z.object({ release: count, job: id }),
    status: 202,
  }),
  read: defineEndpoint('POST /sites/:site/watch/read', {
    summary: 'Reads what the host’s access log has gained',
    access: 'editor',
    params: siteParams,
    answer: z.object({ requests: count }),
  }),
};
