/** Titles in a common form, such as `{page} · {site}`. */

export const PAGE_SLOT = '{page}';
export const SITE_SLOT = '{site}';

/** Whether a text is a form for titles: it has to say where the page's own part goes. */
export function isTitlePattern(text: string): boolean {
  return text.split(PAGE_SLOT).length === 2;
}

/**
 * A title in the form. One that is in it already stays as it is. The page that is called like the site, most
 * often the home page, is followed by the line underneath instead of by its own name again.
 *
 * @param title without what all imported titles end in
 */
export function fillTitlePattern(pattern: string, title: string, siteName: string, tagline: string): string {
  const [before = '', after = ''] = pattern.split(PAGE_SLOT);
  const around = (page: string, site: string) =>
    before.replaceAll(SITE_SLOT, site) + page + after.replaceAll(SITE_SLOT, site);
  if (title === '' || (siteName !== '' && title === siteName))
    return siteName !== '' && tagline !== '' ? around(siteName, tagline) : title || siteName;
  const [start, end] = [before.replaceAll(SITE_SLOT, siteName), after.replaceAll(SITE_SLOT, siteName)];
  if (title.startsWith(start) && title.endsWith(end) && title.length > start.length + end.length) return title;
  return around(title, siteName);
}
