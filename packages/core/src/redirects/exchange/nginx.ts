/**
 * Rules for nginx: maps, which are looked up and not gone through, and what asks them in the order of `decide`.
 * Source: nginx documentation, ngx_http_map_module and ngx_http_rewrite_module; what it leaves open was tried
 * on the server itself (apps/server/tests/peers/exports.test.ts).
 */
import { splitAddress } from '../../address/index.ts';
import { decodeStrictly, escapeQuotes } from '../../text/index.ts';
import { escapeSource } from '../pattern/source.ts';
import type { Rule } from '../rule.ts';
import { unsaid } from '../messages.ts';
import type { Exported } from './exported.ts';
import {
  encodePathBytes,
  planForServer,
  type PlannedAnswer,
  type PlannedPath,
  type PlannedPattern,
  type ServerPlan,
} from './serverPlan.ts';

/** Variables of nginx stand for nine groups at most. */
const MOST_GROUPS = 9;

export function writeNginxRules(rules: readonly Rule[]): Exported {
  const whole = planForServer(rules);
  const isPossible = ({ to, fragment }: PlannedPattern) =>
    ![...to, ...fragment].some((piece) => typeof piece === 'number' && piece > MOST_GROUPS);
  const plan = {
    ...whole,
    patterns: whole.patterns.filter(isPossible),
    queryPatterns: whole.queryPatterns.filter(isPossible),
  };
  const all = [...plan.queries, ...plan.beforeFiles, ...plan.paths, ...plan.spellings];
  return {
    files: [
      { name: 'redirects-maps.conf', text: writeMaps(plan, all) },
      { name: 'redirects-server.conf', text: writeServer(plan) },
    ],
    leftOut: [...whole.queryPatterns, ...whole.patterns]
      .filter((pattern) => !isPossible(pattern))
      .map(({ text }) => ({
        from: text,
        why: unsaid('nginx-groups', { most: MOST_GROUPS }),
      })),
  };
}

/**
 * What was asked for is said again where a folder lacks its slash: it must not begin like another host's name, which
 * `//host` and, to browsers, `/\host` does (RFC 3986, section 4.2; URL standard, "special authority slashes state").
 */
const ONE_SLASH = `${writeExpression('^/[/\\\\]+(.*)$')} "/$1";`;

function writeMaps(plan: ServerPlan, all: readonly PlannedPath[]): string {
  // A bucket has to hold the longest key and value; the table is as large as nginx advises for so many.
  const longest = all.reduce(
    (most, { from, to, fragment }) => Math.max(most, 2 * from.length + to.length + fragment.length),
    0,
  );
  const power = (least: number, from: number) => {
    let size = from;
    while (size < least) size *= 2;
    return size;
  };
  return [
    '# Redirects: include this file inside http { }, and redirects-server.conf inside server { }.',
    `map_hash_max_size ${power(all.length * 3, 2048)};`,
    `map_hash_bucket_size ${power(longest + 128, 256)};`,
    'geo $redirect_dollar { default "$"; }',
    '',
    '# The path as it was asked for, and whether a slash in it was encoded: then it parts nothing.',
    `map $request_uri $redirect_asked { default ""; ${writeExpression('^([^?#]*)')} "$1"; }`,
    `map $redirect_asked $redirect_slashed { default ""; "~*%2F" "%2F"; }`,
    `map $redirect_asked $redirect_folder { default "$redirect_asked/"; ${ONE_SLASH.replace('"/$1"', '"/$1/"')} }`,
    'map $args $redirect_more { default "&$args"; "" ""; }',
    'map $uri $redirect_index { default "$uri"; "~/$" "${uri}index.html"; }',
    'map $uri $redirect_index_htm { default "$uri"; "~/$" "${uri}index.htm"; }',
    '',
    '# Answered by a file of another name.',
    writeMap(
      '$uri',
      '$redirect_file',
      plan.answers.map(
        ({ from, file }) =>
          `${writeKey(encodePathBytes(from))} "${writeValue(decodeBytes(encodePathBytes(file)) ?? '')}";`,
      ),
    ),
    '',
    ...stage(
      'query',
      'Addresses with a query of their own, before any file.',
      '$uri?$args',
      plan.queries,
      // Without a query there is no question mark, so that nothing that asks for one fits.
      '$redirect_asked$is_args$args',
      plan.queryPatterns,
    ),
    ...stage('early', 'Files that are the answer of another address.', '$uri', plan.beforeFiles),
    ...stage('path', 'Old addresses; a live page goes before them.', '$uri', [...plan.paths, ...plan.spellings]),
    ...stage('pattern', 'Patterns in their order, after everything else.', '', [], '$redirect_asked', plan.patterns),
  ].join('\n');
}

