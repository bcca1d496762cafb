/** The day of the move: its steps in order, with their times and what was measured. */
import { z } from 'zod';
import { measured } from '@fastigium/core/reach';
import { defineEndpoint } from '../define.ts';
import { createMessageSchema } from '../messages/schema.ts';
import { instant, siteParams } from './common.ts';

export const MOVE_STATES = ['done', 'now', 'waits', 'late', 'unneeded'] as const;
export const MOVE_STEPS = [
  'snags',
  'old-addresses',
  'published',
  'domain',
  'ttl-lowered',
  'records',
  'spread',
  'certificate',
  'own-name',
  'watched',
  'old-host',
  'ttl-raised',
] as const;

export const moveStep = z.object({
  step: z.enum(MOVE_STEPS),
  state: z.enum(MOVE_STATES),
  measured: createMessageSchema(measured),
  /** Not before, and not after. */
  from: instant.nullable(),
  by: instant.nullable(),
});
export type MoveStepView = z.infer<typeof moveStep>;

export const move = z.object({
  /** By the world's clock. */
  now: instant,
  simulated: z.boolean(),
  /** When visitors are to move over; null where nobody chose. */
  changeAt: instant.nullable(),
  steps: z.array(moveStep),
});
export type Move = z.infer<typeof move>;

export const moveApi = {
  get: defineEndpoint('GET /sites/:site/move', {
    summary: 'The steps of the move, as far as they were measured',
    access: 'reviewer',
    params: siteParams,
    answer: move,
  }),
  plan: defineEndpoint('PUT /sites/:site/move', {
    summary: 'When visitors are to move over; null for no time yet',
    access: 'editor',
    params: siteParams,
    body: z.object({ changeAt: instant.nullable() }),
    answer: move,
  }),
};
