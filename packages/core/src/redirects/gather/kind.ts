/**
 * What an old address is likely to be: a page somebody may want, a file, or noise that nobody ever followed a
 * link to. Every rule has a name, so that whoever looks can see why, and take an address back.
 */

export const NOISE = ['probe', 'never answered', 'only robots', 'part of a page', 'endless'] as const;
export type Noise = (typeof NOISE)[number];

export type AddressKind =
  { readonly kind: 'page' } | { readonly kind: 'file' } | { readonly kind: 'noise'; readonly why: Noise };

/** What is known from the requests for an address; all of it absent where it was only listed. */
export interface Asked {
  /** Requests by people. */
  readonly visits: number;
  readonly robotVisits: number;
  /** Requests that were answered with a page, a file or a redirect (2xx and 3xx). */
  readonly answered: number;
  /** Requests that came from a link somewhere. */
  readonly referred: number;
}

const FILE =
  /\.(?:jpe?g|png|gif|webp|avif|svg|ico|bmp|tiff?|pdf|docx?|xlsx?|pptx?|od[tsp]|rtf|csv|zip|gz|tgz|rar|7z|mp3|mp4|m4[av]|mov|avi|wmv|ogg|webm|wav|epub|ics|vcf|txt|xml|json|rss|atom)$/i;
/** Loaded by pages, never by people. */
const PART = /\.(?:css|js|mjs|map|woff2?|ttf|eot|otf|swf|cur)$/i;
/** What programs that look for holes ask for (common practice, no source). */
const PROBE =
  /(?:^|\/)\.(?!well-known\/)|\.\.\/|%2e%2e|<|%3c|\/(?:cgi-bin|phpinfo|admin|administrator|xmlrpc|shell|eval|setup|install|config|console)(?:[./]|$)|\.(?:sql|bak|old|orig|swp|env|ini|log|sh|exe|dll|tar|pem|key)$|(?:union[+%20\s]+select|concat\(|base64_|\/etc\/passwd|allow_url_include|jndi:)/i;
/** The same folder again and again, or a query without end: links that a program wrote by mistake. */
const ENDLESS = /(?:\/([^/]+)(?:\/\1){2,}(?:\/|$))|^.{1500,}$/;

/** Whether it is noise whatever it is called: nobody was answered, and nobody came by a link. */
export const isNoise = ({ answered, visits, referred }: Asked): boolean =>
  answered === 0 && (visits === 0 || referred === 0);

/** @param address normal address @param asked what a log says of it, where there is one @param isListed by a sitemap, a search index, a crawl or a person @param isLive asked of the new site: what answered before the move is not known of it */
export function judgeKind(address: string, asked: Asked | undefined, isListed: boolean, isLive = false): AddressKind {
  const path = address.replace(/\?.*$/s, '');
  if (ENDLESS.test(path) || address.length >= 1500) return { kind: 'noise', why: 'endless' };
  if (!isListed) {
    if (PROBE.test(address) && (asked?.answered ?? 0) === 0) return { kind: 'noise', why: 'probe' };
    if (asked && asked.answered === 0 && asked.visits === 0) return { kind: 'noise', why: 'only robots' };
    // A dead link that people still follow comes from somewhere; what nobody links to was guessed.
    if (!isLive && asked && asked.answered === 0 && asked.referred === 0)
      return { kind: 'noise', why: 'never answered' };
  }
  if (PART.test(path)) return { kind: 'noise', why: 'part of a page' };
  return { kind: FILE.test(path) ? 'file' : 'page' };
}
