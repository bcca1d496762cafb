/** Media types and caching of published files. */
import mime from 'mime';

const FALLBACK = 'application/octet-stream';

/** By the file's ending; held against mime-db, and so the IANA registry, in mediaType.test.ts. */
export function findMediaType(path: string): string {
  // A bare name would be taken for an ending.
  return mime.getType(`/${path}`) ?? FALLBACK;
}

/** Types that are text and say so, other than `text/`. RFC 6839 names the structured suffixes. */
export function isTextType(type: string): boolean {
  return /^text\/|[/+](json|xml|yaml)$|javascript$|manifest\+json$/.test(type);
}

/** Response headers that belong to a file, by lower-case name. */
export type FileHeaders = Readonly<Record<string, string>>;

/**
 * @param encoding the encoding a page was read in; published as its charset, because a wrong one
 *   in a header beats the right one in the page (HTML standard, section 13.2.3.2).
 */
export function findFileHeaders(path: string, encoding?: string): FileHeaders {
  const type = findMediaType(path);
  const charset = type === 'text/html' ? encoding : isTextType(type) && type.startsWith('text/') ? 'utf-8' : undefined;
  return {
    'content-type': charset === undefined ? type : `${type}; charset=${charset}`,
    // Names carry no version, so every use asks again; that costs a 304, and a release is seen at once.
    'cache-control': 'no-cache',
  };
}
