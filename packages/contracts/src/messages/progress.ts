/** What a job is doing right now. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const progressStep = defineMessages('step', {
  'asking-for-robots': {},
  'asking-from-outside': {},
  'asking-live-host': {},
  'asking-other-hosts': {},
  'asking-search-index': {},
  'checking-pages': {},
  'comparing-pages': {},
  'compiling-pages': {},
  'certificate-account': {},
  'certificate-order': {},
  'certificate-prove': { name: 'text' },
  'certificate-fetch': {},
  'certificate-try': { name: 'text' },
  crawling: {},
  'fetching-sitemap': {},
  'fetching-upload': {},
  'keeping-addresses': {},
  'looking-who-needs-it': {},
  'putting-together': {},
  'reading-addresses': {},
  'reading-files': {},
  'reading-old-pages': {},
  sending: {},
  'taking-pictures': {},
});
export type ProgressStep = MessageOf<typeof progressStep>;
