/**
 * Rules for Apache as lines of mod_alias, which also a folder's own settings file may hold: for hosts whose
 * configuration nobody can reach. Each request goes through all of them, so a map is better from some hundred on, and
 * slashes in a row are one before any line is asked (core, MergeSlashes).
 * Source: Apache HTTP Server 2.4 documentation, mod_alias and expressions; what it leaves open was tried on the
 * server itself (apps/server/tests/peers/exports.test.ts).
 */
import { listCandidateFiles, decodePath, splitAddress } from '../../address/index.ts';
import type { FileSet } from '../decide.ts';
import { escapeExpression } from '../../text/index.ts';
import type { Rule } from '../rule.ts';
import { unsaid, type UnsaidMessage } from '../messages.ts';
import type { Exported } from './exported.ts';
import { planForServer, type PlannedPath, type PlannedPattern } from './serverPlan.ts';

/** Above this many lines a site becomes slow: 10,000 leave some 40 requests a second. */
const MANY_LINES = 500;

/** @param files of the release; a redirect from a live page is left out, since mod_alias would let it go before the page */
export function writeApacheAliasRules(rules: readonly Rule[], files: FileSet): Exported {
  const plan = planForServer(rules);
  const leftOut: Exported['leftOut'][number][] = plan.answers.map(({ from }) => ({
    from,
    why: unsaid('alias-other-name'),
  }));
  const fitting = <T>(
    all: readonly T[],
    problem: (each: T) => UnsaidMessage | undefined,
    nameOf: (each: T) => string,
    spellings?: true,
  ): T[] =>
    all.filter((each) => {
      const why = problem(each);
      if (why !== undefined) leftOut.push({ from: nameOf(each), why, ...(spellings ? { spellings } : {}) });
      return why === undefined;
    });
  leftOut.push(...plan.beforeFiles.map(({ from, to }) => ({ from, why: unsaid('alias-leads-to', { to }) })));
  const problem = (path: PlannedPath) =>
    !path.from.includes('?') && listCandidateFiles(path.from).some((file) => files.has(file))
      ? unsaid('page-there')
      : findPathProblem(path);
  const paths = [
    ...fitting([...plan.queries, ...plan.paths], problem, ({ from }) => from),
    ...fitting(plan.spellings, problem, ({ from }) => from, true),
  ];
  const patterns = fitting([...plan.queryPatterns, ...plan.patterns], findPatternProblem, ({ text }) => text);
  const lines = [...patterns.reverse().flatMap(writePatternLines), ...writePathSections(paths)];
  return {
    files: [
      {
        name: 'redirects.htaccess',
        text: [
          '# Redirects as lines of mod_alias, for the settings file of the site’s own folder.',
          '# Sections further down are tried first: that is how Apache puts them together.',
          ...(paths.length > MANY_LINES
            ? [
                `# ${paths.length} addresses: every request goes through all of them. Where the server’s configuration can be reached, the map is better.`,
              ]
            : []),
          ...lines,
          '',
        ].join('\n'),
      },
    ],
    leftOut,
  };
}

/** What mod_alias would write otherwise than it is meant. */
function findPathProblem(planned: PlannedPath): UnsaidMessage | undefined {
  const { from, fragment, join } = planned;
  const { path, query } = splitAddress(from);
  if (decodePath(path) === undefined) return unsaid('alias-encoded');
  if (path.includes("'") || query?.includes("'")) return unsaid('alias-quotation');
  if (join === '&' || (fragment !== '' && join !== '')) return unsaid('alias-query-into');
  if (!isSimple(planned) && (planned.ignoresCase || path.includes('%5C'))) return unsaid('alias-encodes-again');
  return undefined;
}

