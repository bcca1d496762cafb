/** What a visitor notices of a page, file or rule that is another than before. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

const WAYS = ['yes', 'no'] as const;

export const change = defineMessages('change', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },

  /** Of what a change concerns. */
  'whole-site': {},
  'what-pages-need': {},
  'old-addresses': {},
  pages: { count: 'number' },
  patterns: {},
  'shown-instead': {},

  'first-pages': { count: 'number' },
  'first-files': { count: 'number' },
  'first-redirects': { count: 'number' },

  page: { parts: 'clauses' },
  'page-changed': {},
  'page-source-only': {},
  'page-title-new': { title: 'text' },
  'page-title': { before: 'text', after: 'text' },
  'page-head': { lines: 'series' },
  'page-menus': { places: 'number' },
  'page-text': { places: 'number' },
  'page-links': { places: 'number' },
  'pages-links-follow': {},
  'pages-head': { lines: 'series' },

  'page-added': {},
  'page-added-titled': { title: 'text' },
  'file-added': { size: 'bytes' },
  'file-replaced': { before: 'bytes', after: 'bytes' },
  removed: {},
  moved: { from: 'text' },

  lands: { to: 'text', status: 'number', how: 'message' },
  gone: { status: 'number', how: 'message' },
  'rule-how': { pattern: WAYS, anyCase: WAYS, anySlash: WAYS, dropsQuery: WAYS },
  'rule-changed': { now: 'message', before: 'message' },
  'rule-removed': { before: 'message' },
  'rules-ordered': {},

  'who-everyone': {},
  'who-around': {},
  'who-nobody': {},
  'who-password': { user: 'text' },
  who: { now: 'message', before: 'message' },
  'another-password': { user: ['same', 'other'] },
  'instead-page': { address: 'text' },
  'instead-line-of-host': {},
  'stays-up': {},
  'comes-down': { day: 'day' },
});
export type ChangeMessage = MessageOf<typeof change>;
