/** The rounds of matching: each address alone first, then with what the surest ones teach about the rest. */
import { Matcher } from './matcher.ts';
import { calibrate, type Calibration, type Model } from './model.ts';
import learned from './model.json' with { type: 'json' };
import type { NewPage, OldPage, Settled } from './pages.ts';
import { believeFirst, hold, holdMore, believeLater, teach, type Belief, type Held } from './rounds.ts';

export interface Suggestion {
  readonly page: string;
  /** How many of a hundred such suggestions are right, over 100. */
  readonly probability: number;
}

export interface Match {
  readonly address: string;
  /** The best first, at most three. */
  readonly suggestions: readonly Suggestion[];
  /** That nothing on the new site takes its place. */
  readonly none: number;
}

/** After the first: more change nothing that was measured. */
export const LATER_ROUNDS = 3;
const SHOWN = 3;
/** Addresses between two reports of progress. */
const STRIDE = 200;

/** Suggests pages for old addresses. Yields how much is done, from 0 to 1, so that whoever drives it can stop or tell. */
export function* matchSteps(
  olds: readonly OldPage[],
  pages: readonly NewPage[],
  settled: readonly Settled[] = [],
  model: Model = learned as unknown as Model,
): Generator<number, Match[]> {
  const matcher = new Matcher(pages, olds);
  const indexOf = new Map(pages.map(({ id }, at) => [id, at]));
  const decided = new Map(settled.map(({ address, page }) => [address, page]));
  const profiles = olds.map((old) => matcher.profile(old));
  const all = (LATER_ROUNDS + 1) * olds.length;
  let beliefs: Belief[] = [];
  const held: Held[] = [];
  for (const [at, profile] of profiles.entries()) {
    const compared = matcher.compare(profile);
    beliefs.push(believeFirst(compared, model));
    held.push(hold(compared, model));
    if (at % STRIDE === 0) yield at / all;
  }
  for (let round = 1; round <= LATER_ROUNDS; round += 1) {
    const taught = teach(olds, profiles, beliefs, decided, indexOf, matcher);
    const next: Belief[] = [];
    for (const [at, each] of held.entries()) {
      holdMore(
        each,
        matcher.moved(each.profile, taught.branches.predicted(each.profile, taught.own[at])),
        matcher,
        model,
      );
      next.push(believeLater(matcher, each, taught, at, beliefs[at], model));
      if (at % STRIDE === 0) yield (round * olds.length + at) / all;
    }
    beliefs = next;
  }
  return olds.map(({ address }, at) =>
    matchOf(address, beliefs[at], pages, model.calibration[held[at]?.knowledge ?? 0] ?? []),
  );
}

/** The whole of it at once, for small lists and tests. */
export function match(
  olds: readonly OldPage[],
  pages: readonly NewPage[],
  settled: readonly Settled[] = [],
  model?: Model,
): Match[] {
  const steps = matchSteps(olds, pages, settled, model);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function matchOf(
  address: string,
  belief: Belief | undefined,
  pages: readonly NewPage[],
  calibration: Calibration,
): Match {
  const ranked = (belief?.pages ?? [])
    .map((page, at) => ({ page: pages[page]?.id ?? '', raw: belief?.probabilities[at] ?? 0 }))
    .sort((a, b) => b.raw - a.raw)
    .slice(0, SHOWN);
  return {
    address,
    suggestions: ranked.map(({ page, raw }) => ({ page, probability: calibrate(raw, calibration) })),
    none: belief?.probabilities.at(-1) ?? 1,
  };
}
