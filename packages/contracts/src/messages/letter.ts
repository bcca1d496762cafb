/** What mail from the application says, and the few words of a preview that has nothing to show. */
import { defineMessages } from '@fastigium/core/messages';

export const letter = defineMessages('letter', {
  'password-subject': {},
  'password-asked': { email: 'text' },
  'password-set-here': {},
  'password-not-you': {},
});

export const preview = defineMessages('preview', {
  ended: {},
  'site-deleted': {},
  'no-address': {},
  gone: {},
  nothing: {},
  // A document that stands in a page.
  'document-page': { nth: 'number', name: 'text' },
  'document-more': { count: 'number' },
  'document-unreadable': { name: 'text' },
});
