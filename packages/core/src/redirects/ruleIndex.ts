/**
 * Rules arranged for finding the one that answers: exact ones by their address, those that overlook letter case
 * or a last slash by a folded one, patterns by the first segment of what they match, in their order.
 */
import type { Address } from '../address/index.ts';
import { fillTarget, matchPattern, readPattern, readTarget, type Pattern, type Target } from './pattern/index.ts';
import type { Rule } from './rule.ts';

interface CompiledPattern {
  readonly at: number;
  readonly rule: Rule;
  readonly pattern: Pattern;
  /** Undefined where nothing takes its place. */
  readonly target: Target | undefined;
}

export interface PatternAnswer {
  readonly rule: Rule;
  /** Filled in; undefined for what is gone. */
  readonly to: string | undefined;
}

export class RuleIndex {
  readonly #exact = new Map<string, Rule>();
  readonly #loose = new Map<string, Rule>();
  /** By first segment in small letters; those that may begin with any under the empty one. */
  readonly #patterns = new Map<string, CompiledPattern[]>();
  readonly #queryPatterns: CompiledPattern[] = [];

  /** Throws a SyntaxError for a pattern that cannot be read; what is compiled was read before. */
  constructor(rules: readonly Rule[]) {
    rules.forEach((rule, at) => {
      if (rule.isPattern) this.#addPattern(rule, at);
      else {
        this.#exact.set(rule.from, rule);
        if ((rule.ignoreCase || rule.anySlash) && !this.#loose.has(keyLoosely(rule.from)))
          this.#loose.set(keyLoosely(rule.from), rule);
      }
    });
  }

  get(from: string): Rule | undefined {
    return this.#exact.get(from);
  }

  has(from: string): boolean {
    return this.#exact.has(from);
  }

  /** A rule that overlooks letter case, a last slash, or both, and whose address is otherwise this one. */
  loose(path: string): Rule | undefined {
    if (this.#loose.size === 0) return undefined;
    const rule = this.#loose.get(keyLoosely(path));
    if (!rule) return undefined;
    const bare = (text: string) => (rule.anySlash ? text.replace(/(.)\/$/, '$1') : text);
    const cased = (text: string) => (rule.ignoreCase ? text.toLowerCase() : text);
    return cased(bare(rule.from)) === cased(bare(path)) ? rule : undefined;
  }

  /** The first pattern that matches. @param withQuery only those that ask for a query, or only those that do not */
  pattern(address: Address, withQuery: boolean): PatternAnswer | undefined {
    if (withQuery) return findFirst(this.#queryPatterns, address, Infinity)?.answer;
    const found = findFirst(this.#patterns.get(readFirstSegment(address.path)), address, Infinity);
    // Those for any first segment count only as far as they come before it.
    const any = findFirst(this.#patterns.get(''), address, found?.at ?? Infinity);
    return (any ?? found)?.answer;
  }

  #addPattern(rule: Rule, at: number): void {
    const reading = readPattern(rule.from, { ignoreCase: rule.ignoreCase ?? false });
    const target = reading.ok && rule.to !== undefined ? readTarget(rule.to, reading.pattern) : undefined;
    if (!reading.ok || target?.ok === false) throw new SyntaxError(`${rule.from} is no pattern`);
    const compiled: CompiledPattern = { at, rule, pattern: reading.pattern, target: target?.target };
    const key =
      reading.pattern.host === undefined
        ? (/^\/([^/]+)\//.exec(reading.pattern.beginning)?.[1]?.toLowerCase() ?? '')
        : '';
    if (reading.pattern.query) {
      this.#queryPatterns.push(compiled);
      return;
    }
    const list = this.#patterns.get(key);
    if (list) list.push(compiled);
    else this.#patterns.set(key, [compiled]);
  }
}

export function indexRules(rules: readonly Rule[]): RuleIndex {
  return new RuleIndex(rules);
}

/** The first that matches, of those that come before a place in the order. */
function findFirst(
  patterns: readonly CompiledPattern[] | undefined,
  address: Address,
  before: number,
): { readonly at: number; readonly answer: PatternAnswer } | undefined {
  if (patterns === undefined) return undefined;
  for (const each of patterns) {
    if (each.at >= before) return undefined;
    const answer = answerOf(each, address);
    if (answer) return { at: each.at, answer };
  }
  return undefined;
}

function answerOf({ rule, pattern, target }: CompiledPattern, address: Address): PatternAnswer | undefined {
  const groups = matchPattern(pattern, address);
  return groups && { rule, to: target && fillTarget(target, groups) };
}

function readFirstSegment(path: string): string {
  const end = path.indexOf('/', 1);
  return end < 0 ? '' : path.slice(1, end).toLowerCase();
}

function keyLoosely(address: string): string {
  return address.toLowerCase().replace(/(.)\/$/, '$1');
}
