/**
 * Rules for Apache's server configuration: a map that is looked up, and the rewriting that asks it in the order
 * of `decide`. A map is as fast for 100,000 addresses as for ten; lines of mod_alias are gone through one by one.
 * Source: Apache HTTP Server 2.4 documentation, mod_rewrite and RewriteMap; what it leaves open was tried on the
 * server itself (apps/server/tests/peers/exports.test.ts).
 */
import { splitAddress } from '../../address/index.ts';
import type { Rule } from '../rule.ts';
import type { Exported } from './exported.ts';
import {
  encodePathBytes,
  planForServer,
  type PlannedAnswer,
  type PlannedPath,
  type PlannedPattern,
} from './serverPlan.ts';

/** Parts the columns of a value; every address has it encoded (RFC 3986, appendix A). */
const BAR = '>';

export function writeApacheMapRules(rules: readonly Rule[]): Exported {
  const plan = planForServer(rules);
  const lines = [
    ...plan.queries.map((each) =>
      writeMapLine('q', `${decodeServerPath(each.from)}?${splitAddress(each.from).query ?? ''}`, each),
    ),
    ...plan.beforeFiles.map((each) => writeMapLine('b', decodeServerPath(each.from), each)),
    ...plan.answers.map(({ from, file }) => `f${decodeServerPath(from)} ${file}`),
    ...plan.paths.map((each) => writeMapLine('p', decodeServerPath(each.from), each)),
    ...plan.spellings.map((each) =>
      writeMapLine(
        each.ignoresCase ? 'i' : 's',
        each.ignoresCase ? decodeServerPath(each.from).toLowerCase() : decodeServerPath(each.from),
        each,
      ),
    ),
  ];
  return {
    files: [
      { name: 'redirects.map', text: [...lines, ''].join('\n') },
      { name: 'redirects.conf', text: writeConfiguration(plan) },
    ],
    leftOut: [],
  };
}

function writeMapLine(table: string, key: string, { status, join, to, fragment }: PlannedAnswer): string {
  return `${table}${key} ${[status, join || '=', to || '-', fragment].join(BAR)}`;
}

