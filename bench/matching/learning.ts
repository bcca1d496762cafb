/** Maximum likelihood for the matcher's multinomial logit, by Adam (Kingma and Ba, 2015) with a quadratic penalty. */
import {
  ADDRESS_EVIDENCE,
  BRANCH_EVIDENCE,
  BRANCH_LENGTH,
  EVIDENCE,
  believeFirst,
  hold,
  holdMore,
  believeLater,
  LATER_ROUNDS,
  Matcher,
  NONE_EVIDENCE,
  NONE_LENGTH,
  PAIR_LENGTH,
  KNOWLEDGE,
  applySoftmax,
  teach,
  type Belief,
  type Calibration,
  type Compared,
  type Model,
  type Weights,
} from '@fastigium/core/redirects/matching';
import type { RedirectMap } from './maps.ts';

export interface Lesson {
  readonly map: RedirectMap;
  readonly weight: number;
  /** A map of real moves rather than a relaunch that was made. */
  readonly isReal: boolean;
}

/** One old address: what speaks for each candidate, and which is right (the number of candidates for none). */
interface Example {
  readonly compared: Compared;
  readonly none: Float64Array;
  readonly besides: Float64Array;
  readonly right: number;
  readonly weight: number;
}

const PASSES = 20;
const RATE = 0.03;
const PENALTY = 2e-4;
/** Of one relaunch: many small ones teach more than one large one. */
const MOST_EXAMPLES = 500;

/** @param others relaunches that nothing is learned from but how far probabilities are to be trusted */
export function learnModel(lessons: readonly Lesson[], others: readonly Lesson[]): Model {
  const prepared = lessons.map(({ map, weight, isReal }) => prepare(map, weight, isReal));
  const firstWeights = fit(
    prepared.flatMap((each) => each.examples(undefined)),
    false,
  );
  let model: Model = {
    first: firstWeights,
    later: { pair: firstWeights.pair, branch: new Array<number>(BRANCH_LENGTH).fill(0), none: firstWeights.none },
    calibration: [],
  };
  for (let turn = 0; turn < 3; turn += 1) {
    model = {
      ...model,
      later: fit(
        prepared.flatMap((each) => each.examples({ model, rounds: turn === 0 ? 0 : turn })),
        true,
      ),
    };
    console.log(
      `turn ${turn}: ${prepared
        .slice(0, 4)
        .map((each) => each.told(model))
        .join('; ')}`,
    );
  }
  console.log('judging');
  const judged = [
    ...prepared.filter(({ isReal }) => isReal),
    ...others.map(({ map, weight }) => prepare(map, weight)),
  ].flatMap((each) => each.judged(model));
  return {
    ...model,
    calibration: KNOWLEDGE.map((_, knowledge) => calibration(judged.filter((each) => each.knowledge === knowledge))),
  };
}

