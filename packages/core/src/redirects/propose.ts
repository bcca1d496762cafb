/**
 * Patterns that say what many single redirects say: proposed only where every known old address is answered as
 * before, and with what becomes of addresses nobody has seen.
 */
import { formatAddress, splitAddress, type Address } from '../address/index.ts';
import { decide, type Answer, type FileSet } from './decide.ts';
import { splitHost } from './oldHost.ts';
import { matchPattern, readPattern } from './pattern/index.ts';
import { escapePattern } from './pattern/source.ts';
import { prove } from './prove.ts';
import { isRedirect, type RedirectStatus, type Rule } from './rule.ts';
import { indexRules, type RuleIndex } from './ruleIndex.ts';

export interface PatternProposal {
  readonly text: string;
  readonly status: RedirectStatus;
  /** Undefined for what is gone. */
  readonly target: string | undefined;
  /** Old addresses whose own rules would go. */
  readonly replaces: readonly string[];
  /** An address nobody has seen, where it would lead, and whether anything is there. */
  readonly unknown: { readonly address: string; readonly to: string | undefined; readonly isThere: boolean };
}

/** Fewer rules are read more easily one by one. */
const LEAST = 4;
/** Stands for what nobody has seen; letters and digits, for parts that take only one of them. */
const UNSEEN = 'zq7';

type Single = Rule & { readonly status: RedirectStatus };

/**
 * @param decided the single redirects a person decided; those made by themselves follow their pages and stay
 * @param known old addresses; the addresses of the rules themselves need not be among them
 */
export function proposePatterns(
  rules: readonly Rule[],
  decided: ReadonlySet<string>,
  files: FileSet,
  known: readonly Address[],
): PatternProposal[] {
  const singles = rules.filter(
    (rule): rule is Single =>
      isRedirect(rule) &&
      !rule.isPattern &&
      decided.has(rule.from) &&
      !rule.from.includes('?') &&
      splitHost(rule.from).host === undefined &&
      !rule.dropsQuery &&
      !rule.ignoreCase &&
      !rule.anySlash,
  );
  const index = indexRules(rules);
  const asked = [
    ...new Map(
      [...known, ...singles.map(({ from }) => splitAddress(from))].map((address) => [formatAddress(address), address]),
    ).values(),
  ];
  const before = new Map(asked.map((address) => [address, writeAnswer(decide(address, files, index))]));
  const taken = new Set<string>();
  // Of two that say the same, the narrower one.
  return [...proposeByShape(singles), ...proposeByBranch(singles)]
    .sort((a, b) => b.of.length - a.of.length || b.text.length - a.text.length || (a.text < b.text ? -1 : 1))
    .flatMap((draft): PatternProposal[] => {
      const redirects = draft.of.filter(({ from }) => !taken.has(from));
      const proposal =
        redirects.length < LEAST ? undefined : proveProposal({ ...draft, of: redirects }, rules, files, asked, before);
      for (const from of proposal?.replaces ?? []) taken.add(from);
      return proposal ? [proposal] : [];
    });
}

interface Draft {
  readonly text: string;
  readonly status: RedirectStatus;
  readonly target: string | undefined;
  readonly of: readonly Single[];
}

interface Shape {
  readonly segments: readonly string[];
  /** `.html` of the last segment, or a slash at the end. */
  readonly ending: string;
  /** Segments of the target, a number for one that is a segment of the address. */
  readonly target: readonly (string | number)[];
  readonly targetEnding: string;
}

/** Rules whose target repeats the same parts of the address in the same places. */
function proposeByShape(singles: readonly Single[]): Draft[] {
  const groups = new Map<string, { shape: Shape; rule: Single }[]>();
  for (const rule of singles) {
    const shape = describeShape(rule);
    if (!shape) continue;
    const key = JSON.stringify([
      shape.segments[0],
      shape.segments.length,
      shape.ending,
      shape.target,
      shape.targetEnding,
      rule.status,
    ]);
    groups.set(key, [...(groups.get(key) ?? []), { shape, rule }]);
  }
  return [...groups.values()].filter((group) => group.length >= LEAST).flatMap((group) => proposeDraft(group) ?? []);
}

