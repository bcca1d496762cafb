import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { done, instant } from './common.ts';

const nameServerFault = z.enum(['none', 'silent', 'refuses', 'lags', 'truncates']);
const resolverFault = z.enum(['none', 'silent', 'refuses', 'lies', 'mixes-up']);

export const standInFaults = z.object({
  nameServers: z.tuple([nameServerFault, nameServerFault]),
  resolvers: z.record(z.string(), resolverFault),
  certificate: z.enum(['none', 'expired', 'wrong-name']),
  authority: z.enum(['none', 'refuses', 'silent']),
  registrar: z.enum(['none', 'silent', 'refuses']),
});
export type StandInFaults = z.infer<typeof standInFaults>;

export const standInClock = z.object({ now: instant, aheadMs: z.number().int() });

export const standInsApi = {
  clock: defineEndpoint('GET /stand-ins/clock', {
    summary: 'The clock of the simulated world',
    access: 'reviewer',
    answer: standInClock.nullable(),
  }),
  runOn: defineEndpoint('POST /stand-ins/clock', {
    summary: 'Let time run on',
    access: 'editor',
    body: z.object({
      byMs: z
        .number()
        .int()
        .min(0)
        .max(366 * 86_400_000),
    }),
    answer: standInClock,
  }),
  faults: defineEndpoint('GET /stand-ins/faults', {
    summary: 'How the stand-ins fail now',
    access: 'reviewer',
    answer: standInFaults,
  }),
  setFaults: defineEndpoint('PUT /stand-ins/faults', {
    summary: 'Make them fail, or well again',
    access: 'editor',
    body: standInFaults,
    answer: standInFaults,
  }),
  zone: defineEndpoint('GET /stand-ins/zones/:zone', {
    summary: 'A zone as the registrar’s own panel shows it',
    access: 'reviewer',
    params: z.object({ zone: z.string().max(253) }),
    answer: z.object({ zone: z.string(), text: z.string() }),
  }),
  setZone: defineEndpoint('PUT /stand-ins/zones/:zone', {
    isLarge: true,
    summary: 'Change it by hand there',
    access: 'editor',
    params: z.object({ zone: z.string().max(253) }),
    body: z.object({ text: z.string().max(1_000_000) }),
    answer: done,
  }),
};