function prepare({ name, old, new: pages, truth }: RedirectMap, weight: number, isReal = false) {
  const newPages = pages.map((page) => ({
    id: page.url,
    address: page.url,
    title: page.title,
    text: page.text,
    language: page.language,
  }));
  const olds = old.map(({ url, title, text, language }) => ({ address: url, title, text, language }));
  const matcher = new Matcher(newPages, olds);
  const indexOf = new Map(pages.map(({ url }, at) => [url, at]));
  const profiles = olds.map((page) => matcher.profile(page));
  const knowledges = profiles.map((profile) => matcher.compare(profile, []).knowledge);
  const rightOf = (compared: Compared, at: number) => {
    const to = truth[olds[at]?.address ?? ''] ?? null;
    const found = to === null ? -1 : compared.candidates.indexOf(indexOf.get(to) ?? -1);
    return found < 0 ? compared.candidates.length : found;
  };
  const believe = (model: Model, rounds: number): Belief[] => {
    const compared = profiles.map((profile) => matcher.compare(profile));
    let beliefs = compared.map((each) => believeFirst(each, model));
    const held = compared.map((each) => hold(each, model));
    for (let round = 0; round < rounds; round += 1) {
      const taught = teach(olds, profiles, beliefs, new Map(), indexOf, matcher);
      beliefs = held.map((each, at) => {
        holdMore(
          each,
          matcher.moved(each.profile, taught.branches.predicted(each.profile, taught.own[at])),
          matcher,
          model,
        );
        return believeLater(matcher, each, taught, at, beliefs[at], model);
      });
    }
    return beliefs;
  };
  return {
    examples(from: { model: Model; rounds: number } | undefined): Example[] {
      const beliefs = from ? believe(from.model, from.rounds) : [];
      const taught = from ? teach(olds, profiles, beliefs, new Map(), indexOf, matcher) : undefined;
      return profiles.slice(0, MOST_EXAMPLES).map((profile, at) => {
        const alone = matcher.compare(profile);
        const compared = taught
          ? matcher.compare(profile, [
              ...new Set([
                ...alone.candidates,
                ...matcher.moved(profile, taught.branches.predicted(profile, taught.own[at])),
              ]),
            ])
          : alone;
        let besides: Float64Array = new Float64Array(compared.candidates.length * BRANCH_EVIDENCE.length);
        if (taught && from) {
          const held = hold(compared, from.model);
          believeLater(matcher, held, taught, at, beliefs[at], from.model);
          compared.none.set(held.none);
          const claims = new Map(
            (beliefs[at]?.pages ?? []).map((page, i) => [page, beliefs[at]?.probabilities[i] ?? 0]),
          );
          besides = matcher.besides(compared, taught.branches, taught.own[at], taught.claimed, claims);
        }
        return { compared, none: compared.none, besides, right: rightOf(compared, at), weight };
      });
    },
    isReal,
    judged(model: Model): { p: number; right: boolean; knowledge: number }[] {
      return believe(model, LATER_ROUNDS).map((belief, at) => ({
        knowledge: knowledges[at] ?? 0,
        ...best(belief, truth[olds[at]?.address ?? ''] ?? null, (page) => pages[page]?.url),
      }));
    },
    told(model: Model): string {
      const answers = this.judged(model);
      return `${name} ${((100 * answers.filter(({ right }) => right).length) / answers.length).toFixed(1)}`;
    },
  };
}

function best(
  { pages, probabilities }: Belief,
  truth: string | null,
  urlOf: (page: number) => string | undefined,
): { p: number; right: boolean } {
  let [most, at] = [0, -1];
  pages.forEach((_, i) => {
    if ((probabilities[i] ?? 0) > most) [most, at] = [probabilities[i] ?? 0, i];
  });
  return { p: most, right: at >= 0 && truth !== null && urlOf(pages[at] ?? -1) === truth };
}

function fit(examples: readonly Example[], withBranches: boolean): Weights {
  const length = PAIR_LENGTH + BRANCH_LENGTH + NONE_LENGTH;
  const [weights, gradient, mean, square] = [
    new Float64Array(length),
    new Float64Array(length),
    new Float64Array(length),
    new Float64Array(length),
  ];
  const order = examples.map((_, at) => at);
  let step = 0;
  const batch = 64;
  for (let pass = 0; pass < PASSES; pass += 1) {
    // A walk with a stride that shares no factor with the length visits all in another order each time.
    for (let i = order.length - 1; i > 0; i -= 1) {
      const j = (i * 7919 + pass * 104729) % (i + 1);
      [order[i], order[j]] = [order[j] ?? 0, order[i] ?? 0];
    }
    let loss = 0;
    for (let from = 0; from < order.length; from += batch) {
      gradient.fill(0);
      const some = order.slice(from, from + batch);
      for (const at of some) loss += descend(examples[at] as Example, weights, gradient, withBranches);
      step += 1;
      const rate = RATE * Math.min(1, 3 * (1 - pass / PASSES));
      for (let i = 0; i < length; i += 1) {
        const g = (gradient[i] ?? 0) / some.length + PENALTY * (weights[i] ?? 0);
        mean[i] = 0.9 * (mean[i] ?? 0) + 0.1 * g;
        square[i] = 0.999 * (square[i] ?? 0) + 0.001 * g * g;
        weights[i] =
          (weights[i] ?? 0) -
          (rate * ((mean[i] ?? 0) / (1 - 0.9 ** step))) / (Math.sqrt((square[i] ?? 0) / (1 - 0.999 ** step)) + 1e-8);
      }
    }
    if (pass % 8 === 7)
      console.log(`pass ${pass + 1}: loss ${(loss / examples.length).toFixed(4)} over ${examples.length}`);
  }
  return {
    pair: [...weights.slice(0, PAIR_LENGTH)],
    branch: [...weights.slice(PAIR_LENGTH, PAIR_LENGTH + BRANCH_LENGTH)],
    none: [...weights.slice(PAIR_LENGTH + BRANCH_LENGTH)],
  };
}

