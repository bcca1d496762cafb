/** What settings and lines of the head are called. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const line = defineMessages('line', {
  title: {},
  language: {},
  description: {},
  robots: {},
  author: {},
  generator: {},
  'theme-colour': {},
  viewport: {},
  'share-title': {},
  'share-text': {},
  'share-picture': {},
  'share-picture-text': {},
  canonical: {},
  pattern: {},
  'site-name': {},
  tagline: {},
  'canonical-everywhere': {},
  'share-card': {},
  alternates: {},
  breadcrumb: {},
  article: {},
  event: {},
  organisation: {},
  data: {},
  'code-in-head': {},
  'code-at-end': {},
  translation: {},
  sitemap: {},
  'robots-txt': {},
  'security-txt': {},
  icons: {},
  /** One that has no other name than its own. */
  other: { name: 'text' },
});
export type LineMessage = MessageOf<typeof line>;
