/**
 * Rules in the order in which a web server has to try them to answer as `decide` does, whatever its syntax.
 */
import { splitAddress } from '../../address/index.ts';
import { readPattern, readTarget, type Pattern, type Target } from '../pattern/index.ts';
import { isRedirect, type RedirectStatus, type Rule } from '../rule.ts';

/** What becomes of a visitor's query: left out, or put behind the target with this sign. */
export type QueryJoin = '' | '?' | '&';

/** An answer taken apart, so that a server can put the visitor's query where it belongs. */
export interface PlannedAnswer {
  readonly status: RedirectStatus;
  readonly join: QueryJoin;
  /** Address or URL without fragment; empty for 410. */
  readonly to: string;
  /** With its sign; empty where there is none. */
  readonly fragment: string;
}

export interface PlannedPath extends PlannedAnswer {
  readonly from: string;
  readonly ignoresCase: boolean;
}

export interface PlannedPattern extends Omit<PlannedAnswer, 'to' | 'fragment'> {
  readonly text: string;
  /** Of the whole asked address, query and all where the pattern has one; without ^ and $. */
  readonly source: string;
  readonly ignoresCase: boolean;
  /** Text, and numbers of groups from 1. */
  readonly to: readonly (string | number)[];
  readonly fragment: readonly (string | number)[];
}

export interface ServerPlan {
  /** Asked for with exactly this query. */
  readonly queries: readonly PlannedPath[];
  readonly queryPatterns: readonly PlannedPattern[];
  /** Files that answer another address send visitors there. */
  readonly beforeFiles: readonly PlannedPath[];
  /** Answered by another file: address and the file's own. */
  readonly answers: readonly { readonly from: string; readonly file: string }[];
  readonly paths: readonly PlannedPath[];
  /** Further spellings that are overlooked: tried where no path is, and nothing of the two is in both. */
  readonly spellings: readonly PlannedPath[];
  readonly patterns: readonly PlannedPattern[];
}

export function planForServer(rules: readonly Rule[]): ServerPlan {
  const byFrom = new Map(rules.filter(({ isPattern }) => !isPattern).map((rule) => [rule.from, rule]));
  const redirects = [...byFrom.values()].filter(isRedirect);
  const isQuery = ({ from }: Rule) => from.includes('?');
  const isBefore = ({ from, to }: Rule) => {
    const there = byFrom.get(to ?? '');
    return there?.status === 200 && there.to === from;
  };
  const patterns = rules.filter((rule) => rule.isPattern).map(planPattern);
  return {
    queries: redirects.filter(isQuery).map((rule) => planPath(rule, true)),
    queryPatterns: patterns.filter(({ asksQuery }) => asksQuery).map(({ planned }) => planned),
    beforeFiles: redirects.filter((rule) => !isQuery(rule) && isBefore(rule)).map((rule) => planPath(rule, false)),
    answers: rules.flatMap(({ from, status, to }) => (status === 200 && to !== undefined ? [{ from, file: to }] : [])),
    paths: redirects.filter((rule) => !isQuery(rule) && !isBefore(rule)).map((rule) => planPath(rule, false)),
    spellings: planSpellings(
      redirects.filter((rule) => !isQuery(rule)),
      byFrom,
    ),
    patterns: patterns.filter(({ asksQuery }) => !asksQuery).map(({ planned }) => planned),
  };
}

type Redirecting = Rule & { readonly status: RedirectStatus };

function planPath(rule: Redirecting, isExactQuery: boolean): PlannedPath {
  return {
    from: rule.from,
    ignoresCase: false,
    ...answer(rule.status, rule.to ?? '', isExactQuery || rule.dropsQuery === true),
  };
}

function answer(status: RedirectStatus, target: string, dropsQuery: boolean): PlannedAnswer {
  if (status === 410) return { status, join: '', to: '', fragment: '' };
  const hash = target.indexOf('#');
  const [to, fragment] = hash < 0 ? [target, ''] : [target.slice(0, hash), target.slice(hash)];
  return { status, join: dropsQuery ? '' : to.includes('?') ? '&' : '?', to, fragment };
}

/** As RuleIndex has it: of rules that differ only in what is overlooked, the first counts. */
function planSpellings(redirects: readonly Redirecting[], byFrom: ReadonlyMap<string, Rule>): PlannedPath[] {
  const bare = (from: string) => from.replace(/(.)\/$/, '$1');
  const first = new Map<string, Redirecting>();
  for (const rule of redirects) {
    const key = bare(rule.from).toLowerCase();
    if ((rule.ignoreCase || rule.anySlash) && !first.has(key)) first.set(key, rule);
  }
  return [...first.values()].flatMap((rule) => {
    const all = rule.anySlash ? [bare(rule.from), ...(rule.from === '/' ? [] : [`${bare(rule.from)}/`])] : [rule.from];
    return all
      .filter((from) => rule.ignoreCase === true || !byFrom.has(from))
      .map((from) => ({ ...planPath(rule, false), from, ignoresCase: rule.ignoreCase === true }));
  });
}

function planPattern(rule: Rule): { asksQuery: boolean; planned: PlannedPattern } {
  const reading = readPattern(rule.from, { ignoreCase: rule.ignoreCase ?? false });
  const target = reading.ok && rule.to !== undefined ? readTarget(rule.to, reading.pattern) : undefined;
  if (!reading.ok || target?.ok === false || !isRedirect(rule)) throw new SyntaxError(`${rule.from} is no pattern`);
  const { pattern } = reading;
  const asksQuery = pattern.query !== undefined;
  const status = target ? rule.status : 410;
  const { to, fragment } = target ? planPieces(target.target, pattern) : { to: [], fragment: [] };
  const hasQuery = to.some((piece) => typeof piece === 'string' && piece.includes('?'));
  return {
    asksQuery,
    planned: {
      text: pattern.text,
      status,
      ignoresCase: rule.ignoreCase ?? false,
      source: pattern.query ? `${pattern.path.source}\\?${pattern.query.source}` : pattern.path.source,
      join: status === 410 || asksQuery || rule.dropsQuery ? '' : hasQuery ? '&' : '?',
      to,
      fragment,
    },
  };
}

function planPieces({ pieces: all }: Target, { names }: Pattern): Pick<PlannedPattern, 'to' | 'fragment'> {
  const [to, fragment]: [(string | number)[], (string | number)[]] = [[], []];
  for (const piece of all) {
    const into = fragment.length > 0 ? fragment : to;
    if (typeof piece !== 'string') {
      into.push(names.indexOf(piece.name) + 1);
      continue;
    }
    const hash = fragment.length > 0 ? -1 : piece.indexOf('#');
    if (hash < 0) into.push(piece);
    else {
      if (hash > 0) to.push(piece.slice(0, hash));
      fragment.push(piece.slice(hash));
    }
  }
  return { to, fragment };
}

/** The bytes of a normal path, as a server has them after decoding (RFC 3986, section 2.1). */
export function encodePathBytes(address: string): Uint8Array {
  const { path } = splitAddress(address);
  const out: number[] = [];
  for (let at = 0; at < path.length; at += 1) {
    if (path[at] === '%') {
      out.push(Number.parseInt(path.slice(at + 1, at + 3), 16));
      at += 2;
    } else out.push(path.charCodeAt(at));
  }
  return Uint8Array.from(out);
}
