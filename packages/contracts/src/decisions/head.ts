/** What heads say, and the site’s icons. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { scope } from './parts.ts';

/** Null: what is there is taken back; false: nothing is to stand there. */
export const headSetting = z.object({
  scope,
  name: z.string().min(1).max(200),
  text: z.union([z.string().max(512 * 1024), z.literal(false)]).nullable(),
  own: z.enum(['kept', 'replaced']).nullable().default(null),
});
export type HeadSettingRequest = z.input<typeof headSetting>;

export const headRequests = [
  z.object({ kind: z.literal('head'), settings: z.array(headSetting).min(1).max(100_000) }),
  z.object({ kind: z.literal('icons-removed') }),
] as const;

export const headMessages = {
  /** `lines` are named up to two; of more, `kinds` counts them. */
  'head-set': {
    where: 'message',
    lines: 'list',
    kinds: 'number',
    how: ['inherited', 'leftOut', 'kept', 'inPlaceOfOwn', 'set'],
  },
  'head-set-to': { where: 'message', line: 'message', text: 'text' },
  'icons-made': { file: 'text' },
  'icons-made-of-picture': {},
  'icons-removed': {},
} as const satisfies Definitions;
