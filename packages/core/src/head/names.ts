/** Which settings there are beside lines of the head. */

/** Those that are only on or off. */
export const SWITCHES: ReadonlySet<string> = new Set([
  'canonical',
  'share',
  'alternates',
  'breadcrumb',
  'article',
  'event',
  'sitemap',
]);

/** Those of which a site has one. */
export const SITE_SETTINGS: ReadonlySet<string> = new Set(['organisation', 'sitemap', 'robots.txt', 'security.txt']);
