/**
 * Who may visit a site or a branch of it. A host enforces it on each request, before it sends a file; nothing of it
 * is left to scripts in a page.
 */
import { findAddressOfFile, stripAddressEnding, isUnder } from '../address/index.ts';
import { formatIsoDay } from '../reach/index.ts';

/** Who may come in; a password is kept as its bcrypt hash (Provos and Mazières, USENIX 1999), as web servers read it. */
export type Entry =
  | { readonly kind: 'everyone' }
  | { readonly kind: 'password'; readonly user: string; readonly hash: string }
  | { readonly kind: 'nobody' };

export interface AccessRule {
  /** Address of the page the branch begins at; `/` for the whole site. */
  readonly branch: string;
  readonly entry: Entry;
}

/** A page that is shown in place of the site, with what it loads: these files alone are open to everyone. */
export interface ShownInstead {
  /** Path of its file. */
  readonly page: string;
  readonly files: readonly string[];
}

export interface SiteAccess {
  /** In the order of their branches; of several that hold for an address the nearest counts. */
  readonly rules: readonly AccessRule[];
  readonly instead?: ShownInstead;
  /** The last day the site can be visited, `2027-03-31`, in UTC. */
  readonly lastDay?: string;
}

/** Nothing is said, so everyone may visit everything. */
export const OPEN_TO_ALL: SiteAccess = { rules: [] };

export type Admission = Entry | { readonly kind: 'over' };

/** Whether two let the same people in by the same password. */
export function isSameEntry(one: Entry, other: Entry): boolean {
  return (
    one.kind === other.kind &&
    (one.kind !== 'password' || (other.kind === 'password' && one.user === other.user && one.hash === other.hash))
  );
}

const EVERYONE: Entry = { kind: 'everyone' };

/** What holds at an address, whatever the day. */
export function findEntry({ rules }: SiteAccess, address: string): Entry {
  return findRuleAt(rules, address)?.entry ?? EVERYONE;
}

/** The rule of the nearest branch. */
export function findRuleAt(rules: readonly AccessRule[], address: string): AccessRule | undefined {
  let nearest: AccessRule | undefined;
  for (const rule of rules)
    if (
      isUnder(address, rule.branch) &&
      (!nearest || stripAddressEnding(rule.branch).length > stripAddressEnding(nearest.branch).length)
    )
      nearest = rule;
  return nearest;
}

/**
 * What a visitor meets at an address, before anything else is decided about it. Where the address and the file that
 * answers it lie in different branches, the stricter of the two holds.
 *
 * @param path normal path that is asked for
 * @param file path of the file that answers, where one does
 */
export function judgeAdmission(
  access: SiteAccess,
  { path, file }: { readonly path: string; readonly file: string | undefined },
  nowMs: number,
): Admission {
  if (access.rules.length === 0 && access.lastDay === undefined) return EVERYONE;
  if (file !== undefined && isShownInstead(access, file)) return EVERYONE;
  if (isOver(access, nowMs)) return { kind: 'over' };
  const asked = findEntry(access, path);
  const answering =
    file === undefined
      ? asked
      : chooseStricter(findEntry(access, findAddressOfFile(file)), findEntry(access, `/${file}`));
  return chooseStricter(asked, answering);
}

const STRICTNESS = { everyone: 0, password: 1, nobody: 2 } as const;

function chooseStricter(one: Entry, other: Entry): Entry {
  return STRICTNESS[other.kind] > STRICTNESS[one.kind] ? other : one;
}

/** Once the last day has ended. */
export function isOver({ lastDay }: Pick<SiteAccess, 'lastDay'>, nowMs: number): boolean {
  return lastDay !== undefined && formatIsoDay(nowMs) > lastDay;
}

function isShownInstead({ instead }: SiteAccess, file: string): boolean {
  return instead !== undefined && (instead.page === file || instead.files.includes(file));
}

/** Whether anything is said at all. */
export function isRestricted({ rules, lastDay }: SiteAccess): boolean {
  return rules.length > 0 || lastDay !== undefined;
}
