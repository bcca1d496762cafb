/** Rules as a table and as data, for other programs and for people. */
import type { Rule } from '../rule.ts';

export const TABLE_COLUMNS = ['From', 'Status', 'To', 'Pattern', 'Query', 'Letter case', 'Last slash'] as const;

/** One row a rule, names first; RFC 4180 is whoever's writes it. Answers by files of another name are none of a table's. */
export function writeRuleTable(rules: readonly Rule[]): string[][] {
  return [
    [...TABLE_COLUMNS],
    ...filterRedirects(rules).map(({ from, status, to, ...options }) => [
      from,
      String(status),
      to ?? '',
      options.isPattern ? 'yes' : '',
      options.dropsQuery ? 'dropped' : '',
      options.ignoreCase ? 'any' : '',
      options.anySlash ? 'any' : '',
    ]),
  ];
}

export function writeRuleData(rules: readonly Rule[]): object[] {
  return filterRedirects(rules).map(({ from, status, to, isPattern, dropsQuery, ignoreCase, anySlash }) => ({
    ...(isPattern ? { pattern: from } : { from }),
    status,
    ...(to === undefined ? {} : { to }),
    query: dropsQuery ? 'dropped' : 'kept',
    letterCase: ignoreCase ? 'any' : 'exact',
    lastSlash: anySlash ? 'any' : 'exact',
  }));
}

function filterRedirects(rules: readonly Rule[]): Rule[] {
  return rules.filter(({ status }) => status !== 200);
}
