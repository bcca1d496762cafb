/** Structured data that follows from what is known of a page: schema.org terms as JSON-LD. */

export interface Crumb {
  readonly title: string;
  /** Where it answers, the base path included. */
  readonly address: string;
}

const CONTEXT = 'https://schema.org';

/** The way from the home page to the page; a home page has none. schema.org/BreadcrumbList. */
export function writeBreadcrumbData(origin: string, crumbs: readonly Crumb[]): object | undefined {
  if (crumbs.length < 2) return undefined;
  return {
    '@context': CONTEXT,
    '@type': 'BreadcrumbList',
    itemListElement: crumbs.map(({ title, address }, index) => ({
      '@type': 'ListItem',
      position: index + 1,
      name: title,
      item: origin + address,
    })),
  };
}

export interface DatedFacts {
  readonly url: string;
  readonly title: string;
  readonly description: string | undefined;
  readonly language: string;
  /** `2016-05-09`; null for a page that gives none. */
  readonly date: string | null;
  readonly image: string | undefined;
  readonly author: string | undefined;
  readonly siteName: string;
}

/** schema.org/Article; undefined for a page without a date. */
export function writeArticleData({
  url,
  title,
  description,
  language,
  date,
  image,
  author,
  siteName,
}: DatedFacts): object | undefined {
  if (date === null) return undefined;
  return {
    '@context': CONTEXT,
    '@type': 'Article',
    headline: title,
    datePublished: date,
    mainEntityOfPage: url,
    ...(description ? { description } : {}),
    ...(language ? { inLanguage: language } : {}),
    ...(image ? { image } : {}),
    ...(author ? { author: { '@type': 'Person', name: author } } : {}),
    ...(siteName ? { publisher: { '@type': 'Organization', name: siteName } } : {}),
  };
}

/** schema.org/Event; undefined for a page without a date. It takes place where the site's people are, since nothing else is known. */
export function writeEventData({ url, title, description, date, image, siteName }: DatedFacts): object | undefined {
  if (date === null) return undefined;
  return {
    '@context': CONTEXT,
    '@type': 'Event',
    name: title,
    startDate: date,
    url,
    ...(description ? { description } : {}),
    ...(image ? { image } : {}),
    ...(siteName
      ? { location: { '@type': 'Place', name: siteName }, organizer: { '@type': 'Organization', name: siteName } }
      : {}),
  };
}
