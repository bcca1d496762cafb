/** The rules of an old domain, for a server that answers under it and sends its visitors here. */
import { splitHost } from '../oldHost.ts';
import type { Rule } from '../rule.ts';

/** Rules of the site itself; those of old domains are exported one by one. */
export function filterRulesOfSite(rules: readonly Rule[]): Rule[] {
  return rules.filter(({ from }) => splitHost(from).host === undefined);
}

/**
 * As if the old domain were a site of its own: its rules without their host, each leading to the new origin, and
 * whatever has no rule to the same address there.
 *
 * @param origin `https://www.new.example`
 */
export function filterRulesOfHost(rules: readonly Rule[], host: string, origin: string): Rule[] {
  const ownRules = rules.flatMap((rule): Rule[] => {
    const ruleHost = splitHost(rule.from);
    if (ruleHost.host !== host) return [];
    const { to, ...rest } = rule;
    return [
      { ...rest, from: ruleHost.address, ...(to === undefined ? {} : { to: to.startsWith('/') ? origin + to : to }) },
    ];
  });
  return [...ownRules, { from: '/*', status: 301, to: `${origin}/:0`, isPattern: true }];
}
