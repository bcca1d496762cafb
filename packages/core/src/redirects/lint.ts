/**
 * What is wrong with rules before anybody meets them: circles, detours, dead ends, and rules that never answer.
 * Each problem is told at the rule that has to change.
 */
import { formatAddress, splitAddress, type Address } from '../address/index.ts';
import { decide, type Answer, type FileSet } from './decide.ts';
import { ruleFault, type RuleFaultMessage } from './messages.ts';
import { matchPattern, readPattern, type Pattern } from './pattern/index.ts';
import { prove, type Proof } from './prove.ts';
import { isRedirect, type Rule } from './rule.ts';
import { indexRules, type RuleIndex } from './ruleIndex.ts';

export type RuleProblem = { readonly from: string; readonly isPattern: boolean } & (
  | { readonly kind: 'loop'; readonly hops: readonly string[] }
  /** More than one step; `final` is where they end, undefined for what is gone. */
  | { readonly kind: 'chain'; readonly hops: readonly string[]; readonly final: string | undefined }
  /** Nothing is where it leads; `count` old addresses end there, of a pattern. */
  | { readonly kind: 'dead'; readonly at: string; readonly count: number }
  /** Something else answers first, always. */
  | { readonly kind: 'idle'; readonly before: { readonly kind: 'page' | 'rule'; readonly address: string } }
  /** Another rule is for the same old address in another spelling, and leads elsewhere. */
  | { readonly kind: 'twice'; readonly other: string }
);

/** @param known old addresses, which are what patterns are tried with */
export function lintRules(rules: readonly Rule[], files: FileSet, known: readonly Address[]): RuleProblem[] {
  const index = indexRules(rules);
  const out: RuleProblem[] = [];
  for (const rule of rules) {
    if (!isRedirect(rule) || rule.isPattern) continue;
    const problem = findExactProblem(rule, files, index);
    if (problem) out.push(problem);
  }
  out.push(...findRepeated(rules));
  const patterns = rules.filter((rule) => rule.isPattern);
  if (patterns.length > 0) out.push(...findPatternProblems(patterns, files, known, index));
  return out;
}

function findExactProblem(rule: Rule, files: FileSet, index: RuleIndex): RuleProblem | undefined {
  const about = { from: rule.from, isPattern: false };
  const address = splitAddress(rule.from);
  const answer = decide(address, files, index);
  if (answer.kind === 'file') return { ...about, kind: 'idle', before: { kind: 'page', address: address.path } };
  const first = findRule(answer);
  if (first && first !== rule) return { ...about, kind: 'idle', before: { kind: 'rule', address: first.from } };
  const detour = judgeDetour(prove(address, files, index));
  return detour && { ...about, ...detour };
}

type Detour =
  | Pick<Extract<RuleProblem, { kind: 'loop' }>, 'kind' | 'hops'>
  | Pick<Extract<RuleProblem, { kind: 'chain' }>, 'kind' | 'hops' | 'final'>
  | Pick<Extract<RuleProblem, { kind: 'dead' }>, 'kind' | 'at' | 'count'>;

/** What is wrong with the way a visitor takes; undefined where it is one step to something. */
export function judgeDetour({ hops, end }: Proof): Detour | undefined {
  const steps = hops.filter(({ location }) => location !== undefined).length;
  const addresses = [...hops.map(({ address }) => address), ...(end.kind === 'outside' ? [end.url] : [])];
  if (end.kind === 'loop') return { kind: 'loop', hops: addresses };
  if (end.kind === 'missing') return { kind: 'dead', at: end.address, count: 1 };
  if (steps + (end.kind === 'gone' ? 1 : 0) < 2) return undefined;
  return {
    kind: 'chain',
    hops: addresses,
    final: end.kind === 'page' ? end.address : end.kind === 'outside' ? end.url : undefined,
  };
}

/** As RuleIndex has it, of rules that differ in what they overlook only one is asked. */
function findRepeated(rules: readonly Rule[]): RuleProblem[] {
  const loose = new Map<string, Rule>();
  const key = ({ from }: Rule) => from.toLowerCase().replace(/(.)\/$/, '$1');
  for (const rule of rules)
    if (!rule.isPattern && (rule.ignoreCase || rule.anySlash) && !loose.has(key(rule))) loose.set(key(rule), rule);
  return rules.flatMap((rule): RuleProblem[] => {
    const other = rule.isPattern || !isRedirect(rule) ? undefined : loose.get(key(rule));
    return other === undefined || other === rule || (other.to === rule.to && other.status === rule.status)
      ? []
      : [{ from: rule.from, isPattern: false, kind: 'twice', other: other.from }];
  });
}

