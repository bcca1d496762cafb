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
});
export type ReasonMessage = MessageOf<typeof reason>;
