/** How the head of a page as it is live differs from the one that was published. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const headProof = defineMessages('head-proof', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  'no-answer': { reason: 'text' },
  status: { status: 'number' },
  'nothing-answered': {},
  missing: { line: 'text' },
  added: { line: 'text' },
});
export type HeadProofMessage = MessageOf<typeof headProof>;
