/** A registrar: what names cost, buying them, and the zones in the account. */
import { z } from 'zod';

export const namePrice = z.object({
  currency: z.string(),
  firstYearCents: z.number().int(),
  renewalCents: z.number().int(),
  privacyCents: z.number().int(),
  longTermPercent: z.number().int(),
});
export const prices = z.object({ prices: z.record(z.string(), namePrice) });
export type Prices = z.infer<typeof prices>['prices'];

export const holding = z.object({
  name: z.string(),
  expiresAtMs: z.number(),
  nameServers: z.array(z.string()),
  updateKey: z.object({ name: z.string(), secret: z.string() }).nullable(),
});
export type Holding = z.infer<typeof holding>;
export const zoneText = z.object({ zone: z.string(), text: z.string() });

/** The parts of an RDAP domain answer (RFC 9083 section 5.3) that are used. */
export const rdapDomain = z.object({
  objectClassName: z.literal('domain'),
  ldhName: z.string(),
  status: z.array(z.string()).default([]),
  events: z.array(z.object({ eventAction: z.string(), eventDate: z.string() })).default([]),
  nameservers: z.array(z.object({ ldhName: z.string() })).default([]),
});

export type Registration =
  | { readonly kind: 'held'; readonly expiresAt: string | null; readonly nameServers: readonly string[] }
  | { readonly kind: 'free' };

export interface RegistrarPort {
  /** Asks the registry by RDAP; throws a DomainError where it does not answer. */
  registration(name: string): Promise<Registration>;
  prices(): Promise<Prices>;
  register(order: { name: string; years: number; privacy: boolean }): Promise<Holding>;
  /** Undefined for a name that is not in this account. */
  holding(name: string): Promise<Holding | undefined>;
  zone(name: string): Promise<string>;
  replaceZone(name: string, text: string): Promise<void>;
}