/** As `${esc:%{REQUEST_URI}}` writes it: decoded, but for slashes, and encoded again in small hexadecimal letters. */
function decodeServerPath(address: string): string {
  return [...encodePathBytes(address.replace(/%2F/g, '%252F'))]
    .map((byte) =>
      /[A-Za-z0-9$\-_.+!*'(),:;@&=/~]/.test(String.fromCharCode(byte))
        ? String.fromCharCode(byte)
        : `%${byte.toString(16).padStart(2, '0')}`,
    )
    .join('');
}

/**
 * What is said of an address again must not begin like another host's name, as `//host` does, and to browsers `/\host`
 * too (RFC 3986, section 4.2; URL standard, "special authority slashes state").
 */
const ONE_SLASH = '^/[/\\x5c]*';

type Plan = ReturnType<typeof planForServer>;

function writeConfiguration(plan: Plan): string {
  const path = '${esc:%{REQUEST_URI}}';
  const found = (table: string, key: string, all: readonly PlannedPath[]) =>
    findShapes(all).flatMap((shape) =>
      answerLines(
        shape,
        (rest) => [
          `RewriteCond ${quoteValue(`\${redirects:${table}${key}}`)} ${quoteValue(`^${shape.status}>${shape.join === '' ? '=' : `\\${shape.join}`}>(.*)>(.*)$`)}`,
          ...rest,
        ],
        '%1',
        '%2',
      ),
    );
  return [
    '# Redirects: include this file inside <VirtualHost>, after',
    '#   Define REDIRECTS_MAP /path/to/redirects.map',
    '# It needs mod_rewrite. A changed map is read by itself; a changed configuration with a reload.',
    'RewriteEngine On',
    'RewriteMap redirects "txt:${REDIRECTS_MAP}"',
    'RewriteMap esc int:escape',
    'RewriteMap lower int:tolower',
    'AllowEncodedSlashes NoDecode',
    'DirectorySlash Off',
    '# The address as it was asked for.',
    'RewriteCond %{THE_REQUEST} "^\\S+\\s+(?:https?://[^/\\s]+)?([^?\\s]*)"',
    'RewriteRule ^ - [E=ASKED:%1]',
    '# Addresses with a query of their own, before any file.',
    ...found('q', `${path}?%{QUERY_STRING}`, plan.queries),
    ...plan.queryPatterns.flatMap((each) => writePatternLines(each, '%{ENV:ASKED}?%{QUERY_STRING}', [HAS_QUERY])),
    '# Files that are the answer of another address.',
    ...found('b', path, plan.beforeFiles),
    '# A live page goes before its redirect.',
    'RewriteCond %{REQUEST_URI} "[^/]$"',
    'RewriteCond "%{DOCUMENT_ROOT}%{REQUEST_URI}" -f',
    'RewriteRule ^ - [L]',
    ...['index.html', 'index.htm'].flatMap((index) => [
      'RewriteCond %{REQUEST_URI} "/$"',
      `RewriteCond "%{DOCUMENT_ROOT}%{REQUEST_URI}${index}" -f`,
      `RewriteRule ^ "%{REQUEST_URI}${index}" [L]`,
    ]),
    '# Answered by a file of another name.',
    ...(plan.answers.length === 0
      ? []
      : [
          `RewriteCond "\${redirects:f${path}}" "^(/.+)$"`,
          'RewriteCond "%{DOCUMENT_ROOT}%1" -f',
          `RewriteCond "\${redirects:f${path}}" "^(/.+)$"`,
          'RewriteRule ^ "%1" [L]',
        ]),
    '# Old addresses: letter by letter, then in any spelling that is overlooked.',
    ...found('p', path, plan.paths),
    ...found(
      's',
      path,
      plan.spellings.filter(({ ignoresCase }) => !ignoresCase),
    ),
    ...found(
      'i',
      `\${lower:${path}}`,
      plan.spellings.filter(({ ignoresCase }) => ignoresCase),
    ),
    '# A folder that was asked for without its slash.',
    ...['index.html', 'index.htm'].flatMap((index) => [
      `RewriteCond %{REQUEST_URI} "[^/]$"`,
      `RewriteCond "%{DOCUMENT_ROOT}%{REQUEST_URI}/${index}" -f`,
      `RewriteCond %{ENV:ASKED} "${ONE_SLASH}(.*)$"`,
      'RewriteRule ^ "/%1/" [R=301,NE,L]',
    ]),
    '# Patterns in their order, after everything else.',
    ...plan.patterns.flatMap((each) => writePatternLines(each, '%{ENV:ASKED}')),
    '# A folder without a page is no page.',
    'RewriteCond "%{DOCUMENT_ROOT}%{REQUEST_URI}" -d',
    'RewriteRule ^ - [R=404,L]',
    '',
  ].join('\n');
}

type Shape = Pick<PlannedAnswer, 'status' | 'join'>;

function findShapes(all: readonly Shape[]): Shape[] {
  return [...new Map(all.map(({ status, join }) => [`${status}${join}`, { status, join }])).values()].sort(
    (a, b) => a.status - b.status || (a.join < b.join ? -1 : 1),
  );
}

/** The visitor's query is put in by hand: Apache would put it behind a fragment. */
function answerLines(
  { status, join }: Shape,
  when: (rest: readonly string[]) => readonly string[],
  to: string,
  fragment: string,
): string[] {
  if (status === 410) return [...when([]), 'RewriteRule ^ - [R=410,L]'];
  const rule = (query: string) =>
    `RewriteRule ^ ${quoteValue(`${to}${query}${fragment}`)} [R=${status},NE,L,QSD,UnsafeAllow3F]`;
  if (join === '') return [...when([]), rule('')];
  // Conditions are asked in order, and what the last of them remembers is what %1 stands for.
  return [HAS_QUERY, ...when([]), rule(`${join}%{QUERY_STRING}`), ...when([]), rule('')];
}

const HAS_QUERY = 'RewriteCond %{QUERY_STRING} .';

/** @param first conditions that hold before the pattern is tried */
function writePatternLines(pattern: PlannedPattern, asked: string, first: readonly string[] = []): string[] {
  const filled = (pieces: PlannedPattern['to']) =>
    pieces.map((piece) => (typeof piece === 'string' ? escapeLiteral(piece) : `%${piece}`)).join('');
  const condition = `RewriteCond ${quoteValue(asked)} ${quoteValue(`^${pattern.source}$`)}${pattern.ignoresCase ? ' [NC]' : ''}`;
  if (pattern.to[0] !== '/')
    return answerLines(pattern, (rest) => [...first, condition, ...rest], filled(pattern.to), filled(pattern.fragment));
  // What a part holds may begin with a slash.
  const oneSlash = `RewriteCond ${quoteValue(`${filled(pattern.to)} ${filled(pattern.fragment)}`)} "${ONE_SLASH}(\\S*) (.*)$"`;
  return answerLines(pattern, (rest) => [...first, condition, oneSlash, ...rest], '/%1', '%2');
}

/** In a substitution these begin a reference, and a backslash takes that from them. */
function escapeLiteral(text: string): string {
  return text.replace(/[\\$%]/g, '\\$&');
}

/**
 * mod_rewrite reads its own lines, and the first quotation mark ends what is quoted, whatever stands before it: a pattern
 * has it by its number. An address has none (RFC 3986, appendix A).
 */
function quoteValue(text: string): string {
  return `"${text.replaceAll('"', '\\x22')}"`;
}
