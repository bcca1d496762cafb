import type { menu, thing, where } from '@fastigium/contracts/messages/names';
import type { line } from '@fastigium/core/head';
import type { CatalogueOf } from '../catalogue.ts';

export const menuWords: CatalogueOf<typeof menu> = {
  main: 'Main menu',
  foot: 'Foot menu',
  side: 'Side menu',
  other: 'Menu',
  'beginning-with': '{menu} ({first} …)',
  nth: '{menu}, {nth}',
};

export const whereWords: CatalogueOf<typeof where> = {
  site: 'for the whole site',
  pages: 'on {count, plural, one {# page} other {# pages}}',
  branch: 'for {address} and below',
  page: 'of {address}',
  'the-site': 'the site',
  'page-and-below': '“{name}” and what is below it',
  everywhere: 'on every page where it stands',
  'page-named': 'on “{name}”',
  'branch-named': 'on the branch under “{name}”',
};

export const thingWords: CatalogueOf<typeof thing> = {
  named: '“{label}”',
  pages: 'Pages',
  section: 'Section “{label}”',
  'section-of': 'Section “{label}” of “{page}”',
  file: 'File {address}',
  'menu-item': 'Menu item “{label}”',
  'item-of-menu': '“{label}” of {menu}',
  redirect: 'Redirect {label}',
  'a-pattern': 'Redirect pattern',
  redirects: '{count, plural, one {# redirect} other {# redirects}}',
};

/** In the middle of a sentence. */
export const lineWords: CatalogueOf<typeof line> = {
  title: 'title',
  language: 'language',
  description: 'description',
  robots: 'what search engines may do',
  author: 'author',
  generator: 'generator line',
  'theme-colour': 'colour for browsers',
  viewport: 'viewport',
  'share-title': 'share title',
  'share-text': 'share text',
  'share-picture': 'share picture',
  'share-picture-text': 'share picture in words',
  canonical: 'canonical address',
  pattern: 'form of titles',
  'site-name': 'name of the site',
  tagline: 'line under the name',
  'canonical-everywhere': 'canonical address on every page',
  'share-card': 'share card',
  alternates: 'links between languages',
  breadcrumb: 'breadcrumb data',
  article: 'article data',
  event: 'event data',
  organisation: 'organisation',
  data: 'structured data',
  'code-in-head': 'code in the head',
  'code-at-end': 'code at the end',
  translation: 'translation',
  sitemap: 'sitemap.xml',
  'robots-txt': 'robots.txt',
  'security-txt': 'security.txt',
  icons: 'icons',
  other: '{name}',
};
