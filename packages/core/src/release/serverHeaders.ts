/**
 * A release's own headers and its page for what is not found, as configuration of the two common servers, for a
 * release that is taken along. Types are told by ending, as servers do; files that are otherwise are told one by one.
 * Source: nginx documentation, ngx_http_core_module (types, default_type, error_page) and ngx_http_headers_module;
 * Apache HTTP Server 2.4 documentation, mod_mime (AddType), core (ForceType, ErrorDocument) and mod_headers. What they
 * leave open was tried on the servers themselves (apps/server/tests/peers/takeAlong.test.ts).
 */
import { escapeExpression, quoteInDirective } from '../text/index.ts';
import type { ManifestEntry } from './manifest.ts';

const FALLBACK = 'application/octet-stream';
const NOT_FOUND = /(^|\/)404\.html$/;

interface Types {
  /** By ending, in small letters, without its dot. */
  readonly byEnding: ReadonlyMap<string, string>;
  readonly others: readonly ManifestEntry[];
}

export function writeNginxHeaders(entries: Iterable<ManifestEntry>): string {
  const {
    all,
    types: { byEnding, others },
    notFound,
  } = planHeaders(entries);
  const endings = new Map<string, string[]>();
  for (const [ending, type] of byEnding) endings.set(type, [...(endings.get(type) ?? []), ending]);
  return [
    '# Headers: include this file inside server { }, before redirects-server.conf.',
    'types {',
    ...[...endings]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([type, all]) => `  ${quoteInDirective(type)} ${all.sort().join(' ')};`),
    '}',
    `default_type ${FALLBACK};`,
    ...listCacheValues(all).map((value) => `add_header Cache-Control ${quoteInDirective(value)};`),
    ...others.flatMap((entry) =>
      listAddresses(entry).map(
        (address) =>
          `location = ${quoteInDirective(address)} { types { } default_type ${quoteInDirective(readType(entry))}; try_files ${quoteInDirective(`/${entry.path}`)} =404; }`,
      ),
    ),
    ...(notFound === undefined
      ? []
      : [
          `error_page 404 ${quoteInDirective(`/${notFound}`)};`,
          `error_page 410 ${quoteInDirective(`/${notFound}`)};`,
          `location = ${quoteInDirective(`/${notFound}`)} { internal; auth_basic off; }`,
        ]),
    '',
  ].join('\n');
}

export function writeApacheHeaders(entries: Iterable<ManifestEntry>): string {
  const {
    all,
    types: { byEnding, others },
    notFound,
  } = planHeaders(entries);
  return [
    '# Headers: include this file inside <VirtualHost>. It needs mod_mime and mod_headers.',
    'AddDefaultCharset Off',
    '# A file without an ending has no type otherwise.',
    `<FilesMatch "^[^.]+$">\n  ForceType ${FALLBACK}\n</FilesMatch>`,
    ...[...byEnding]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([ending, type]) => `AddType ${quoteInDirective(type)} .${ending}`),
    ...listCacheValues(all).map((value) => `Header set Cache-Control ${quoteInDirective(value)}`),
    ...others.map(
      (entry) =>
        `<LocationMatch ${quoteInDirective(`^(?:${listAddresses(entry).map(escapeExpression).join('|')})$`)}>\n  ForceType ${quoteInDirective(readType(entry))}\n</LocationMatch>`,
    ),
    ...(notFound === undefined
      ? []
      : [
          `ErrorDocument 404 ${quoteInDirective(`/${notFound}`)}`,
          `ErrorDocument 410 ${quoteInDirective(`/${notFound}`)}`,
        ]),
    '',
  ].join('\n');
}

function planHeaders(entries: Iterable<ManifestEntry>): {
  readonly all: readonly ManifestEntry[];
  readonly types: Types;
  readonly notFound: string | undefined;
} {
  const all = [...entries];
  const notFound = all
    .map(({ path }) => path)
    .filter((path) => NOT_FOUND.test(path))
    .sort((a, b) => a.length - b.length)[0];
  return { all, types: groupTypes(all), notFound };
}

/** Of each ending what most of its files have. */
function groupTypes(all: readonly ManifestEntry[]): Types {
  const counts = new Map<string, Map<string, number>>();
  for (const entry of all) {
    const ending = readEnding(entry.path);
    if (ending === '') continue;
    const types = counts.get(ending) ?? new Map<string, number>();
    types.set(readType(entry), (types.get(readType(entry)) ?? 0) + 1);
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
    others: all.filter((entry) => readType(entry) !== (byEnding.get(readEnding(entry.path)) ?? FALLBACK)),
  };
}

/** The file itself, and the folder it is the page of. */
function listAddresses({ path }: ManifestEntry): string[] {
  // Both servers ask by the decoded path.
  return /(^|\/)index\.html?$/.test(path) ? [`/${path}`, `/${path.slice(0, path.lastIndexOf('/') + 1)}`] : [`/${path}`];
}

const readType = ({ headers }: ManifestEntry): string => headers['content-type'] ?? FALLBACK;
const listCacheValues = (all: readonly ManifestEntry[]): string[] =>
  [...new Set(all.flatMap(({ headers }) => headers['cache-control'] ?? []))].slice(0, 1);

function readEnding(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1);
  const dot = name.lastIndexOf('.');
  return dot < 1 || !/^[\w+-]+$/.test(name.slice(dot + 1)) ? '' : name.slice(dot + 1).toLowerCase();
}
