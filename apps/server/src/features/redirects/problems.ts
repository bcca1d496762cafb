/** What is wrong with a draft's rules, as people are told it. */
import type { RuleProblem } from '@fastigium/contracts/api/redirects';
import { splitAddress, type Address } from '@fastigium/core/address';
import { isOver, lintRules, describeRuleProblem, ruleFault, type FileSet, type Rule } from '@fastigium/core/redirects';
import type { Part } from '@fastigium/core/messages';
import type { Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';

export interface FoundProblem extends RuleProblem {
  readonly from: string;
  readonly isPattern: boolean;
}

export interface CompiledRules {
  readonly draft: Draft;
  readonly rules: { readonly rules: readonly Rule[]; readonly withoutTarget: readonly string[] };
}

/** @param day today, `2026-11-25` */
export async function findRuleProblems(
  queries: Queries,
  site: string,
  { draft, rules: { rules, withoutTarget } }: CompiledRules,
  files: FileSet,
  day: string,
): Promise<FoundProblem[]> {
  const known = rules.some(({ isPattern }) => isPattern) ? await readKnownAddresses(queries, site) : [];
  const found = lintRules(rules, files, known).map((problem): FoundProblem => ({
    from: problem.from,
    isPattern: problem.isPattern,
    kind: problem.kind,
    message: describeRuleProblem(problem),
    final: problem.kind === 'chain' ? (problem.final ?? null) : null,
  }));
  const plain = (
    from: string,
    isPattern: boolean,
    kind: RuleProblem['kind'],
    message: RuleProblem['message'],
  ): FoundProblem => ({
    from,
    isPattern,
    kind,
    message,
    final: null,
  });
  found.push(...withoutTarget.map((from) => plain(from, false, 'no-target', ruleFault('target-gone'))));
  for (const redirect of draft.redirects.values())
    if (redirect.until !== undefined && isOver(redirect, day))
      found.push(plain(redirect.from, false, 'over', ruleFault('over', { until: redirect.until })));
  for (const pattern of draft.patterns.values())
    if (pattern.until !== undefined && isOver(pattern, day))
      found.push(plain(pattern.text, true, 'over', ruleFault('over', { until: pattern.until })));
  found.push(...(await findDeadTargets(queries, site, rules)));
  return found;
}

async function readKnownAddresses(queries: Queries, site: string): Promise<Address[]> {
  const rows = await queries.many<{ address: string }>(
    `select address from old_address where site_id = $1 and kind <> 'noise'`,
    [site],
  );
  return rows.map(({ address }) => splitAddress(address));
}

/** Targets on other hosts that were asked, and did not answer. */
async function findDeadTargets(queries: Queries, site: string, rules: readonly Rule[]): Promise<FoundProblem[]> {
  const rows = await queries.many<{ url: string; problem: Part }>(
    'select url, problem from outside_target where site_id = $1 and problem is not null',
    [site],
  );
  const problems = new Map(rows.map(({ url, problem }) => [url, problem]));
  return rules.flatMap(({ from, to, isPattern }): FoundProblem[] => {
    const problem = to === undefined ? undefined : problems.get(to);
    return problem === undefined
      ? []
      : [
          {
            from,
            isPattern: isPattern ?? false,
            kind: 'outside',
            message: ruleFault('outside-away', { url: to ?? '', problem }),
            final: null,
          },
        ];
  });
}
