/** Who may visit, and until when. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { id } from '../id.ts';

/** `:` ends the name in HTTP's Basic scheme (RFC 7617 section 2). */
const user = z
  .string()
  .trim()
  .regex(/^[\x21-\x39\x3b-\x7e]{1,64}$/, 'use letters and figures without spaces and colons for the name, at most 64');
/** bcrypt reads no more than 72 bytes. */
const password = z
  .string()
  .min(8, 'use at least 8 letters for the password')
  .refine((text) => new TextEncoder().encode(text).length <= 72, 'use at most 72 letters for the password')
  .refine((text) => !/[\x00-\x1f\x7f]/.test(text), 'use no control characters in the password');

const entryRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('everyone') }),
  z.object({ kind: z.literal('nobody') }),
  z.object({ kind: z.literal('password'), user, password }),
]);

export const visitorRequests = [
  /** Null for the whole site; an entry of null takes back what was said. */
  z.object({ kind: z.literal('entry'), place: id.nullable(), entry: entryRequest.nullable() }),
  z.object({ kind: z.literal('shown-instead'), page: id.nullable() }),
  z.object({ kind: z.literal('last-day'), day: z.iso.date('write the day as 2027-03-31').nullable() }),
] as const;

export const visitorMessages = {
  'entry-set': { who: ['everyone', 'nobody', 'password'], where: 'message' },
  'entry-removed': { where: 'message' },
  'shown-instead': { name: 'text' },
  'not-shown-instead': {},
  'last-day-set': { day: 'day' },
  'last-day-removed': {},
} as const satisfies Definitions;