/** Looks an address up and takes what is found apart: `$redirect_NAME_status` and `$redirect_NAME_to`. */
function stage(
  name: string,
  heading: string,
  asked: string,
  all: readonly PlannedPath[],
  askedByPattern = '$redirect_asked',
  patterns: readonly PlannedPattern[] = [],
): string[] {
  const v = (part: string) => `$redirect_${name}_${part}`;
  const isSlashed = ({ from }: PlannedPath) => splitAddress(from).path.includes('%2F');
  const [paths, slashed] = [all.filter((each) => !isSlashed(each)), all.filter(isSlashed)];
  // What differs by letter case only is one key to nginx, so such addresses are expressions, letter by letter.
  const folded = new Map<string, number>();
  for (const { from } of paths) folded.set(from.toLowerCase(), (folded.get(from.toLowerCase()) ?? 0) + 1);
  const caught = [...slashed.map(writeSlashedEntry), ...patterns.map(writePatternEntry)];
  return [
    `# ${heading}`,
    writeMap(
      `"${asked}"`,
      v('found'),
      paths.map((each) => writePathEntry(each, (folded.get(each.from.toLowerCase()) ?? 0) > 1)),
    ),
    // Keys overlook letter case and addresses do not: behind what was found stands whose it is, or a star for any spelling.
    writeMap(`"${v('found')} ${asked}$redirect_slashed"`, v('exact'), [
      `${writeExpression('^(\\S+ \\S+ \\S+ \\S+) (.+) \\2$')} "$1";`,
      `${writeExpression('^(\\S+ \\S+ \\S+ \\S+) \\* .*(?<!%2F)$')} "$1";`,
    ]),
    writeMap(`"${askedByPattern}"`, v('caught'), caught),
    `map ${v('exact')} ${v('answer')} { default ${v('exact')}; "" ${v('caught')}; }`,
    `map ${v('answer')} ${v('status')} { default ""; ${writeExpression('^(\\d+) ')} "$1"; }`,
    writeMap(v('answer'), v('target'), [
      `${writeExpression('^\\d+ = (\\S+) -(.*)$')} "$1$2";`,
      `${writeExpression('^\\d+ \\? (\\S+) -(.*)$')} "$1$is_args$args$2";`,
      `${writeExpression('^\\d+ & (\\S+) -(.*)$')} "$1$redirect_more$2";`,
    ]),
    '# Two slashes at the front would make a host of what follows.',
    `map ${v('target')} ${v('to')} { default ${v('target')}; ${ONE_SLASH} }`,
    '',
  ];
}

function writeMap(source: string, into: string, lines: readonly string[]): string {
  return [`map ${source} ${into} {`, '  default "";', ...lines.map((line) => `  ${line}`), '}'].join('\n');
}