interface Caught {
  readonly address: Address;
  readonly answer: Answer;
}

function findPatternProblems(
  patterns: readonly Rule[],
  files: FileSet,
  known: readonly Address[],
  index: RuleIndex,
): RuleProblem[] {
  const read = new Map(
    patterns.flatMap((rule) => {
      const reading = readPattern(rule.from, { ignoreCase: rule.ignoreCase ?? false });
      return reading.ok ? [[rule, reading.pattern] as const] : [];
    }),
  );
  const answers = known.map((address): Caught => ({ address, answer: decide(address, files, index) }));
  return [...read].flatMap(([rule, pattern]): RuleProblem[] => {
    const about = { from: rule.from, isPattern: true };
    const matching = answers.filter(({ address }) => matchPattern(pattern, address));
    const caught = matching.filter(({ answer }) => isOf(answer, rule));
    if (caught.length === 0) {
      const before = findBefore(
        matching.length > 0
          ? matching
          : drawSamples(pattern).map((address) => ({ address, answer: decide(address, files, index) })),
        rule,
      );
      return before ? [{ ...about, kind: 'idle', before }] : [];
    }
    const proofs = caught
      .map(({ address }) => judgeDetour(prove(address, files, index)))
      .filter((problem) => problem !== undefined);
    const dead = proofs.filter((problem) => problem.kind === 'dead');
    const [first] = dead;
    if (first) return [{ ...about, ...first, count: dead.length }];
    const worst = proofs.find(({ kind }) => kind === 'loop') ?? proofs[0];
    return worst ? [{ ...about, ...worst }] : [];
  });
}

/** The rule or page that answers most of what the pattern would; undefined where anything is left to it. */
function findBefore(
  asked: readonly Caught[],
  rule: Rule,
): { readonly kind: 'page' | 'rule'; readonly address: string } | undefined {
  if (asked.length === 0 || asked.some(({ answer }) => isOf(answer, rule))) return undefined;
  const counts = new Map<string, number>();
  for (const { answer } of asked) {
    const from = findRule(answer)?.from;
    if (from !== undefined) counts.set(from, (counts.get(from) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  const [page] = asked;
  return most
    ? { kind: 'rule', address: most[0] }
    : page && page.answer.kind === 'file'
      ? { kind: 'page', address: formatAddress(page.address) }
      : undefined;
}

/** An address or two that a pattern of names and text matches, for patterns that no known address shows at work. */
function drawSamples(pattern: Pattern): Address[] {
  const plain = pattern.text
    .replace(/\\(.)/g, '$1')
    .replace(/:[\p{ID_Start}$_][\p{ID_Continue}$]*/gu, 'zq7-sample')
    .replace(/\*/g, 'zq7-sample/zq7-sample');
  const address = splitAddress(plain);
  return matchPattern(pattern, address) ? [address] : [];
}

function isOf(answer: Answer, rule: Rule): boolean {
  const answering = findRule(answer);
  return (
    answering?.isPattern === true &&
    answering.from === rule.from &&
    (answering.ignoreCase ?? false) === (rule.ignoreCase ?? false)
  );
}

function findRule(answer: Answer): Rule | undefined {
  return answer.kind === 'redirect' || answer.kind === 'gone' ? answer.rule : undefined;
}

/** As it is told beside the rule, which is not named again. */
export function describeRuleProblem(problem: RuleProblem): RuleFaultMessage {
  switch (problem.kind) {
    case 'loop':
      return ruleFault('circle', { way: wayOf(problem.hops) });
    case 'chain': {
      const way = { steps: problem.hops.length - 1, way: wayOf(problem.hops) };
      return problem.final === undefined
        ? ruleFault('detour-to-gone', way)
        : ruleFault('detour', { ...way, end: problem.final });
    }
    case 'dead':
      return problem.isPattern && problem.count > 1
        ? ruleFault('leads-many-nowhere', { count: problem.count, at: problem.at })
        : ruleFault('leads-nowhere', { at: problem.at });
    case 'idle':
      return ruleFault(problem.before.kind === 'page' ? 'page-first' : 'rule-first', {
        address: problem.before.address,
      });
    case 'twice':
      return ruleFault('twice', { other: problem.other });
  }
}

const wayOf = (hops: readonly string[]): string => hops.join(' → ');
