/** Which addresses belong to the site that is crawled. */
import { readAddressOf, formatAddress } from '../address/index.ts';

export interface CrawlScope {
  /** Host with its port where it is not the usual one, without a leading `www.`. */
  readonly host: string;
}

/**
 * The site of an address: its host by http and https, with `www.` and without, since one site answers
 * at all four (common practice, no source). Another port is another site.
 */
export function readScope(url: URL): CrawlScope {
  return { host: stripWww(url) };
}

/** The normal address inside the site, `/news/?year=2016`; undefined for what leads elsewhere. Session ids are dropped. */
export function findAddressWithin(scope: CrawlScope, url: URL): string | undefined {
  if (!isWeb(url) || stripWww(url) !== scope.host) return undefined;
  const { path, query } = readAddressOf(url);
  return formatAddress({ path: path.replace(/;jsessionid=[^/]*$/i, ''), query: withoutSession(query) });
}

const isWeb = (url: URL): boolean => url.protocol === 'http:' || url.protocol === 'https:';

// Each visit would get its own, and every address would seem new.
function withoutSession(query: string | undefined): string | undefined {
  const kept = query
    ?.split('&')
    .filter((part) => !/^(phpsessid|jsessionid|aspsessionid[a-z]*)=/i.test(part))
    .join('&');
  return kept === '' ? undefined : kept;
}

function stripWww(url: URL): string {
  const isUsual =
    url.port === '' ||
    (url.protocol === 'http:' && url.port === '80') ||
    (url.protocol === 'https:' && url.port === '443');
  const host = isUsual ? url.hostname : `${url.hostname}:${url.port}`;
  return host.replace(/^www\./, '');
}
