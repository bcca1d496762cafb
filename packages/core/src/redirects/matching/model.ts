/**
 * From evidence to probabilities: a multinomial logit over the candidates and "none of them"
 * (McFadden, 1974), so that two equally good candidates share what there is to believe.
 */
import { ADDRESS_EVIDENCE, EVIDENCE } from './evidence.ts';
import { BRANCH_EVIDENCE } from './branches.ts';

/** What else than its candidates speaks for an old address having no counterpart. */
export const NONE_EVIDENCE = [
  'always',
  'hasTitle',
  'hasText',
  'bestTitle',
  'bestText',
  'bestName',
  'bestPath',
  'unknownWords',
  'bestRenamed',
  'goneBeside',
] as const;

/** How much is known of an old page; evidence weighs differently by it. */
export const KNOWLEDGE = ['address', 'title', 'text'] as const;
export type Knowledge = (typeof KNOWLEDGE)[number];

/** Where the numbers of a pair stand: those of addresses once for each kind of knowledge, the rest, those of branches. */
export const PAIR_LENGTH = ADDRESS_EVIDENCE * KNOWLEDGE.length + (EVIDENCE.length - ADDRESS_EVIDENCE);
export const BRANCH_LENGTH = BRANCH_EVIDENCE.length * KNOWLEDGE.length;
export const NONE_LENGTH = NONE_EVIDENCE.length * KNOWLEDGE.length;

/** Learned; see bench/matching/learn.ts. */
export interface Weights {
  readonly pair: readonly number[];
  readonly branch: readonly number[];
  readonly none: readonly number[];
}

export type Calibration = readonly (readonly [raw: number, right: number])[];

export interface Model {
  /** Before anything is known of neighbours, and from then on. */
  readonly first: Weights;
  readonly later: Weights;
  /** By knowledge: pairs of a raw probability and what share of such suggestions was right, both rising. */
  readonly calibration: readonly Calibration[];
}

export function pairScore(evidence: Float64Array, at: number, knowledge: number, weights: Weights): number {
  let score = 0;
  for (let i = 0; i < ADDRESS_EVIDENCE; i += 1)
    score += (evidence[at + i] ?? 0) * (weights.pair[knowledge * ADDRESS_EVIDENCE + i] ?? 0);
  const rest = ADDRESS_EVIDENCE * KNOWLEDGE.length - ADDRESS_EVIDENCE;
  for (let i = ADDRESS_EVIDENCE; i < EVIDENCE.length; i += 1)
    score += (evidence[at + i] ?? 0) * (weights.pair[rest + i] ?? 0);
  return score;
}

export function blockScore(
  values: Float64Array,
  at: number,
  length: number,
  knowledge: number,
  weights: readonly number[],
): number {
  let score = 0;
  for (let i = 0; i < length; i += 1) score += (values[at + i] ?? 0) * (weights[knowledge * length + i] ?? 0);
  return score;
}

/** Probabilities of the scores, the last of which is that of "none". In place. */
export function applySoftmax(scores: Float64Array): void {
  let most = -Infinity;
  for (const score of scores) most = Math.max(most, score);
  let sum = 0;
  for (let i = 0; i < scores.length; i += 1) sum += scores[i] = Math.exp((scores[i] ?? 0) - most);
  for (let i = 0; i < scores.length; i += 1) scores[i] = (scores[i] ?? 0) / sum;
}

/** The share of suggestions with this raw probability that was right where it could be checked; straight lines between the points. */
export function calibrate(raw: number, points: Calibration): number {
  let [x0, y0] = [0, 0];
  for (const [x, y] of points) {
    if (raw <= x) return x === x0 ? y : y0 + ((y - y0) * (raw - x0)) / (x - x0);
    [x0, y0] = [x, y];
  }
  return y0;
}
