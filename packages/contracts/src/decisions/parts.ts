/** Parts that several requests have. */
import { z } from 'zod';
import { id } from '../id.ts';

/** Element of a page, without its `#`. */
export const fragment = z.string().min(1).max(200).optional();
/** Not the page itself, which is a list, but the newest entry in it. */
export const newest = z.literal(true).optional();
export const scope = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('page'), page: id }),
  z.object({ kind: z.literal('branch'), page: id }),
  z.object({ kind: z.literal('everywhere') }),
]);
export const title = z.string().trim().max(1000, 'use at most 1,000 letters');

/** Where something is said to be either so or not so. */
export const ONE_OF_TWO = ['yes', 'no'] as const;
