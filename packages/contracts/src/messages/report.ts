/** What printed reports and tables say: of a release, and of the proof of redirects. Parts of sentences are whole ones each. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const report = defineMessages('report', {
  // Of a release.
  title: { site: 'text', release: 'number' },
  'all-as-published': { asked: 'number' },
  'some-otherwise': { wrong: 'number', asked: 'number' },
  'went-live': { release: 'number', at: 'text', person: 'text' },
  'went-live-again': { release: 'number', at: 'text', person: 'text', again: 'number' },
  sent: { files: 'number', sent: 'number', size: 'text' },
  'asked-at': { origin: 'text', at: 'text' },
  note: { note: 'text' },
  'asked-from-outside': {},
  'sample-alone': { unasked: 'number' },
  'otherwise-than-published': {},
  'worth-a-look': {},
  'and-more': { count: 'number' },
  'old-addresses': {},
  'known-and-accepted': {},
  'nothing-left': {},
  'more-open': { count: 'number' },
  'new-since': { release: 'number' },
  'new-since-before': {},
  'nothing-visitors-see': {},

  // Heads of columns.
  what: {},
  asked: {},
  'as-published': {},
  otherwise: {},
  address: {},
  addresses: {},
  found: {},
  where: {},
  'why-it-stays': {},
  'on-whose-name': {},
  kind: {},
  'visitors-of-old': {},
  'old-address': {},
  visits: {},
  steps: {},
  'ends-at': {},
  page: {},
  'visitor-ends-at': {},
  'draft-steps': {},
  'draft-ends-at': {},
  'draft-address': {},
  'live-steps': {},
  'live-ends-at': {},
  'live-address': {},
  'live-otherwise': {},

  // Of the proof of redirects.
  'proof-title': { site: 'text' },
  'proof-of-live': { count: 'number', origin: 'text', at: 'text', person: 'text', release: 'number' },
  'proof-of-draft': { count: 'number' },
  'proof-all-right': {},
  'proof-some-otherwise': { count: 'number' },
  'made-on': { at: 'text' },

  /** What was asked about, in a release. */
  aspect: {
    of: [
      'home',
      'pages',
      'visitors',
      'addresses',
      'files',
      'missing',
      'machines',
      'types',
      'caching',
      'security',
      'certificate',
    ],
  },
  /** What a change is about, as Publish groups them. */
  group: { of: ['visitors', 'pages', 'addresses', 'menus', 'metadata', 'redirects', 'files'] },
  /** Where visitors of old addresses come to, as a verb and as a place. */
  'they-end': { at: ['page', 'outside', 'gone', 'missing', 'loop', 'unasked', 'otherwise'] },
  'it-ends': { at: ['page', 'home', 'outside', 'gone', 'missing', 'loop', 'unasked'] },
});
export type ReportMessage = MessageOf<typeof report>;
