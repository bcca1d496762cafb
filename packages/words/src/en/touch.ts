import type { touch } from '@fastigium/contracts/messages/touch';
import type { CatalogueOf } from '../catalogue.ts';

export const touchWords: CatalogueOf<typeof touch> = {
  text: '“{before}” becomes “{after}”',
  attributes: '{changes} of <{element}>',
  'attribute-set': '{name} set to “{value}”',
  'attribute-removed': '{name} taken away',
  'link-window': 'Link opens in {opens, select, new {a new window} other {the same window}}',
  'link-target': 'Link “{link}” leads elsewhere',
  picture: '{after} shown instead of {before}',
  'sections-out': 'Left out: {sections}',
  'section-name': '“{name}”',
  'sections-ordered': 'Sections in another order',
  'parts-in': 'All parts show again',
  'parts-out': 'Left out: {parts}',
  'css-set': 'Style rules of its own',
  'css-removed': 'Style rules of its own taken away',
  embed: '{file} embedded with a link',
  'section-of-release': 'Section “{section}” as in release {release}',
  charset: 'Character set declared',
  viewport: 'Viewport declared',
  language: 'Language declared: {language}',
  title: 'Title set to “{title}”',
  'place-gone': '{touch}: its place is gone from {pages, plural, one {# page} other {# pages}}',
  'on-dropped-page': '{touch}, on a page that is dropped',
};