/** `301 ? /to -#fragment /from`: status, what happens to the query, target, fragment, and whose it is. */
function writePathEntry(path: PlannedPath, hasTwin: boolean): string {
  const { query } = splitAddress(path.from);
  const asked = query === undefined ? '' : `?${query}`;
  const text = decodeBytes(encodePathBytes(path.from));
  const isPlain = text !== undefined && !hasTwin && !/[\n\r]/.test(text);
  const by = isPlain
    ? writeKey(encodePathBytes(path.from), asked)
    : writeByteExpression(encodePathBytes(path.from), asked, path.ignoresCase);
  return `${by} "${answer(path)} ${isPlain && !path.ignoresCase ? writeValue(text + asked) : '*'}";`;
}

function writeSlashedEntry(path: PlannedPath): string {
  return `"~${path.ignoresCase ? '*' : ''}${escapeQuotes(`^${escapeSource(path.from)}$`)}" "${answer(path)}";`;
}

function writePatternEntry(pattern: PlannedPattern): string {
  const filled = (pieces: PlannedPattern['to']) =>
    pieces.map((piece) => (typeof piece === 'string' ? writeValue(piece) : `$${piece}`)).join('');
  const answered =
    pattern.status === 410
      ? '410 = - -'
      : `${pattern.status} ${pattern.join || '='} ${filled(pattern.to)} -${filled(pattern.fragment)}`;
  return `"~${pattern.ignoresCase ? '*' : ''}${escapeQuotes(`^${pattern.source}$`)}" "${answered}";`;
}

function answer({ status, join, to, fragment }: PlannedAnswer): string {
  return `${status} ${join || '='} ${to === '' ? '-' : writeValue(to)} -${writeValue(fragment)}`;
}

function writeKey(bytes: Uint8Array, more = ''): string {
  const text = decodeBytes(bytes);
  return text === undefined ? writeByteExpression(bytes, more, false) : `"${escapeQuotes(text + more)}"`;
}

/** Byte by byte, so that what is no UTF-8 can be said too. */
function writeByteExpression(bytes: Uint8Array, more: string, ignoresCase: boolean): string {
  const source = [...bytes, ...readPathBytes(more)]
    .map((byte) =>
      /[A-Za-z0-9/_-]/.test(String.fromCharCode(byte))
        ? String.fromCharCode(byte)
        : `\\x${byte.toString(16).padStart(2, '0')}`,
    )
    .join('');
  return `"~${ignoresCase ? '*' : ''}${escapeQuotes(`^${source}$`)}"`;
}

const readPathBytes = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));

const decodeBytes = (bytes: Uint8Array): string | undefined => decodeStrictly(bytes, 'utf-8');

function writeExpression(source: string): string {
  return `"~${escapeQuotes(source)}"`;
}

/** A value is read for variables; a key is not. */
function writeValue(text: string): string {
  return escapeQuotes(text).replace(/\$/g, '${redirect_dollar}');
}

function writeServer(plan: ServerPlan): string {
  const ends = (name: string, all: readonly Pick<PlannedAnswer, 'status'>[]) =>
    [...new Set(all.map(({ status }) => status))]
      .sort()
      .map(
        (status) =>
          `if ($redirect_${name}_status = ${status}) { return ${status}${status === 410 ? '' : ` $redirect_${name}_to`}; }`,
      );
  const inside = (lines: readonly string[]) => lines.map((line) => `  ${line}`);
  return [
    '# Redirects: include this file inside server { }, where root says where the site’s files are.',
    'absolute_redirect off;',
    'merge_slashes off;',
    ...ends('query', [...plan.queries, ...plan.queryPatterns]),
    ...ends('early', plan.beforeFiles),
    'location / { try_files $redirect_index $redirect_index_htm $redirect_file @redirects; }',
    'location @redirects {',
    ...inside(ends('path', [...plan.paths, ...plan.spellings])),
    '  if (-f $document_root$uri/index.html) { return 301 $redirect_folder$is_args$args; }',
    '  if (-f $document_root$uri/index.htm) { return 301 $redirect_folder$is_args$args; }',
    ...inside(ends('pattern', plan.patterns)),
    '  return 404;',
    '}',
    '',
  ].join('\n');
}
