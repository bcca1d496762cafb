/**
 * A release's own headers and its page for what is not found, as configuration of the two common servers, for a
 * release that is taken along. Types are told by ending, as servers do; files that are otherwise are told one by one.
 * Source: nginx documentation, ngx_http_core_module (types, default_type, error_page) and ngx_http_headers_module;
 * Apache HTTP Server 2.4 documentation, mod_mime (AddType), core (ForceType, ErrorDocument) and mod_headers. What they
 * leave open was tried on the servers themselves (apps/server/tests/peers/takeAlong.test.ts).
 */
import type { ManifestEntry } from './manifest.ts';

const FALLBACK = 'application/octet-stream';
const NOT_FOUND = /(^|\/)404\.html$/;

interface Types {
  /** By ending, in small letters, without its dot. */
  readonly byEnding: ReadonlyMap<string, string>;
  readonly others: readonly ManifestEntry[];
}

export function nginxHeaders(entries: Iterable<ManifestEntry>): string {
  const {
    all,
    types: { byEnding, others },
    notFound,
  } = planned(entries);
  const endings = new Map<string, string[]>();
  for (const [ending, type] of byEnding) endings.set(type, [...(endings.get(type) ?? []), ending]);
  return [
    '# Headers: include this file inside server { }, before redirects-server.conf.',
    'types {',
    ...[...endings]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([type, all]) => `  ${quoted(type)} ${all.sort().join(' ')};`),
    '}',
    `default_type ${FALLBACK};`,
    ...cacheValues(all).map((value) => `add_header Cache-Control ${quoted(value)};`),
    ...others.flatMap((entry) =>
      addresses(entry).map(
        (address) =>
          `location = ${quoted(address)} { types { } default_type ${quoted(typeOf(entry))}; try_files ${quoted(`/${entry.path}`)} =404; }`,
      ),
    ),
    ...(notFound === undefined
      ? []
      : [
          `error_page 404 ${quoted(`/${notFound}`)};`,
          `error_page 410 ${quoted(`/${notFound}`)};`,
          `location = ${quoted(`/${notFound}`)} { internal; auth_basic off; }`,
        ]),
    '',
  ].join('\n');
}

export function apacheHeaders(entries: Iterable<ManifestEntry>): string {
  const {
    all,
    types: { byEnding, others },
    notFound,
  } = planned(entries);
  return [
    '# Headers: include this file inside <VirtualHost>. It needs mod_mime and mod_headers.',
    'AddDefaultCharset Off',
    '# A file without an ending has no type otherwise.',
    `<FilesMatch "^[^.]+$">\n  ForceType ${FALLBACK}\n</FilesMatch>`,
    ...[...byEnding].sort(([a], [b]) => (a < b ? -1 : 1)).map(([ending, type]) => `AddType ${quoted(type)} .${ending}`),
    ...cacheValues(all).map((value) => `Header set Cache-Control ${quoted(value)}`),
    ...others.map(
      (entry) =>
        `<LocationMatch ${quoted(`^(?:${addresses(entry).map(literal).join('|')})$`)}>\n  ForceType ${quoted(typeOf(entry))}\n</LocationMatch>`,
    ),
    ...(notFound === undefined
      ? []
      : [`ErrorDocument 404 ${quoted(`/${notFound}`)}`, `ErrorDocument 410 ${quoted(`/${notFound}`)}`]),
    '',
  ].join('\n');
}

function planned(entries: Iterable<ManifestEntry>): {
  readonly all: readonly ManifestEntry[];
  readonly types: Types;
  readonly notFound: string | undefined;
} {
  const all = [...entries];
  const notFound = all
    .map(({ path }) => path)
    .filter((path) => NOT_FOUND.test(path))
    .sort((a, b) => a.length - b.length)[0];
  return { all, types: typesOf(all), notFound };
}

/** Of each ending what most of its files have. */
function typesOf(all: readonly ManifestEntry[]): Types {
  const counts = new Map<string, Map<string, number>>();
  for (const entry of all) {
    const ending = endingOf(entry.path);
    if (ending === '') continue;
    const types = counts.get(ending) ?? new Map<string, number>();
    types.set(typeOf(entry), (types.get(typeOf(entry)) ?? 0) + 1);
    counts.set(ending, types);
  }
  const byEnding = new Map(
    [...counts].map(([ending, types]) => [
      ending,
      [...types].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? FALLBACK,
    ]),
  );
  return {
    byEnding,
    others: all.filter((entry) => typeOf(entry) !== (byEnding.get(endingOf(entry.path)) ?? FALLBACK)),
  };
}

/** The file itself, and the folder it is the page of. */
function addresses({ path }: ManifestEntry): string[] {
  // Both servers ask by the decoded path.
  return /(^|\/)index\.html?$/.test(path) ? [`/${path}`, `/${path.slice(0, path.lastIndexOf('/') + 1)}`] : [`/${path}`];
}

const typeOf = ({ headers }: ManifestEntry): string => headers['content-type'] ?? FALLBACK;
const cacheValues = (all: readonly ManifestEntry[]): string[] =>
  [...new Set(all.flatMap(({ headers }) => headers['cache-control'] ?? []))].slice(0, 1);

function endingOf(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1);
  const dot = name.lastIndexOf('.');
  return dot < 1 || !/^[\w+-]+$/.test(name.slice(dot + 1)) ? '' : name.slice(dot + 1).toLowerCase();
}

const quoted = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&')}"`;
const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
