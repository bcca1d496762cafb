/** What a touch does. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const touch = defineMessages('touch', {
  text: { before: 'text', after: 'text' },
  attributes: { changes: 'series', element: 'text' },
  'attribute-set': { name: 'text', value: 'text' },
  'attribute-removed': { name: 'text' },
  'link-window': { opens: ['new', 'same'] },
  'link-target': { link: 'text' },
  picture: { before: 'text', after: 'text' },
  'sections-out': { sections: 'series' },
  'section-name': { name: 'text' },
  'sections-ordered': {},
  'parts-in': {},
  'parts-out': { parts: 'series' },
  'css-set': {},
  'css-removed': {},
  embed: { file: 'text' },
  'section-of-release': { section: 'text', release: 'number' },
  charset: {},
  viewport: {},
  language: { language: 'text' },
  title: { title: 'text' },
  'place-gone': { touch: 'message', pages: 'number' },
  'on-dropped-page': { touch: 'message' },
});
export type TouchMessage = MessageOf<typeof touch>;
