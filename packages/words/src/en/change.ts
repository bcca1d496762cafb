import type { change } from '@fastigium/core/report';
import type { CatalogueOf } from '../catalogue.ts';

export const changeWords: CatalogueOf<typeof change> = {
  'as-written': '{text}',

  'whole-site': 'The whole site',
  'what-pages-need': 'Everything the pages need',
  'old-addresses': 'Old addresses',
  pages: '{count, plural, one {# page} other {# pages}}',
  patterns: 'Patterns',
  'shown-instead': 'Shown instead',

  'first-pages': '{count, plural, one {# page goes} other {# pages go}} live for the first time',
  'first-files': '{count, plural, one {# file} other {# files}}: styles, pictures, documents',
  'first-redirects': '{count, plural, one {# redirect} other {# redirects}} from the first day',

  page: '{parts}',
  'page-changed': 'changed',
  'page-source-only': 'source only, nothing a visitor sees',
  'page-title-new': 'gets the title “{title}”',
  'page-title': 'title “{before}” becomes “{after}”',
  'page-head': 'in the head: {lines}',
  'page-menus': 'menu in {places, plural, one {# place} other {# places}}',
  'page-text': 'text in {places, plural, one {# place} other {# places}}',
  'page-links': 'links in {places, plural, one {# place} other {# places}}',
  'pages-links-follow': 'links follow to the new addresses, nothing else changes',
  'pages-head': 'in the head: {lines}; nothing a visitor sees',

  'page-added': 'answers here now',
  'page-added-titled': '“{title}” answers here now',
  'file-added': 'new, {size}',
  'file-replaced': 'replaced, {before} before, {after} now',
  removed: 'no longer there',
  moved: 'moves here from {from}, unchanged',

  lands: 'lands on {to} ({status}){how}',
  gone: 'answers {status}, gone for good{how}',
  'rule-how':
    '{pattern, select, yes {, a pattern} other {}}{anyCase, select, yes {, in any letter case} other {}}{anySlash, select, yes {, with a last slash or without} other {}}{dropsQuery, select, yes {, without the visitor’s query} other {}}',
  'rule-changed': '{now}; before, it {before}',
  'rule-removed': 'no redirect any more; it {before}',
  'rules-ordered': 'are tried in another order',

  'who-everyone': 'everyone',
  'who-around': 'as what is around it',
  'who-nobody': 'nobody',
  'who-password': 'those with the password of {user}',
  who: '{now}; before, {before}',
  'another-password': 'another {user, select, same {password} other {name and password}}',
  'instead-page': '{address}',
  'instead-line-of-host': 'a plain line of the host',
  'stays-up': 'stays up',
  'comes-down': 'comes down after {day}',
};
