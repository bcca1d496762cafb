/** Redirects as people decide them, and rules as a host applies them. */

/** RFC 9110: 301 (15.4.2), 302 (15.4.3), 307 (15.4.8), 308 (15.4.9), 410 (15.5.11). */
export const REDIRECT_STATUSES = [301, 302, 307, 308, 410] as const;
export type RedirectStatus = (typeof REDIRECT_STATUSES)[number];

/** Where a redirect lands. A page is meant by its identity, so that a later move keeps it right. */
export type RedirectTarget =
  /** Whichever page is home. */
  | { readonly kind: 'home' }
  | {
      readonly kind: 'page';
      readonly page: string;
      /** Element in it. */ readonly fragment?: string | undefined;
      /** Not the page, which is a list, but the newest entry in it. */ readonly newest?: true | undefined;
    }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string };

export type Redirect =
  | ({ readonly from: string; readonly status: 301 | 302 | 307 | 308; readonly target: RedirectTarget } & RuleOptions &
      RuleTerm)
  | ({ readonly from: string; readonly status: 410 } & RuleOptions & RuleTerm);

/** What only people need to know of a rule. */
export interface RuleTerm {
  /** Why it is there. */
  readonly note?: string;
  /** The last day it holds, `2027-03-31` (ISO 8601); releases made later are without it. */
  readonly until?: string;
}

/** Whether a rule has run out. @param today `2026-11-25` */
export function isOver({ until }: RuleTerm, today: string): boolean {
  return until !== undefined && until < today;
}

/** How strictly an address is taken, and what becomes of the visitor's query; absent: letter by letter, and it is kept. */
export interface RuleOptions {
  readonly dropsQuery?: true;
  readonly ignoreCase?: true;
  /** With a last slash or without. */
  readonly anySlash?: true;
}

/** Many old addresses with one rule; its target is an address with parts of the pattern in it, see pattern/target.ts. */
export interface PatternRedirect extends Omit<RuleOptions, 'anySlash'>, RuleTerm {
  readonly text: string;
  readonly status: RedirectStatus;
  /** Undefined for 410. */
  readonly target: string | undefined;
}

/** A rule in a release: nothing left to look up. */
export interface Rule extends RuleOptions {
  /** `from` is a pattern, and `to` its target; patterns come after all others, in their order. */
  readonly isPattern?: true;
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

/** One line a rule, sorted, so that equal rules have equal bytes and a small change a small difference; patterns keep their order, at the end. */
export function serialiseRules(rules: readonly Rule[]): string {
  const sorted = rules
    .filter(({ isPattern }) => !isPattern)
    .sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  return [...sorted, ...rules.filter(({ isPattern }) => isPattern)]
    .map(({ from, status, to, ...options }) => {
      const flags = FLAGS.filter((flag) => options[flag]);
      return `${JSON.stringify([from, status, to ?? null, ...(flags.length > 0 ? [flags] : [])])}\n`;
    })
    .join('');
}

const FLAGS = ['isPattern', 'dropsQuery', 'ignoreCase', 'anySlash'] as const;

/** The inverse of `serialiseRules`. Throws a SyntaxError on anything else. */
export function parseRules(text: string): Rule[] {
  return text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => {
      const row: unknown = JSON.parse(line);
      if (!Array.isArray(row) || row.length < 3 || row.length > 4)
        throw new SyntaxError('a rule is [from, status, to], and flags where it has any');
      const [from, status, to, flags = []] = row as unknown[];
      if (
        typeof from !== 'string' ||
        !isStatus(status) ||
        !(to === null || typeof to === 'string') ||
        !Array.isArray(flags) ||
        !flags.every(isFlag)
      ) {
        throw new SyntaxError('a rule is [from, status, to], and flags where it has any');
      }
      const options = Object.fromEntries(flags.map((flag) => [flag, true as const]));
      return to === null ? { from, status, ...options } : { from, status, to, ...options };
    });
}

function isFlag(value: unknown): value is (typeof FLAGS)[number] {
  return FLAGS.some((flag) => flag === value);
}

function isStatus(value: unknown): value is Rule['status'] {
  return value === 200 || REDIRECT_STATUSES.some((status) => status === value);
}
