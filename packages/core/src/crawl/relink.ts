/**
 * Links of a crawled page that mean the files its site was kept as. Only a link that would not find its
 * file is written anew, in its place; a site that was static already keeps every byte.
 */
import { findAddressOfFile, listCandidateFiles, parseUrl, relativiseReference, resolveHref } from '../address/index.ts';
import {
  readAttribute,
  readBaseHref,
  findCssUrls,
  decodeSource,
  walkElements,
  escapeAttribute,
  isHtml,
  linkPlaces,
  parsePage,
  splice,
  type Edit,
  type PageDocument,
} from '../html/index.ts';
import type { AnswerKind } from './answer.ts';
import { findAddressWithin, type CrawlScope } from './scope.ts';

export interface Relinking {
  readonly kind: AnswerKind;
  /** Absolute address it answered at. */
  readonly url: string;
  /** File it is kept as. */
  readonly file: string;
  readonly scope: CrawlScope;
  /** The file that an address of the old site is kept as; undefined for those not fetched. */
  readonly fileOf: (address: string) => string | undefined;
}

export function relink(bytes: Uint8Array, how: Relinking): Uint8Array {
  if (how.kind === 'style') {
    const source = decodeSource(bytes);
    const edits = findCssUrls(source.text).flatMap(({ url, start, end, write }) => {
      const to = follow(url.trim(), how, how.url, undefined);
      return to === url.trim() ? [] : [{ start, end, text: write(to) }];
    });
    return splice(bytes, source, edits);
  }
  const document = parsePage(bytes);
  return splice(bytes, document.source, editLinks(document, how));
}

function editLinks(document: PageDocument, how: Relinking): Edit[] {
  const written = readBaseHref(document);
  const base = written === undefined ? undefined : parseUrl(written, how.url);
  const inside = base && findAddressWithin(how.scope, base);
  // A base that names the old host would lead every link of the page there.
  const baseNow = inside ?? written;
  const edits: Edit[] =
    written !== undefined && inside !== undefined && written !== inside ? editBase(document, inside) : [];
  for (const place of linkPlaces(document)) {
    const hrefs = place.hrefs.map((href) => follow(href, how, base?.href ?? how.url, baseNow));
    if (hrefs.some((href, index) => href !== place.hrefs[index])) edits.push(...place.rewrite(hrefs));
  }
  return edits;
}

function editBase(document: PageDocument, href: string): Edit[] {
  for (const element of walkElements(document.root)) {
    if (element.tagName !== 'base' || !isHtml(element) || readAttribute(element, 'href') === undefined) continue;
    const span = element.sourceCodeLocation?.attrs?.href;
    return span ? [{ start: span.startOffset, end: span.endOffset, text: `href="${escapeAttribute(href)}"` }] : [];
  }
  return [];
}

/** @param base what references are read from, on the old site; `baseNow` the page's own base as it will be written */
function follow(
  href: string,
  { url, file, scope, fileOf }: Relinking,
  base: string,
  baseNow: string | undefined,
): string {
  if (baseNow === undefined && (href === '' || href.startsWith('#'))) return href;
  const meant = parseUrl(href, base);
  const address = meant && findAddressWithin(scope, meant);
  if (meant === undefined || address === undefined) return href;
  const target = fileOf(address);
  if (target === undefined) return href;
  const here = findAddressOfFile(file);
  const now = resolveHref(href, here, baseNow);
  // A query on a link to a file changes nothing, so it may stay; that of a program was what told its answers apart.
  if (now.kind === 'inside' && listCandidateFiles(now.address.path).includes(target)) return href;
  // The page itself, by its old name: `?id=3#part` on page.php.
  if (target === file && meant.hash !== '' && isSameButHash(meant, url) && baseNow === undefined) return meant.hash;
  const to = findAddressOfFile(target);
  const isRooted = href.startsWith('/') || baseNow !== undefined || /^[a-z][a-z0-9+.-]*:/i.test(href);
  return (isRooted ? to : relativiseReference(here, to)) + meant.hash;
}

function isSameButHash(meant: URL, url: string): boolean {
  return meant.href.slice(0, meant.href.length - meant.hash.length) === url;
}
