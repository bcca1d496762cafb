/** What somebody is told when they come by. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const notice = defineMessages('notice', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  /** `label`: the first of them. */
  'swept-by': { person: 'text', count: 'number', label: 'text' },
  'swept-by-time': { count: 'number', label: 'text' },
  'set-time-missed': { at: 'instant' },
  'set-time-outdated': { at: 'instant' },
});
export type NoticeMessage = MessageOf<typeof notice>;
