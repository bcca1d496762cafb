/** Where old addresses lead, branch by branch: what the chart draws and its table says. */
import type { ProofEnd, ProofRow, ProofWay } from '@fastigium/contracts/api/redirectProof';
import { say } from '../words.ts';

export interface Flow {
  /** Branch of the old address, and where it ends. */
  readonly from: string;
  readonly to: string;
  readonly addresses: number;
  readonly visits: number;
}

export type Asked = 'draft' | 'live';

export const END_WORDS: Readonly<Record<ProofEnd, string>> = {
  page: say('flows.aPage'),
  home: say('flows.theHomePage'),
  outside: say('common.anotherSite'),
  gone: say('common.goneForGood'),
  missing: 'nothing',
  loop: say('flows.aCircle'),
  unasked: say('flows.noAnswer'),
};
/** What nobody wants a visitor to meet. */
export const BAD_ENDS: ReadonlySet<ProofEnd> = new Set(['missing', 'loop', 'unasked']);
const MOST_BRANCHES = 7;
export const OTHERS = say('flows.allOthers');

export const findWay = (row: ProofRow, asked: Asked): ProofWay | null => (asked === 'draft' ? row.draft : row.live);

/** An old domain is a branch of its own. `/news/2016/x.html` belongs to `/news/`, `/visit.php?id=3` to `/visit.php`, `/a` to the root. */
export function findBranch(address: string): string {
  const host = /^\/\/([^/]+)/.exec(address)?.[1];
  if (host !== undefined) return host;
  const [path = ''] = address.split('?', 1);
  const folder = /^\/[^/]+\//.exec(path)?.[0];
  return folder ?? (address.includes('?') ? path : '/');
}

function endOf({ end, final }: ProofWay): string {
  return end === 'page' ? findBranch(final ?? '/') : END_WORDS[end];
}

/** The largest branches, each with where it leads; what is small is put together. By visits where any are known. */
export function groupFlows(rows: readonly ProofRow[], asked: Asked): Flow[] {
  const hasVisits = rows.some(({ visits }) => visits !== null);
  const weight = ({ visits }: ProofRow) => (hasVisits ? (visits ?? 0) : 1);
  const ways = rows.flatMap((row) => {
    const way = findWay(row, asked);
    return way ? [{ row, from: findBranch(row.from), to: endOf(way) }] : [];
  });
  const sides = {
    from: findLargest(ways.map(({ from, row }) => [from, weight(row)])),
    to: findLargest(
      ways.map(({ to, row }) => [to, weight(row)]),
      Object.values(END_WORDS),
    ),
  };
  const sums = new Map<string, { from: string; to: string; addresses: number; visits: number }>();
  for (const { row, from, to } of ways) {
    const key: [string, string] = [sides.from.has(from) ? from : OTHERS, sides.to.has(to) ? to : OTHERS];
    const sum = sums.get(key.join('\n')) ?? { from: key[0], to: key[1], addresses: 0, visits: 0 };
    sums.set(key.join('\n'), { ...sum, addresses: sum.addresses + 1, visits: sum.visits + (row.visits ?? 0) });
  }
  return [...sums.values()].sort(
    (a, b) => (hasVisits ? b.visits - a.visits : 0) || b.addresses - a.addresses || (a.from < b.from ? -1 : 1),
  );
}

function findLargest(weights: readonly (readonly [string, number])[], always: readonly string[] = []): Set<string> {
  const sums = new Map<string, number>();
  for (const [name, weight] of weights) sums.set(name, (sums.get(name) ?? 0) + weight);
  const names = [...sums].sort((a, b) => b[1] - a[1]).map(([name]) => name);
  return new Set([
    ...names.filter((name) => always.includes(name)),
    ...names.filter((name) => !always.includes(name)).slice(0, MOST_BRANCHES),
  ]);
}
