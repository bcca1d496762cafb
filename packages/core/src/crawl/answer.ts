/** A page or style sheet as a running site answers it: its text, and where it leads. */
import { parseUrl } from '../address/index.ts';
import { readBaseHref, findCssUrls, decodeSource, parseForReading, readDocument } from '../html/index.ts';
import { decodeText, findEncoding } from '../text/index.ts';

export type AnswerKind = 'page' | 'style';

export interface Answer {
  readonly bytes: Uint8Array;
  readonly kind: AnswerKind;
  /** Absolute address it answered at. */
  readonly url: string;
  /** The `charset` of its Content-Type; a browser believes it more than the page (HTML standard, section 13.2.3.2). */
  readonly charset: string | undefined;
}

const utf8 = new TextEncoder();

/**
 * The bytes as they mean the same without the header: where the header names another encoding than the
 * page, and letters would change, the page becomes UTF-8 with a byte order mark, which says so itself.
 */
export function settleEncoding({ bytes, kind, charset }: Answer): { bytes: Uint8Array; recoded: boolean } {
  const decoded = decodeSource(bytes);
  if (charset === undefined || decoded.encodingSource === 'bom') return { bytes, recoded: false };
  const encoding = findEncoding(charset);
  // No encoding of that name: a browser falls back to the page's own as well.
  if (encoding === undefined) return { bytes, recoded: false };
  const served = decodeText(bytes, encoding);
  if (served === decoded.text) return { bytes, recoded: false };
  return {
    bytes: utf8.encode(kind === 'page' || served.charCodeAt(0) !== 0xfeff ? `\uFEFF${served}` : served),
    recoded: true,
  };
}

/** What a form sends its fields to is asked for by people, never by a crawler. */
const SENDS = new Set(['form', 'button', 'input']);

/** Every absolute address it refers to, each once, without fragments. */
export function leadsTo({ kind, url }: Pick<Answer, 'kind' | 'url'>, bytes: Uint8Array): string[] {
  const found = new Set<string>();
  const add = (href: string, base: string) => {
    const target = parseUrl(href, base);
    if (target === undefined) return;
    target.hash = '';
    found.add(target.href);
  };
  if (kind === 'style') for (const each of findCssUrls(decodeSource(bytes).text)) add(each.url, url);
  else {
    const document = parseForReading(bytes);
    const written = readBaseHref(document);
    const base = written === undefined ? url : (parseUrl(written, url)?.href ?? url);
    for (const { href, element, attribute } of readDocument(document).links) {
      if (!SENDS.has(element) || attribute === 'src') add(href, base);
    }
  }
  return [...found];
}
