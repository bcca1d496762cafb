/** Settings and lines of the head as people call them, in the middle of a sentence. */
const WORDS: Readonly<Record<string, string>> = {
  title: 'title',
  language: 'language',
  'meta:description': 'description',
  'meta:robots': 'what search engines may do',
  'meta:author': 'author',
  'meta:generator': 'generator line',
  'meta:theme-color': 'colour for browsers',
  'meta:viewport': 'viewport',
  'meta:og:title': 'share title',
  'meta:og:description': 'share text',
  'meta:og:image': 'share picture',
  'meta:og:image:alt': 'share picture in words',
  'link:canonical': 'canonical address',
  pattern: 'form of titles',
  name: 'name of the site',
  tagline: 'line under the name',
  canonical: 'canonical address on every page',
  share: 'share card',
  alternates: 'links between languages',
  breadcrumb: 'breadcrumb data',
  article: 'article data',
  event: 'event data',
  organisation: 'organisation',
  data: 'structured data',
  json: 'structured data',
  'code:head': 'code in the head',
  'code:end': 'code at the end',
  translates: 'translation',
  sitemap: 'sitemap.xml',
  'robots.txt': 'robots.txt',
  'security.txt': 'security.txt',
  'link:icon': 'icons',
  'link:apple-touch-icon': 'icons',
  'link:mask-icon': 'icons',
  'link:manifest': 'icons',
};

export function lineWords(name: string): string {
  if (name.startsWith('link:alternate:')) return 'links between languages';
  return WORDS[name] ?? (name.startsWith('meta:og:') ? 'share card' : name.replace(/^(meta|link):/, ''));
}
