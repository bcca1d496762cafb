/** Why some markup cannot be put on a page. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const markup = defineMessages('markup', {
  empty: {},
  'never-ends': { line: 'number' },
  'whole-page': {},
  'never-closed': { element: 'text', line: 'number' },
  'not-in-head': { element: 'text' },
  'text-in-head': {},
});
export type MarkupMessage = MessageOf<typeof markup>;
