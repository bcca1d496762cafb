/**
 * Addresses of a site in their normal form: what is compared, stored and looked up everywhere.
 *
 * A normal address is a path that starts with a slash, percent-encoded in the one spelling of
 * RFC 3986 section 6.2.2, without dot segments, with its query where there is one and without
 * fragment: `/news/2016/?id=3`. Letter case and a trailing slash are kept: they tell addresses
 * apart on most servers (RFC 3986 section 6.2.2.1 makes only scheme and host ignore case).
 */
import { normalisePathEncoding, normaliseQueryEncoding } from './percent.ts';

export interface Address {
  /** Normal path, `/` at the least. */
  readonly path: string;
  /** Normal query without its question mark; an empty one counts as none (common practice). */
  readonly query: string | undefined;
}

/** Why a text is no address of a site; the message for people is made where it is shown. */
export type AddressProblem = 'empty' | 'scheme' | 'unreadable';

export type ParsedAddress =
  | { readonly ok: true; readonly address: Address; readonly host: string | undefined }
  | { readonly ok: false; readonly problem: AddressProblem };

// Stands for "this site, whatever it is called" while a reference is read. RFC 2606 reserves .invalid.
const HERE = 'http://here.invalid';

/**
 * Reads what a person types or a list holds: `/old page`, `old.html`, `www.site.example/old?id=3`
 * or a whole `https://` address. Reading follows the WHATWG URL standard, as a browser would read
 * it; the host, where one is named, is returned in its ASCII form and is not part of the address.
 */
export function parseAddress(text: string): ParsedAddress {
  const trimmed = text.trim();
  if (trimmed === '') return { ok: false, problem: 'empty' };
  let candidate = trimmed;
  const scheme = /^([A-Za-z][A-Za-z0-9+.-]*):/.exec(trimmed)?.[1]?.toLowerCase();
  if (scheme !== undefined && scheme !== 'http' && scheme !== 'https') {
    // "site.example:8080/x" also matches the scheme grammar; a dot before the colon and digits after say host.
    if (!/^[^/:]+\.[^/:]+:\d+(\/|$)/.test(trimmed)) return { ok: false, problem: 'scheme' };
    candidate = `http://${trimmed}`;
  } else if (scheme === undefined && /^www\.[^/\s]+\.[^/\s]+/i.test(trimmed)) {
    candidate = `http://${trimmed}`;
  }
  const url = parseUrl(candidate, `${HERE}/`);
  if (url === undefined) return { ok: false, problem: 'unreadable' };
  return {
    ok: true,
    address: readAddressOf(url),
    host: url.origin === HERE ? undefined : url.host,
  };
}

/** The normal address of a parsed http(s) URL. */
export function readAddressOf(url: URL): Address {
  const query = url.search.slice(1);
  return {
    path: normalisePathEncoding(url.pathname),
    query: query === '' ? undefined : normaliseQueryEncoding(query),
  };
}

export function formatAddress({ path, query }: Address): string {
  return query === undefined ? path : `${path}?${query}`;
}

/** Splits a normal address again, as it stands in a rule or a request line. */
export function splitAddress(text: string): Address {
  const mark = text.indexOf('?');
  if (mark < 0) return { path: text, query: undefined };
  const query = text.slice(mark + 1);
  return { path: text.slice(0, mark), query: query === '' ? undefined : query };
}

/** WHATWG URL; undefined where the text, read from the base, is none. */
export function parseUrl(text: string, base: string): URL | undefined {
  try {
    return new URL(text, base);
  } catch {
    return undefined;
  }
}

/** Where a reference found in a page of this site leads. */
export type Destination =
  | { readonly kind: 'inside'; readonly address: Address; readonly fragment: string | undefined }
  | { readonly kind: 'outside'; readonly url: string }
  | { readonly kind: 'other'; readonly scheme: string }
  | { readonly kind: 'broken' };

/** Steps up, then segments of unreserved characters that are no dots alone (RFC 3986, section 2.3), then a fragment. */
const PLAIN_REFERENCE = /^((?:\.\.\/)*)((?:[\w-][\w.~-]*\/)*(?:[\w-][\w.~-]*)?)(?:#([\w.~-]*))?$/;
const PLAIN_FOLDER = /^\/(?:[\w-][\w.~-]*\/)*/;

/**
 * Most references of real pages are such paths, and reading them as URLs costs more than half of finding menus.
 * Undefined for all others.
 */
function resolvePlain(href: string, pageAddress: string): Destination | undefined {
  const [, up, down, fragment] = PLAIN_REFERENCE.exec(href) ?? [];
  // An empty path means the page itself, with its query.
  if (up === undefined || down === undefined || (up === '' && down === '')) return undefined;
  const [path = ''] = pageAddress.split('?', 1);
  let [folder = ''] = PLAIN_FOLDER.exec(path) ?? [];
  if (folder.length !== path.lastIndexOf('/') + 1) return undefined;
  for (let steps = up.length / 3; steps > 0 && folder !== '/'; steps -= 1)
    folder = folder.slice(0, folder.lastIndexOf('/', folder.length - 2) + 1);
  return {
    kind: 'inside',
    address: { path: folder + down, query: undefined },
    fragment: fragment === '' ? undefined : fragment,
  };
}

/**
 * Resolves an `href` or `src` as a browser would (WHATWG URL), against the address of the page that
 * holds it and that page's `<base>`, where it has one.
 */
export function resolveHref(href: string, pageAddress: string, baseHref?: string): Destination {
  const plain = baseHref === undefined ? resolvePlain(href, pageAddress) : undefined;
  if (plain) return plain;
  const page = `${HERE}${pageAddress}`;
  const base = baseHref === undefined ? page : (parseUrl(baseHref, page)?.href ?? page);
  const url = parseUrl(href, base);
  if (url === undefined) return { kind: 'broken' };
  if (url.origin === HERE) {
    return {
      kind: 'inside',
      address: readAddressOf(url),
      fragment: url.hash === '' ? undefined : url.hash.slice(1),
    };
  }
  if (url.protocol === 'http:' || url.protocol === 'https:') return { kind: 'outside', url: url.href };
  return { kind: 'other', scheme: url.protocol.slice(0, -1) };
}
