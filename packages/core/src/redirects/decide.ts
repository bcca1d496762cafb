/**
 * What a host answers to a request: the one place that decides, used by the proof on the draft and
 * by the host stand-in alike.
 */
import { listCandidateFiles, type Address } from '../address/index.ts';
import { splitHost } from './oldHost.ts';
import type { Rule } from './rule.ts';
import type { PatternAnswer, RuleIndex } from './ruleIndex.ts';

/** The files of a release, by path. */
export interface FileSet {
  has(path: string): boolean;
}

export type Answer =
  | { readonly kind: 'file'; readonly file: string }
  | {
      readonly kind: 'redirect';
      readonly status: 301 | 302 | 307 | 308;
      readonly location: string;
      readonly rule: Rule | undefined;
    }
  | { readonly kind: 'gone'; readonly rule: Rule }
  | { readonly kind: 'missing' };

/** The files that the decision about a request may ask for, so that only they have to be looked up. */
export function listFilesInQuestion(request: Address, rules: RuleIndex): string[] {
  const rule = rules.get(request.path);
  const answering = rule?.status === 200 && rule.to !== undefined ? listCandidateFiles(rule.to) : [];
  return [...listCandidateFiles(request.path), ...listCandidateFiles(`${request.path}/`), ...answering];
}

/**
 * Order of decision:
 * 1. a rule for exactly this query: `/?p=12` is an old address of its own, although "/" is a page; then
 *    patterns that ask for a query;
 * 2. a file: a live page always wins over a rule for its address, unless it is the answer of another one;
 * 3. a rule for the path, whose target keeps the visitor's query unless it says otherwise; then one that
 *    overlooks letter case or a last slash;
 * 4. a folder asked for without its slash is sent on with it, as web servers do (common practice);
 * 5. patterns, the first that matches.
 *
 * An address of an old domain is no file of the site; without a rule for it, it leads to the same address here.
 */
export function decide(request: Address, files: FileSet, rules: RuleIndex): Answer {
  const { host, address: ownAddress } = splitHost(request.path);
  const exact = request.query === undefined ? undefined : rules.get(`${request.path}?${request.query}`);
  if (exact) return answerOf(exact, undefined);
  const byQuery = request.query === undefined ? undefined : rules.pattern(request, true);
  if (byQuery) return answerByPattern(byQuery, undefined);
  const file = host === undefined ? listCandidateFiles(request.path).find((path) => files.has(path)) : undefined;
  const rule = rules.get(request.path);
  if (file !== undefined && !(rule && isAnsweringElsewhere(rule, rules))) return { kind: 'file', file };
  if (rule?.status === 200) {
    const answering = listCandidateFiles(rule.to ?? '').find((path) => files.has(path));
    if (answering !== undefined) return { kind: 'file', file: answering };
  } else if (rule) return answerOf(rule, request.query);
  const loose = rule ? undefined : rules.loose(request.path);
  if (loose && loose.status !== 200) return answerOf(loose, request.query);
  if (
    host === undefined &&
    !request.path.endsWith('/') &&
    listCandidateFiles(`${request.path}/`).some((path) => files.has(path))
  ) {
    return { kind: 'redirect', status: 301, location: withQuery(`${request.path}/`, request.query), rule: undefined };
  }
  const byPattern = rules.pattern(request, false);
  if (byPattern) return answerByPattern(byPattern, request.query);
  return host === undefined
    ? { kind: 'missing' }
    : { kind: 'redirect', status: 301, location: withQuery(ownAddress, request.query), rule: undefined };
}

/** A file that is the answer of another address sends visitors there, so that the page has one address. */
function isAnsweringElsewhere(rule: Rule, rules: RuleIndex): boolean {
  const there = rule.to === undefined ? undefined : rules.get(rule.to);
  return there?.status === 200 && there.to === rule.from;
}

function answerOf(rule: Rule, query: string | undefined): Answer {
  if (rule.status === 410 || rule.status === 200 || rule.to === undefined) return { kind: 'gone', rule };
  return {
    kind: 'redirect',
    status: rule.status,
    location: withQuery(rule.to, rule.dropsQuery ? undefined : query),
    rule,
  };
}

/** What a pattern's query held is in the target where it is wanted, so the rest of it goes. */
function answerByPattern({ rule, to }: PatternAnswer, query: string | undefined): Answer {
  return answerOf(to === undefined ? rule : { ...rule, to }, query);
}

/** Adds a query to a target that may have one, or a fragment, already. */
export function withQuery(target: string, query: string | undefined): string {
  if (query === undefined) return target;
  const hash = target.indexOf('#');
  const [before, fragment] = hash < 0 ? [target, ''] : [target.slice(0, hash), target.slice(hash)];
  return `${before}${before.includes('?') ? '&' : '?'}${query}${fragment}`;
}
