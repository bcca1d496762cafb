/** Taking decisions back, and doing them again. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';

export const stepRequests = [
  z.object({ kind: z.literal('undo'), of: z.number().int().min(1) }),
  z.object({ kind: z.literal('step'), direction: z.enum(['back', 'forward']) }),
] as const;

export const stepMessages = {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  undone: { decision: 'message' },
  redone: { decision: 'message' },
  /** Taken back for one release, and done again after it. */
  'left-out': { decision: 'message' },
  'in-draft': { decision: 'message' },
} as const satisfies Definitions;
