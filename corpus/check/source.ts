/**
 * Reading a page or style sheet for the checker: what refers to something, and everything else. It shares no code
 * with the application, and reads with htmlparser2 where the application reads with parse5.
 */
import { Parser } from 'htmlparser2';

/** A reference with where its value stands in the text. */
export interface Ref {
  readonly tag: string;
  readonly attribute: string;
  readonly value: string;
  readonly start: number;
  readonly end: number;
}

/** Bytes as letters, one each: enough to compare, and never wrong about an encoding. */
export const letters = (bytes: Uint8Array): string => Buffer.from(bytes).toString('latin1');

const URLS: Readonly<Record<string, readonly string[]>> = {
  href: ['a', 'area', 'link'],
  src: ['img', 'script', 'iframe', 'frame', 'source', 'video', 'audio', 'embed', 'input', 'track'],
  background: ['body'],
  action: ['form'],
  data: ['object'],
  poster: ['video'],
  srcset: ['img', 'source'],
};

const ATTRIBUTE = /([^\s"'<>/=]+)(\s*=\s*)("[^"]*"|'[^']*'|[^\s"'>]+)/g;

export function refsOf(text: string): Ref[] {
  const out: Ref[] = [];
  let inStyle = false;
  const parser = new Parser(
    {
      onopentag(tag, attributes) {
        inStyle = tag === 'style';
        const from = parser.startIndex;
        const source = text.slice(from, parser.endIndex + 1);
        const seen = new Set<string>();
        for (const match of source.matchAll(ATTRIBUTE)) {
          const name = (match[1] ?? '').toLowerCase();
          const value = attributes[name];
          if (seen.has(name) || value === undefined) continue;
          seen.add(name);
          const quoted = /^["']/.test(match[3] ?? '') ? 1 : 0;
          const start = from + match.index + (match[1] ?? '').length + (match[2] ?? '').length + quoted;
          const end = from + match.index + match[0].length - quoted;
          if (URLS[name]?.includes(tag)) out.push({ tag, attribute: name, value, start, end });
          if (name === 'style')
            out.push(
              ...cssRefs(text.slice(start, end)).map((ref) => ({
                ...ref,
                tag,
                attribute: name,
                start: ref.start + start,
                end: ref.end + start,
              })),
            );
        }
      },
      onclosetag() {
        inStyle = false;
      },
      ontext(data) {
        if (!inStyle) return;
        const start = parser.startIndex;
        if (text.slice(start, start + data.length) === data)
          out.push(
            ...cssRefs(data).map((ref) => ({
              ...ref,
              tag: 'style',
              attribute: '',
              start: ref.start + start,
              end: ref.end + start,
            })),
          );
      },
    },
    { decodeEntities: true, lowerCaseTags: true, lowerCaseAttributeNames: true },
  );
  parser.write(text);
  parser.end();
  return out.sort((a, b) => a.start - b.start);
}

/** `url(…)` in CSS; what is in a comment changes nothing and is left out of both sides alike. */
export function cssRefs(css: string): { value: string; start: number; end: number }[] {
  return [...css.matchAll(/url\(\s*(["']?)([^"')]*)\1\s*\)/gi)]
    .map((match) => {
      const start = match.index + match[0].indexOf(match[2] ?? '', 4);
      return { value: (match[2] ?? '').trim(), start, end: start + (match[2] ?? '').length };
    })
    .filter(({ value }) => value !== '');
}

/** The text without what its references say: all that has to stay as it was. */
export function skeleton(text: string, refs: readonly Ref[]): string {
  let out = '';
  let at = 0;
  for (const { start, end } of refs) {
    if (start < at) continue;
    out += `${text.slice(at, start)}\0`;
    at = end;
  }
  return out + text.slice(at);
}

/** Addresses in a value: several in a srcset. */
export function addressesIn({ attribute, value }: Ref): string[] {
  if (attribute !== 'srcset') return [value.trim()];
  return value
    .split(',')
    .map((part) => part.trim().split(/\s+/)[0] ?? '')
    .filter((each) => each !== '');
}

const ORIGIN = 'http://site.invalid';

/** Where a reference leads, as a browser reads it (WHATWG URL): a path with query and fragment, or what is elsewhere as it is. */
export function leadsTo(href: string, from: string, base: string | undefined): string {
  if (href === '' || href.startsWith('#')) return base === undefined ? `self${href}` : href;
  try {
    const here = new URL(base ?? '', `${ORIGIN}${from}`);
    const url = new URL(href, here);
    return url.origin === ORIGIN ? url.pathname + url.search + url.hash : url.href;
  } catch {
    return `broken ${href}`;
  }
}

export function baseOf(text: string): string | undefined {
  return /<base\s[^>]*href\s*=\s*["']?([^"'\s>]+)/i.exec(text)?.[1];
}

/** A file's address: a folder's page answers at the folder (common practice). */
export function addressOf(path: string): string {
  return `/${path.split('/').map(encodeURIComponent).join('/').replace(/%2C/g, ',').replace(/%2B/g, '+').replace(/%40/g, '@').replace(/%3A/g, ':').replace(/%3D/g, '=').replace(/%26/g, '&').replace(/%24/g, '$').replace(/%3B/g, ';')}`.replace(
    /(^|\/)index\.html?$/i,
    '$1',
  );
}

export const isPage = (path: string): boolean => /\.(html?|xhtml)$/i.test(path);
export const isStyle = (path: string): boolean => /\.css$/i.test(path);
