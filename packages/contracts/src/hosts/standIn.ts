/** The host this Fastigium came with, which has plans to choose from. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';

export const standInRequest = z.object({ kind: z.literal('stand-in') });
export type StandInRequest = z.infer<typeof standInRequest>;

export const standInMessages = {
  none: {},
  plan: { host: 'text', plan: 'text' },
  'no-plan': { host: 'text' },
} as const satisfies Definitions;
