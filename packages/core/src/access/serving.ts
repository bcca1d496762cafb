/** What a host is told beside a release's files, as one content: its rules, and who may visit, where that is restricted. */
import { parseRules, serialiseRules, type Rule } from '../redirects/index.ts';
import {
  isRestricted,
  OPEN_TO_ALL,
  type AccessRule,
  type Entry,
  type ShownInstead,
  type SiteAccess,
} from './access.ts';

export interface Serving {
  readonly rules: readonly Rule[];
  readonly access: SiteAccess;
}

const NO_ACCESS =
  'who may visit is [["branch", "everyone", "nobody" or [user, hash]] …] with a page instead and a last day';

/** Who may visit in the first line, and only where it is said; then the rules. Equal ones have equal bytes. */
export function serialiseServing({ rules, access }: Serving): string {
  const line = isRestricted(access)
    ? `${JSON.stringify({ access: access.rules.map(({ branch, entry }) => [branch, entry.kind === 'password' ? [entry.user, entry.hash] : entry.kind]), instead: access.instead, lastDay: access.lastDay })}\n`
    : '';
  return line + serialiseRules(rules);
}

/** The inverse of `serialiseServing`. Throws a SyntaxError on anything else. */
export function parseServing(text: string): Serving {
  if (!text.startsWith('{')) return { rules: parseRules(text), access: OPEN_TO_ALL };
  const end = text.indexOf('\n') < 0 ? text.length : text.indexOf('\n');
  return { access: readAccess(JSON.parse(text.slice(0, end))), rules: parseRules(text.slice(end + 1)) };
}

function readAccess(said: unknown): SiteAccess {
  const { access, instead, lastDay } = said as { access?: unknown; instead?: unknown; lastDay?: unknown };
  if (!Array.isArray(access) || !(lastDay === undefined || typeof lastDay === 'string'))
    throw new SyntaxError(NO_ACCESS);
  return {
    rules: access.map(readRule),
    ...(instead === undefined ? {} : { instead: readInstead(instead) }),
    ...(lastDay === undefined ? {} : { lastDay }),
  };
}

function readRule(row: unknown): AccessRule {
  if (!Array.isArray(row) || typeof row[0] !== 'string') throw new SyntaxError(NO_ACCESS);
  return { branch: row[0], entry: readEntry(row[1]) };
}

function readEntry(entry: unknown): Entry {
  if (entry === 'everyone' || entry === 'nobody') return { kind: entry };
  if (Array.isArray(entry) && typeof entry[0] === 'string' && typeof entry[1] === 'string')
    return { kind: 'password', user: entry[0], hash: entry[1] };
  throw new SyntaxError(NO_ACCESS);
}

function readInstead(instead: unknown): ShownInstead {
  const { page, files } = instead as { page?: unknown; files?: unknown };
  if (typeof page !== 'string' || !Array.isArray(files) || !files.every((file) => typeof file === 'string'))
    throw new SyntaxError(NO_ACCESS);
  return { page, files };
}
