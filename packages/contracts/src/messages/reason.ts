/** Why something cannot be: each goes on from what an error says, in the middle of its sentence. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const reason = defineMessages('reason', {
  // Metadata that cannot be set.
  'of-whole-site': {},
  'on-or-off': {},
  'own-title': {},
  empty: {},
  'of-one-page': {},
  'no-page-in-pattern': { placeholder: 'text' },
  'no-language-tag': { text: 'text', why: 'message' },
  'no-colour': { text: 'text' },
  'no-address': { text: 'text' },
  'no-such-line': {},
  'empty-line': {},

  // A picture that cannot become icons.
  'too-many-pixels': { millions: 'number' },
  'no-picture': {},
  'other-format': { format: 'text' },
  moves: {},
  'too-small': { width: 'number', height: 'number' },
  damaged: {},

  // An archive that cannot be taken in.
  'packed-otherwise': { packing: 'text' },
  'archive-of-kind': { kind: 'text' },
  'more-files-than': { most: 'number' },
  'more-bytes-than': { most: 'bytes' },
  'so-many-bytes': { size: 'bytes' },
  'expands-far': { size: 'bytes', archive: 'bytes' },

  // What a host says no to.
  'another-became-current': {},
  'never-staged': {},
  'nothing-published': {},
  'hash-differs': {},
  'root-differs': {},
  'contents-missing': { count: 'number' },
  'contents-not-whole': { count: 'number' },
  'note-unreadable': {},
  'release-is-current': {},
  'puts-nothing-together': {},
  'no-room': {},
  'room-left': { free: 'bytes' },

  // A password that is easily guessed.
  'password-known': {},
  'password-word': {},
  'password-own': {},
  'password-own-name': {},
  'password-keys': {},
  'password-repeats': {},
  'password-row': {},
  'password-date': {},
  'password-short': {},

  // A table, rules or addresses that cannot be taken.
  'no-address-column': {},
  'table-changes-nothing': {},
  'no-text': {},
  'no-address-in-it': {},
  'none-listed': {},
  'larger-no-log': { most: 'bytes' },
  'gzip-broken': {},
  'sitemap-index': {},
  'xml-unknown': {},
  'no-sitemap-of-site': {},
  'no-sitemap': {},
  'no-columns': {},
  'no-redirects': {},
  'say-domain': {},
  'no-search-description': {},
  'page-no-feed': { page: 'number' },
  'asks-unknown': { text: 'text' },
  'address-unreadable': {},
  'does-not-answer': { detail: 'part' },

  // A site that cannot be crawled, or stand-ins.
  'answers-status': { status: 'number' },
  'answer-status': { status: 'number' },
  'in-a-circle': {},
  'sends-nowhere': {},
  'no-stand-ins': {},
  'they-do-not-answer': {},

  // A place to publish to.
  'whole-path': {},
  'not-there': {},
  'may-not-write': { user: 'text' },
  'could-not-write': {},
  'no-file': { path: 'text' },
  'token-needed': {},

  // A name that cannot be had or read.
  'no-registrar': {},
  'somebody-holds-it': {},
  'is-ending': {},
  'no-host-name': {},
  'resolver-address': {},
  'other-answer': {},
  'answer-not-signed': {},

  // A certificate that cannot come yet, or is not the right one.
  'no-name-server': {},
  'caa-forbids': { at: 'text', why: 'message', issuer: 'text' },
  'records-not-right': { count: 'number' },
  'name-without-address': { name: 'text' },
  'not-reached': { url: 'text', why: 'part' },
  'answered-by-another': { url: 'text', status: 'number' },
  'https-silent': {},
  'certificate-for-others': { names: 'series', missing: 'series' },
  'certificate-over': {},

  // A second factor, or a client.
  'signature-wrong': {},
  'here-already': {},
  'choose-sites': {},
});
export type ReasonMessage = MessageOf<typeof reason>;
