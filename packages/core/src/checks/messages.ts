/** What tells one finding of a check from others of its kind, where that takes a sentence. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const snag = defineMessages('snag', {
  'language-unknown': { tag: 'text', why: 'message' },
  data: { problem: 'message' },
  'data-at': { at: 'text', problem: 'message' },
});
export type SnagMessage = MessageOf<typeof snag>;