/** Adds one example's gradient. @returns its loss, in nats */
function descend(
  { compared, none, besides, right, weight }: Example,
  weights: Float64Array,
  gradient: Float64Array,
  withBranches: boolean,
): number {
  const { candidates, evidence, knowledge } = compared;
  const count = candidates.length;
  const scores = new Float64Array(count + 1);
  const noneAt = PAIR_LENGTH + BRANCH_LENGTH + knowledge * NONE_EVIDENCE.length;
  const branchAt = PAIR_LENGTH + knowledge * BRANCH_EVIDENCE.length;
  const columnOf = (i: number) =>
    i < ADDRESS_EVIDENCE ? knowledge * ADDRESS_EVIDENCE + i : ADDRESS_EVIDENCE * (KNOWLEDGE.length - 1) + i;
  for (let at = 0; at < count; at += 1) {
    let score = 0;
    for (let i = 0; i < EVIDENCE.length; i += 1)
      score += (evidence[at * EVIDENCE.length + i] ?? 0) * (weights[columnOf(i)] ?? 0);
    if (withBranches)
      for (let i = 0; i < BRANCH_EVIDENCE.length; i += 1)
        score += (besides[at * BRANCH_EVIDENCE.length + i] ?? 0) * (weights[branchAt + i] ?? 0);
    scores[at] = score;
  }
  for (let i = 0; i < NONE_EVIDENCE.length; i += 1)
    scores[count] = (scores[count] ?? 0) + (none[i] ?? 0) * (weights[noneAt + i] ?? 0);
  applySoftmax(scores);
  for (let at = 0; at <= count; at += 1) {
    const error = ((scores[at] ?? 0) - (at === right ? 1 : 0)) * weight;
    if (Math.abs(error) < 1e-6) continue;
    if (at === count) {
      for (let i = 0; i < NONE_EVIDENCE.length; i += 1)
        gradient[noneAt + i] = (gradient[noneAt + i] ?? 0) + error * (none[i] ?? 0);
      continue;
    }
    for (let i = 0; i < EVIDENCE.length; i += 1)
      gradient[columnOf(i)] = (gradient[columnOf(i)] ?? 0) + error * (evidence[at * EVIDENCE.length + i] ?? 0);
    if (withBranches)
      for (let i = 0; i < BRANCH_EVIDENCE.length; i += 1)
        gradient[branchAt + i] =
          (gradient[branchAt + i] ?? 0) + error * (besides[at * BRANCH_EVIDENCE.length + i] ?? 0);
  }
  return -Math.log(Math.max(1e-12, scores[right] ?? 0)) * weight;
}

/** Isotonic regression by pooling adjacent violators (Barlow and others, 1972) over forty bins of equal size. */
export function calibration(judged: readonly { p: number; right: boolean }[]): Calibration {
  const sorted = [...judged].sort((a, b) => a.p - b.p);
  const size = Math.max(1, Math.ceil(sorted.length / 40));
  const pools: { p: number; right: number; all: number }[] = [];
  for (let from = 0; from < sorted.length; from += size) {
    const bin = sorted.slice(from, from + size);
    pools.push({
      p: bin.reduce((sum, { p }) => sum + p, 0),
      right: bin.filter(({ right }) => right).length,
      all: bin.length,
    });
    while (pools.length > 1) {
      const [a, b] = [pools[pools.length - 2], pools[pools.length - 1]];
      if (!a || !b || a.right / a.all <= b.right / b.all) break;
      pools.splice(-2, 2, { p: a.p + b.p, right: a.right + b.right, all: a.all + b.all });
    }
  }
  // A standard error less than was seen: what was not seen here is a little worse.
  return pools.map(
    ({ p, right, all }) =>
      [p / all, Math.max(0, right / all - Math.sqrt(((right / all) * (1 - right / all)) / all))] as const,
  );
}
