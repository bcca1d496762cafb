/** What a lookup in the world brought home, as it is kept. */
import { LINKS } from '@fastigium/contracts/api/address';
import { part } from '@fastigium/contracts/messages/schema';
import { z } from 'zod';

const recordSet = z.object({ name: z.string(), type: z.string(), ttlSeconds: z.number(), data: z.array(z.string()) });
const sighting = z.object({
  resolver: z.string(),
  name: z.string(),
  type: z.string(),
  atMs: z.number(),
  kind: z.enum(['data', 'none', 'failed']),
  data: z.array(z.string()),
  ttlSeconds: z.number(),
});

/** Of one domain, what hangs on nothing but itself. */
const domainFacts = z.object({
  registration: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('held'), expiresAtMs: z.number().optional() }),
    z.object({ kind: z.literal('free') }),
    z.object({ kind: z.literal('failed'), reason: part }),
  ]),
  nameServers: z.array(z.object({ name: z.string(), serial: z.number().optional(), reason: part })),
  certificate: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('served'),
      seen: z.object({
        names: z.array(z.string()),
        issuer: z.string(),
        chain: z.array(z.string()),
        notBeforeMs: z.number(),
        notAfterMs: z.number(),
        trusted: z.boolean(),
      }),
    }),
    z.object({ kind: z.literal('failed'), reason: part }),
  ]),
  host: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('answered'), status: z.number(), ms: z.number(), location: z.string().optional() }),
    z.object({ kind: z.literal('failed'), reason: part }),
  ]),
});
export type DomainFacts = z.infer<typeof domainFacts>;

/** The main domain's facts, and those of the others by their zones; lookups of earlier versions had none of them. */
export const lookupFacts = domainFacts.extend({
  further: z.array(domainFacts.extend({ zone: z.string() })).default([]),
  asked: z.array(
    z.object({
      /** Of which domain; lookups of earlier versions did not say. */
      zone: z.string().optional(),
      link: z.enum(LINKS),
      question: z.string(),
      ofWhom: z.string(),
      answer: part,
      atMs: z.number(),
      ms: z.number().nullable(),
      ok: z.boolean(),
    }),
  ),
  zones: z.array(
    z.object({
      zone: z.string(),
      answered: z.boolean(),
      sets: z.array(recordSet),
      negativeTtlSeconds: z.number().nullable(),
    }),
  ),
  /** From the authority and from the resolvers. */
  authority: z.array(sighting),
  sightings: z.array(sighting),
});
export type LookupFacts = z.infer<typeof lookupFacts>;
export type FactsAsked = LookupFacts['asked'][number];
