/** One round of matching: what is believed of each old address, and what the surest teach about the rest. */
import { BRANCH_EVIDENCE, Branches, type Pair } from './branches.ts';
import { EVIDENCE } from './evidence.ts';
import type { Compared, Matcher } from './matcher.ts';
import { blockScore, NONE_EVIDENCE, pairScore, applySoftmax, type Model } from './model.ts';
import type { OldPage } from './pages.ts';

/** How much of an answer is believed so far. */
export interface Belief {
  /** Indices of new pages. */
  readonly pages: readonly number[];
  /** One for each page, then that of none. */
  readonly probabilities: Float64Array;
}

/** What is less probable teaches nothing about its neighbours. */
const TEACHES_FROM = 0.5;

/** What stays from round to round; the evidence itself would be a hundred times as large. */
export interface Held extends Omit<Compared, 'evidence' | 'candidates'> {
  readonly candidates: number[];
  /** Of each candidate without its neighbours, by the weights of later rounds. */
  readonly scores: number[];
}

export function hold({ evidence, candidates, ...compared }: Compared, model: Model): Held {
  return {
    ...compared,
    candidates: [...candidates],
    scores: candidates.map((_, at) => pairScore(evidence, at * EVIDENCE.length, compared.knowledge, model.later)),
  };
}

/** Compares pages that only neighbours lead to as well. */
export function holdMore(held: Held, pages: readonly number[], matcher: Matcher, model: Model): void {
  const more = [...new Set(pages)].filter((page) => !held.candidates.includes(page));
  if (more.length === 0) return;
  const { candidates, scores } = hold(matcher.compare(held.profile, more), model);
  held.candidates.push(...candidates);
  held.scores.push(...scores);
}

/** What is believed of one address by itself. */
export function believeFirst(compared: Compared, model: Model): Belief {
  const { candidates, evidence, knowledge, none } = compared;
  const scores = new Float64Array(candidates.length + 1);
  candidates.forEach((_, at) => {
    scores[at] = pairScore(evidence, at * EVIDENCE.length, knowledge, model.first);
  });
  scores[candidates.length] = blockScore(none, 0, NONE_EVIDENCE.length, knowledge, model.first.none);
  applySoftmax(scores);
  return { pages: candidates, probabilities: scores };
}

/** What the surest pairs teach. */
export interface Taught {
  readonly branches: Branches;
  /** What each old address taught itself. */
  readonly own: readonly (Pair | undefined)[];
  /** How many old addresses claim each new page. */
  readonly claimed: Float64Array;
  /** By folder of the old site, how many of its addresses have no counterpart, and how many there are. */
  readonly gone: ReadonlyMap<string, { none: number; all: number }>;
}

export function teach(
  olds: readonly OldPage[],
  profiles: Compared['profile'][],
  beliefs: readonly Belief[],
  decided: ReadonlyMap<string, string | null>,
  indexOf: ReadonlyMap<string, number>,
  matcher: Matcher,
): Taught {
  const claimed = new Float64Array(matcher.pages.length);
  const gone = new Map<string, { none: number; all: number }>();
  const pairs = olds.map(({ address }, at): Pair | undefined => {
    const belief = beliefs[at];
    const [old, chosen] = [profiles[at], decided.get(address)];
    if (old === undefined || belief === undefined) return undefined;
    const folder = old.folders.join('/');
    const { none, all } = gone.get(folder) ?? { none: 0, all: 0 };
    gone.set(folder, { none: none + reckonNone(belief, chosen), all: all + 1 });
    if (chosen === null) return undefined;
    const certain = chosen === undefined ? undefined : indexOf.get(chosen);
    let [best, weight] = [certain ?? -1, certain === undefined ? 0 : 1];
    if (certain === undefined)
      belief.pages.forEach((page, i) => {
        const probability = belief.probabilities[i] ?? 0;
        claimed[page] = (claimed[page] ?? 0) + probability;
        if (probability > weight) [best, weight] = [page, probability];
      });
    else claimed[certain] = (claimed[certain] ?? 0) + 1;
    const page = matcher.pages[best];
    return page && weight >= TEACHES_FROM ? { old, page, weight } : undefined;
  });
  return {
    branches: new Branches(
      pairs.filter((pair) => pair !== undefined),
      matcher.rarities,
    ),
    own: pairs,
    claimed,
    gone,
  };
}

/** What is believed of one address beside its neighbours. */
export function believeLater(
  matcher: Matcher,
  held: Held,
  { branches, own: pairs, claimed, gone }: Taught,
  at: number,
  before: Belief | undefined,
  model: Model,
): Belief {
  const { candidates, knowledge, none } = held;
  const ownClaims = new Map((before?.pages ?? []).map((page, i) => [page, before?.probabilities[i] ?? 0]));
  const besides = matcher.besides(held, branches, pairs[at], claimed, ownClaims);
  const beside = gone.get(held.profile.folders.join('/'));
  if (beside && before)
    none[NONE_EVIDENCE.indexOf('goneBeside')] = Math.max(0, beside.none - reckonNone(before, undefined)) / beside.all;
  const scores = new Float64Array(candidates.length + 1);
  candidates.forEach((_, i) => {
    scores[i] =
      (held.scores[i] ?? 0) +
      blockScore(besides, i * BRANCH_EVIDENCE.length, BRANCH_EVIDENCE.length, knowledge, model.later.branch);
  });
  scores[candidates.length] = blockScore(none, 0, NONE_EVIDENCE.length, knowledge, model.later.none);
  applySoftmax(scores);
  return { pages: [...candidates], probabilities: scores };
}

/** @param chosen what a person decided, where one did */
function reckonNone({ probabilities }: Belief, chosen: string | null | undefined): number {
  return chosen === undefined ? (probabilities.at(-1) ?? 0) : chosen === null ? 1 : 0;
}
