/** Settings and lines of the head by what people call them. */
import { line, type LineMessage } from './lineMessages.ts';

const MESSAGES: Readonly<Record<string, LineMessage>> = {
  title: line('title'),
  language: line('language'),
  'meta:description': line('description'),
  'meta:robots': line('robots'),
  'meta:author': line('author'),
  'meta:generator': line('generator'),
  'meta:theme-color': line('theme-colour'),
  'meta:viewport': line('viewport'),
  'meta:og:title': line('share-title'),
  'meta:og:description': line('share-text'),
  'meta:og:image': line('share-picture'),
  'meta:og:image:alt': line('share-picture-text'),
  'link:canonical': line('canonical'),
  pattern: line('pattern'),
  name: line('site-name'),
  tagline: line('tagline'),
  canonical: line('canonical-everywhere'),
  share: line('share-card'),
  alternates: line('alternates'),
  breadcrumb: line('breadcrumb'),
  article: line('article'),
  event: line('event'),
  organisation: line('organisation'),
  data: line('data'),
  json: line('data'),
  'code:head': line('code-in-head'),
  'code:end': line('code-at-end'),
  translates: line('translation'),
  sitemap: line('sitemap'),
  'robots.txt': line('robots-txt'),
  'security.txt': line('security-txt'),
  'link:icon': line('icons'),
  'link:apple-touch-icon': line('icons'),
  'link:mask-icon': line('icons'),
  'link:manifest': line('icons'),
};

export function createLineMessage(name: string): LineMessage {
  if (name.startsWith('link:alternate:')) return line('alternates');
  return (
    MESSAGES[name] ??
    (name.startsWith('meta:og:') ? line('share-card') : line('other', { name: name.replace(/^(meta|link):/, '') }))
  );
}