/** `RedirectMatch` encodes its target itself, so it takes what stays the same when it is decoded first. */
function isSimple({ from, to }: PlannedPath): boolean {
  if (from.includes('?')) return false;
  const target = to.startsWith('/') && !to.includes('?') ? decodePath(to) : undefined;
  return !to.includes('%') || (target !== undefined && !/[%?#\\$]/.test(target));
}

function findPatternProblem({ to, fragment, join, source }: PlannedPattern): UnsaidMessage | undefined {
  if (source.includes('\\?')) return unsaid('alias-query-unseen');
  // It sees the path decoded, where what the pattern sees is `%22`.
  if (source.includes('"')) return unsaid('alias-quotation');
  const isPlain = [...to, ...fragment].every((piece) => typeof piece === 'number' || !/[%$\\]/.test(piece));
  if (!isPlain) return unsaid('alias-encodes-again');
  if (join !== '?' && to.length > 0) return unsaid('alias-query-on');
  if (fragment.length > 0) return unsaid('alias-query-behind');
  // What `:name` alone stands for has no slash in it, wherever its group takes along the one before.
  const isMore = source.replaceAll('([^\\/]+?)', '').replaceAll('(?:\\/)', '').includes('(');
  if (to[0] === '/' && typeof to[1] === 'number' && isMore) return unsaid('alias-two-slashes');
  if ([...to].some((piece) => typeof piece === 'number' && piece > 9)) return unsaid('alias-groups', { most: 9 });
  return undefined;
}

/** All that has no condition of its own in one section, which is tried before the patterns. */
function writePathSections(paths: readonly PlannedPath[]): string[] {
  const simple = paths.filter(isSimple);
  const condition = (path: PlannedPath) => {
    const { query } = splitAddress(path.from);
    return `%{REQUEST_URI} == '${decodePart(path)}'${query === undefined ? '' : ` && %{QUERY_STRING} == '${query}'`}`;
  };
  // Those with a query come last, so that they are tried first.
  const others = paths
    .filter((path) => !isSimple(path))
    .sort((a, b) => Number(a.from.includes('?')) - Number(b.from.includes('?')));
  return [
    ...(simple.length > 0 ? ['<If "true">', ...simple.map((each) => `  ${writeSimpleLine(each)}`), '</If>'] : []),
    ...others.flatMap((each) => writeSection(each, condition(each))),
  ];
}

const decodePart = ({ from }: PlannedPath): string => decodePath(splitAddress(from).path) ?? '';

function writeSimpleLine(path: PlannedPath): string {
  const pattern = quoteArgument(`${path.ignoresCase ? '(?i)' : ''}^${escapeExpression(decodePart(path))}$`);
  return path.status === 410
    ? `RedirectMatch 410 ${pattern}`
    : `RedirectMatch ${path.status} ${pattern} ${quoteArgument(writeTarget({ ...path, to: path.to.includes('%') ? (decodePath(path.to) ?? '') : path.to }).replace(/[\\$]/g, '\\$&'))}`;
}

/** `Redirect` writes its target as it is, which `RedirectMatch` does not; the condition keeps what is below out. */
function writeSection(path: PlannedPath, condition: string): string[] {
  const from = quoteArgument(decodePart(path));
  return [
    `<If "${condition.replace(/"/g, '\\"')}">`,
    path.status === 410
      ? `  Redirect 410 ${from}`
      : `  Redirect ${path.status} ${from} ${quoteArgument(writeTarget(path))}`,
    '</If>',
  ];
}

/** An empty query keeps the visitor's from being added. */
function writeTarget({ to, fragment, join }: PlannedPath): string {
  return join === '' && !to.includes('?') ? `${to}?${fragment}` : to + fragment;
}

function writePatternLines({ source, status, ignoresCase, to }: PlannedPattern): string[] {
  const file = '%{DOCUMENT_ROOT}%{REQUEST_URI}';
  const filled = to.map((piece) => (typeof piece === 'string' ? piece : `$${piece}`)).join('');
  const pattern = quoteArgument(`${ignoresCase ? '(?i)' : ''}^${source}$`);
  return [
    `<If "! -f '${file}' && ! -d '${file}' && %{IS_SUBREQ} == 'false'">`,
    status === 410 ? `  RedirectMatch 410 ${pattern}` : `  RedirectMatch ${status} ${pattern} ${quoteArgument(filled)}`,
    '</If>',
  ];
}

function quoteArgument(text: string): string {
  return `"${text.replace(/"/g, '\\"')}"`;
}
