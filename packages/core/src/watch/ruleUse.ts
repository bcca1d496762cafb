/** Which redirects visitors use, told from the addresses they asked for. */
import { splitAddress } from '../address/index.ts';
import { decide, isRedirect, type FileSet, type Rule, type RuleIndex } from '../redirects/index.ts';

export interface AskedAddress {
  readonly address: string;
  readonly visits: number;
  readonly lastMs: number;
}

export interface RuleUse {
  /** An address, or a pattern. */
  readonly from: string;
  readonly isPattern: boolean;
  readonly status: number;
  readonly to: string | undefined;
  readonly visits: number;
  /** Undefined for one nobody used. */
  readonly lastMs: number | undefined;
  /** Different addresses it answered. */
  readonly addresses: number;
}

/**
 * @param rules those of the live release, which answered
 * @param asked addresses that were sent on or said to be gone
 * @returns a row for each rule, those used most first
 */
export function countRuleUse(
  rules: readonly Rule[],
  index: RuleIndex,
  files: FileSet,
  asked: Iterable<AskedAddress>,
): RuleUse[] {
  const uses = new Map<string, { visits: number; lastMs: number; addresses: number }>();
  for (const { address, visits, lastMs } of asked) {
    const answer = decide(splitAddress(address), files, index);
    const rule = answer.kind === 'redirect' || answer.kind === 'gone' ? answer.rule : undefined;
    if (!rule) continue;
    const sum = uses.get(rule.from) ?? { visits: 0, lastMs: 0, addresses: 0 };
    uses.set(rule.from, {
      visits: sum.visits + visits,
      lastMs: Math.max(sum.lastMs, lastMs),
      addresses: sum.addresses + 1,
    });
  }
  return rules
    .filter(isRedirect)
    .map((rule): RuleUse => {
      const use = uses.get(rule.from);
      return {
        from: rule.from,
        isPattern: rule.isPattern ?? false,
        status: rule.status,
        to: rule.to,
        visits: use?.visits ?? 0,
        lastMs: use?.lastMs,
        addresses: use?.addresses ?? 0,
      };
    })
    .sort((a, b) => b.visits - a.visits || (a.from < b.from ? -1 : 1));
}
