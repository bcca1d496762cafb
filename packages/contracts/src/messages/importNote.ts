/** What an import has to say about single files; the import itself goes on. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const note = defineMessages('import-note', {
  'path-outside': {},
  'path-too-long': {},
  'symbolic-link': {},
  leftover: {},
  'doubled-path': {},
  'file-and-folder': {},
  'name-encoding': {},
  'name-case': {},
  'too-large': {},
  'page-too-large': {},
  'encoding-faulty': {},
  'encoding-guessed': {},
  'not-a-page': {},
  empty: {},
  unreadable: {},
  'crawl-robots': {},
  'crawl-elsewhere': {},
  'crawl-private': {},
  'crawl-circle': {},
  'crawl-slow': {},
  'crawl-no-answer': {},
  'crawl-error': {},
  'crawl-type': {},
  'crawl-trap': {},
  'crawl-bound': {},
  'crawl-recoded': {},
});
export type NoteCode = keyof typeof note.definitions;
export type NoteMessage = MessageOf<typeof note>;

export const noteOf = (code: NoteCode): NoteMessage => note(code) as NoteMessage;
