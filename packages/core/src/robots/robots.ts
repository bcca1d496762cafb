/**
 * What a site's robots.txt lets a crawler ask for.
 * Source: RFC 9309, sections 2.1 and 2.2.
 */
import { normalisePathEncoding, normaliseQueryEncoding } from '../address/percent.ts';

export interface Robots {
  readonly groups: readonly RobotsGroup[];
  /** Addresses of sitemaps it names, as written; they belong to no group (common practice, after sitemaps.org). */
  readonly sitemaps: readonly string[];
}

export interface RobotsGroup {
  /** Product tokens in lower case; `*` stands for every crawler. */
  readonly agents: readonly string[];
  readonly rules: readonly RobotsRule[];
}

export interface RobotsRule {
  readonly allow: boolean;
  /** In normal percent-encoding, with its `*` and final `$` where it has them. */
  readonly pattern: string;
  readonly line: number;
}

/** "At least 500 kibibytes" have to be read (section 2.5); what lies beyond is not. */
const MOST_LETTERS = 500 * 1024;

/** Reads any text; lines that mean nothing are passed over (section 2.2). */
export function parseRobots(text: string): Robots {
  const groups: { agents: string[]; rules: RobotsRule[] }[] = [];
  const sitemaps: string[] = [];
  let group: (typeof groups)[number] | undefined;
  // A user-agent line that follows a rule begins a group; one that follows another joins it.
  let agentsAreOpen = false;
  text
    .slice(0, MOST_LETTERS)
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .forEach((raw, index) => {
      const [, key = '', value = ''] = /^\s*([^:#]+?)\s*:\s*([^#]*?)\s*(?:#.*)?$/.exec(raw) ?? [];
      switch (key.toLowerCase()) {
        case 'user-agent':
          if (!group || !agentsAreOpen) groups.push((group = { agents: [], rules: [] }));
          group.agents.push(readProductToken(value));
          agentsAreOpen = true;
          return;
        case 'allow':
        case 'disallow':
          // A rule before any group belongs to nobody.
          if (!group) return;
          agentsAreOpen = false;
          if (value !== '')
            group.rules.push({ allow: key.toLowerCase() === 'allow', pattern: normaliseParts(value), line: index + 1 });
          return;
        case 'sitemap':
          if (value !== '') sitemaps.push(value);
      }
    });
  return { groups, sitemaps };
}

/** A version behind the token, as many write it, is no part of it (section 2.2.1). */
function readProductToken(value: string): string {
  return (/^[^\s/]+/.exec(value)?.[0] ?? '').toLowerCase();
}

/**
 * The rule that decides on an address, or undefined where none does and it may be asked for.
 *
 * @param agent product token of the crawler
 * @param address normal path, with its query
 */
export function findRobotsRule(robots: Robots, agent: string, address: string): RobotsRule | undefined {
  const target = normaliseTarget(address);
  let best: RobotsRule | undefined;
  for (const rule of findRulesFor(robots, agent)) {
    if (!matchesTarget(rule.pattern, target)) continue;
    // The longest pattern decides; of two as long as each other the one that allows (section 2.2.2).
    if (
      !best ||
      rule.pattern.length > best.pattern.length ||
      (rule.pattern.length === best.pattern.length && rule.allow && !best.allow)
    )
      best = rule;
  }
  return best;
}

/** Whether a crawler may ask for an address. The robots.txt itself it always may (section 2.2.2). */
export function isAllowed(robots: Robots, agent: string, address: string): boolean {
  return address === '/robots.txt' || (findRobotsRule(robots, agent, address)?.allow ?? true);
}

/** All groups that name the crawler together, else those for everybody, else none (section 2.2.1). */
function findRulesFor({ groups }: Robots, agent: string): RobotsRule[] {
  const token = agent.toLowerCase();
  const named = groups.filter(({ agents }) => agents.includes(token));
  return (named.length > 0 ? named : groups.filter(({ agents }) => agents.includes('*'))).flatMap(({ rules }) => rules);
}

function normaliseParts(text: string): string {
  const mark = text.indexOf('?');
  return mark < 0
    ? normalisePathEncoding(text)
    : `${normalisePathEncoding(text.slice(0, mark))}?${normaliseQueryEncoding(text.slice(mark + 1))}`;
}

/** In a pattern `*` and `$` mean something, so literal ones are written `%2A` and `%24` (section 2.2.3). */
function normaliseTarget(address: string): string {
  return normaliseParts(address).replace(/\*/g, '%2A').replace(/\$/g, '%24');
}

/**
 * Whether a pattern matches from the first octet on. Each piece between stars is taken at its first
 * place, which leaves the most room for the rest, so nothing has to be tried twice.
 */
function matchesTarget(pattern: string, target: string): boolean {
  const isWhole = pattern.endsWith('$');
  const body = isWhole ? pattern.slice(0, -1) : pattern;
  // A dollar elsewhere is a letter like any other.
  const pieces = body.replace(/\$/g, '%24').split('*');
  const first = pieces[0] ?? '';
  if (!target.startsWith(first)) return false;
  let at = first.length;
  for (const [index, piece] of pieces.slice(1).entries()) {
    const isLast = index === pieces.length - 2;
    if (isWhole && isLast) return target.length - piece.length >= at && target.endsWith(piece);
    const found = target.indexOf(piece, at);
    if (found < 0) return false;
    at = found + piece.length;
  }
  return !isWhole || at === target.length;
}
