/** What was read from a list of rules in some form, line by line, and what could not be. */
import { formatAddress, parseAddress } from '../../../address/index.ts';
import { readPattern, readTarget } from '../../pattern/index.ts';
import { unread } from '../../messages.ts';
import type { NotRead } from '../../notRead.ts';
import { REDIRECT_STATUSES, type RedirectStatus } from '../../rule.ts';

export interface ReadRule {
  readonly line: number;
  /** Normal address, or the text of a pattern. */
  readonly from: string;
  readonly isPattern: boolean;
  readonly status: RedirectStatus;
  /** Normal address, perhaps with a fragment, a URL, or a pattern's target; undefined for 410. */
  readonly to: string | undefined;
  readonly ignoreCase: boolean;
  readonly dropsQuery: boolean;
}

export interface RulesReading {
  readonly rules: readonly ReadRule[];
  readonly notRead: readonly NotRead[];
}

export interface Written {
  readonly line: number;
  /** The line as it stands, for people. */
  readonly text: string;
  readonly from: string;
  readonly isPattern?: boolean;
  readonly status: number;
  readonly to?: string | undefined;
  readonly ignoreCase?: boolean;
  readonly dropsQuery?: boolean;
}

const MOST_LETTERS_SHOWN = 200;

/** Gathers what is read; what no rule can be made of is told with its line. */
export class RuleGatherer {
  readonly #rules = new Map<string, ReadRule>();
  readonly #notRead: NotRead[] = [];

  refuse(line: number, text: string, why: NotRead['why']): void {
    this.#notRead.push({ line, text: text.trim().slice(0, MOST_LETTERS_SHOWN), why });
  }

  take(written: Written): void {
    const rule = normaliseRule(written);
    if ('code' in rule) {
      this.refuse(written.line, written.text, rule);
      return;
    }
    const key = `${rule.isPattern ? '*' : ''}${rule.from}`;
    const before = this.#rules.get(key);
    // The first counts, as in both servers.
    if (before && (before.to !== rule.to || before.status !== rule.status))
      this.refuse(written.line, written.text, unread('first-counts', { line: before.line, from: rule.from }));
    else if (!before) this.#rules.set(key, rule);
  }

  get reading(): RulesReading {
    return { rules: [...this.#rules.values()], notRead: [...this.#notRead].sort((a, b) => a.line - b.line) };
  }
}

/** A message says what is wrong. */
function normaliseRule({
  line,
  from,
  isPattern = false,
  status,
  to,
  ignoreCase = false,
  dropsQuery = false,
}: Written): ReadRule | NotRead['why'] {
  const known = REDIRECT_STATUSES.find((each) => each === status);
  if (known === undefined) return unread('status-unknown', { status, known: REDIRECT_STATUSES.map(String) });
  const rest = { line, status: known, ignoreCase, dropsQuery };
  if (isPattern) {
    const reading = readPattern(from, { ignoreCase });
    if (!reading.ok) return reading.problem;
    if (known === 410) return { ...rest, from, isPattern, to: undefined };
    const target = readTarget(to ?? '', reading.pattern);
    return target.ok ? { ...rest, from, isPattern, to: target.target.text } : target.problem;
  }
  const source = parseAddress(from);
  if (!source.ok) return unread('no-address-of-site', { text: from });
  const address = formatAddress(source.address);
  if (known === 410) return { ...rest, from: address, isPattern, to: undefined };
  const target = normaliseTarget(to ?? '');
  return target === undefined
    ? unread('no-target', { text: to ?? '' })
    : { ...rest, from: address, isPattern, to: target };
}

export function normaliseTarget(text: string): string | undefined {
  if (/^https?:\/\//i.test(text))
    return URL.canParse(text) && new URL(text).username === '' ? new URL(text).href : undefined;
  if (!/^\/(?!\/)/.test(text)) return undefined;
  const hash = text.indexOf('#');
  const parsed = parseAddress(hash < 0 ? text : text.slice(0, hash));
  return parsed.ok && parsed.host === undefined
    ? formatAddress(parsed.address) + (hash < 0 ? '' : encodeURI(decodeSafely(text.slice(hash))))
    : undefined;
}

function decodeSafely(text: string): string {
  try {
    return decodeURI(text);
  } catch {
    return text;
  }
}
