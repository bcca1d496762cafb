/** Redirects as people decide them, and rules as a host applies them. */

/** RFC 9110: 301 (15.4.2), 302 (15.4.3), 307 (15.4.8), 308 (15.4.9), 410 (15.5.11). */
export const REDIRECT_STATUSES = [301, 302, 307, 308, 410] as const;
export type RedirectStatus = (typeof REDIRECT_STATUSES)[number];

/** Where a redirect lands. A page is meant by its identity, so that a later move keeps it right. */
export type RedirectTarget =
  | { readonly kind: 'page'; readonly page: string }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string };

export type Redirect =
  | { readonly from: string; readonly status: 301 | 302 | 307 | 308; readonly target: RedirectTarget }
  | { readonly from: string; readonly status: 410 };

/** A rule in a release: nothing left to look up. */
export interface Rule {
  /** Normal address; with a query it stands for exactly that query, without one for any. */
  readonly from: string;
  /** 200: the address answers with the file that stands at another one, without sending anybody there. */
  readonly status: RedirectStatus | 200;
  /** Normal address on this site, perhaps with a fragment, or an absolute URL. Absent for 410. */
  readonly to?: string;
}

/** A rule that sends visitors elsewhere or tells them that there is nothing any more. */
export function isRedirect(rule: Rule): rule is Rule & { readonly status: RedirectStatus } {
  return rule.status !== 200;
}

export type RuleIndex = ReadonlyMap<string, Rule>;

export function indexRules(rules: readonly Rule[]): RuleIndex {
  return new Map(rules.map((rule) => [rule.from, rule]));
}

/** One line a rule, sorted, so that equal rules have equal bytes and a small change a small difference. */
export function serialiseRules(rules: readonly Rule[]): string {
  const sorted = [...rules].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  return sorted.map(({ from, status, to }) => `${JSON.stringify([from, status, to ?? null])}\n`).join('');
}

/** The inverse of `serialiseRules`. Throws a SyntaxError on anything else. */
export function parseRules(text: string): Rule[] {
  return text.split('\n').filter((line) => line !== '').map((line) => {
    const row: unknown = JSON.parse(line);
    if (!Array.isArray(row) || row.length !== 3) throw new SyntaxError('a rule is [from, status, to]');
    const [from, status, to] = row as unknown[];
    if (typeof from !== 'string' || !isStatus(status) || !(to === null || typeof to === 'string')) {
      throw new SyntaxError('a rule is [from, status, to]');
    }
    return to === null ? { from, status } : { from, status, to };
  });
}

function isStatus(value: unknown): value is Rule['status'] {
  return value === 200 || REDIRECT_STATUSES.some((status) => status === value);
}
