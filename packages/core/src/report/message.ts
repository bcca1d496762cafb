/** A message to people, drafted from what a release changed. Somebody reads it before it goes out. */

export interface MessageFacts {
  readonly site: string;
  readonly url: string;
  /** Whether nothing was live before. */
  readonly isFirst: boolean;
  /** Titles of pages that are new. */
  readonly newPages: readonly string[];
  /** Titles or addresses of pages that are another than before. */
  readonly changedPages: readonly string[];
}

/** Short enough for any place that takes messages; common practice, no source. */
export const MOST_LETTERS = 480;

export function createReleaseMessage({ site, url, isFirst, newPages, changedPages }: MessageFacts): string {
  if (isFirst) return fitNames(`${site} has a new site: `, [], url);
  if (newPages.length > 0) return fitNames(`New at ${site}: `, newPages, url);
  if (changedPages.length > 0) return fitNames(`Brought up to date at ${site}: `, changedPages, url);
  return fitNames(`${site} has been brought up to date. `, [], url);
}

/** As many names as there is room for, then how many more. */
function fitNames(before: string, names: readonly string[], url: string): string {
  for (let shown = names.length; shown > 0; shown -= 1) {
    const rest = names.length - shown;
    const text = `${before}${names.slice(0, shown).join(', ')}${rest > 0 ? ` and ${rest} more` : ''}. ${url}`;
    if ([...text].length <= MOST_LETTERS) return text;
  }
  return `${before}${names.length > 0 ? `${names.length} pages. ` : ''}${url}`;
}
