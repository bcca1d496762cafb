/** Why a text is no language tag. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const languageTag = defineMessages('language-tag', {
  empty: {},
  'not-written-as-one': {},
  'not-registered': { subtag: 'text', kind: ['language', 'extlang', 'script', 'region', 'variant'] },
});
export type LanguageTagMessage = MessageOf<typeof languageTag>;