function describeShape({ from, to, status }: Single): Shape | undefined {
  if (status === 410 || to === undefined || !to.startsWith('/') || /[?#]/.test(to)) return undefined;
  const [address, target] = [splitSegments(from), splitSegments(to)];
  if (address.segments.length < 2) return undefined;
  const used = target.segments.map((segment): string | number => {
    const at = address.segments.lastIndexOf(segment);
    return at > 0 ? at : segment;
  });
  return used.some((each) => typeof each === 'number')
    ? { segments: address.segments, ending: address.ending, target: used, targetEnding: target.ending }
    : undefined;
}

function splitSegments(address: string): { segments: string[]; ending: string } {
  const ending = /(?:\/|\.[A-Za-z0-9]{1,5})$/.exec(address)?.[0] ?? '';
  return { segments: address.slice(1, address.length - ending.length).split('/'), ending };
}

function proposeDraft(group: readonly { shape: Shape; rule: Single }[]): Draft | undefined {
  const [
    {
      shape: { segments, ending, target, targetEnding },
      rule: { status },
    },
  ] = group as [(typeof group)[number]];
  const names = new Map<number, string>();
  const text = segments
    .map((_, at): string => {
      const values = [...new Set(group.map(({ shape }) => shape.segments[at] ?? ''))];
      const isUsed = target.includes(at);
      if (values.length === 1 && !isUsed) return escapePattern(values[0] ?? '');
      const { name, expression } = proposePart(values, at === segments.length - 1);
      const unique = [...names.values()].includes(name) ? `${name}${at}` : name;
      names.set(at, unique);
      return `:${unique}${expression}`;
    })
    .join('/');
  // A pattern for any first segment would catch what belongs to others.
  if (text.startsWith(':')) return undefined;
  const filled = target
    .map((each) => (typeof each === 'number' ? `:${names.get(each) ?? ''}` : each.replace(/:/g, '\\:')))
    .join('/');
  return {
    text: `/${text}${escapePattern(ending)}`,
    status,
    target: `/${filled}${targetEnding}`,
    of: group.map(({ rule }) => rule),
  };
}

/** As narrow as all values allow: a year takes no name. */
function proposePart(values: readonly string[], isLast: boolean): { name: string; expression: string } {
  if (values.every((value) => /^(?:19|20)\d\d$/.test(value))) return { name: 'year', expression: '(\\d{4})' };
  if (values.every((value) => /^\d\d$/.test(value))) return { name: 'month', expression: '(\\d{2})' };
  if (values.every((value) => /^\d+$/.test(value))) return { name: 'id', expression: '(\\d+)' };
  return { name: isLast ? 'slug' : 'part', expression: '' };
}

/** Whole branches that lead to one place, or are gone. */
function proposeByBranch(singles: readonly Single[]): Draft[] {
  const groups = new Map<string, Single[]>();
  for (const rule of singles) {
    const folders = rule.from.split('/').slice(1, -1);
    for (let depth = 1; depth <= folders.length; depth += 1) {
      const key = JSON.stringify([`/${folders.slice(0, depth).join('/')}/`, rule.status, rule.to ?? null]);
      groups.set(key, [...(groups.get(key) ?? []), rule]);
    }
  }
  const drafts = [...groups]
    .filter(([, redirects]) => redirects.length >= LEAST)
    .map(([key, redirects]): Draft => {
      const [branch, status, to] = JSON.parse(key) as [string, RedirectStatus, string | null];
      return {
        text: `${escapePattern(branch)}*`,
        status,
        target: to === null ? undefined : to.replace(/:(?=[\p{ID_Start}$_\d])(?!\/\/)/gu, '\\:'),
        of: redirects,
      };
    });
  // The narrowest branch that holds the same rules.
  return drafts.filter(
    ({ text, of: redirects }) =>
      !drafts.some(
        (other) =>
          other.of.length === redirects.length &&
          other.text.length > text.length &&
          other.of[0]?.from === redirects[0]?.from &&
          other.of.every((rule) => redirects.includes(rule)),
      ),
  );
}

function proveProposal(
  { text, status, target, of: redirects }: Draft,
  rules: readonly Rule[],
  files: FileSet,
  asked: readonly Address[],
  before: ReadonlyMap<Address, string>,
): PatternProposal | undefined {
  const reading = readPattern(text);
  if (!reading.ok) return undefined;
  const gone = new Set(redirects.map(({ from }) => from));
  const patternRule: Rule = { from: text, status, isPattern: true, ...(target === undefined ? {} : { to: target }) };
  let after: RuleIndex;
  try {
    after = indexRules([...rules.filter(({ from, isPattern }) => isPattern || !gone.has(from)), patternRule]);
  } catch (error) {
    if (error instanceof SyntaxError) return undefined;
    throw error;
  }
  for (const address of asked) {
    if (!gone.has(formatAddress(address)) && !matchPattern(reading.pattern, address)) continue;
    if (writeAnswer(decide(address, files, after)) !== before.get(address)) return undefined;
  }
  const address = inventUnseen(text);
  const answer = decide(splitAddress(address), files, after);
  return {
    text,
    status,
    target,
    replaces: [...gone],
    unknown: {
      address,
      to: answer.kind === 'redirect' ? answer.location : undefined,
      isThere: prove(splitAddress(address), files, after).end.kind !== 'missing',
    },
  };
}

function inventUnseen(text: string): string {
  return text
    .replace(/:year\d*\(\\d\{4\}\)/g, '1907')
    .replace(/:month\d*\(\\d\{2\}\)/g, '07')
    .replace(/:id\d*\(\\d\+\)/g, '90713')
    .replace(/:[a-z]+\d*/g, UNSEEN)
    .replace(/\*$/, UNSEEN)
    .replace(/\\(.)/g, '$1');
}

function writeAnswer(answer: Answer): string {
  return answer.kind === 'redirect'
    ? `${answer.status} ${answer.location}`
    : answer.kind === 'file'
      ? answer.file
      : answer.kind;
}
