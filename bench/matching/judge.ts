/** How well a map's old addresses were matched. */
import { match, type Model } from '@fastigium/core/redirects/matching';
import type { RedirectMap } from './maps.ts';

export interface Judgement {
  readonly name: string;
  readonly old: number;
  readonly pages: number;
  /** Old addresses with a counterpart, and without one. */
  readonly answerable: number;
  readonly gone: number;
  /** Of the answerable. */
  readonly top1: number;
  readonly top3: number;
  /** Suggestions at 0.9 or more, and how many of them were right; a suggestion for what is gone is wrong. */
  readonly sure: number;
  readonly sureRight: number;
  /** Of the gone: no suggestion of 0.5 or more. */
  readonly abstained: number;
  /** Ten bins of probability: how many suggestions fell in, their mean probability, how many were right. */
  readonly bins: readonly { readonly count: number; readonly mean: number; readonly right: number }[];
  readonly seconds: number;
}

const SURE = 0.9;
const LIKELY = 0.5;

export function judge(map: RedirectMap, model?: Model): Judgement {
  const start = performance.now();
  const matches = match(
    map.old.map(({ url, title, text, language }) => ({ address: url, title, text, language })),
    map.new.map(({ url, title, text, language }) => ({ id: url, address: url, title, text, language })),
    [],
    model,
  );
  const seconds = (performance.now() - start) / 1000;
  let [top1, top3, sure, sureRight, abstained, answerable] = [0, 0, 0, 0, 0, 0];
  const bins = Array.from({ length: 10 }, () => ({ count: 0, sum: 0, right: 0 }));
  for (const { address, suggestions } of matches) {
    const truth = map.truth[address] ?? null;
    const [best] = suggestions;
    const isRight = truth !== null && best?.page === truth;
    if (truth === null) abstained += (best?.probability ?? 0) < LIKELY ? 1 : 0;
    else {
      answerable += 1;
      top1 += isRight ? 1 : 0;
      top3 += suggestions.some(({ page }) => page === truth) ? 1 : 0;
    }
    if (!best) continue;
    const bin = bins[Math.min(9, Math.floor(best.probability * 10))];
    if (bin) {
      bin.count += 1;
      bin.sum += best.probability;
      bin.right += isRight ? 1 : 0;
    }
    if (best.probability >= SURE) {
      sure += 1;
      sureRight += isRight ? 1 : 0;
    }
  }
  return {
    name: map.name,
    old: map.old.length,
    pages: map.new.length,
    answerable,
    gone: map.old.length - answerable,
    top1,
    top3,
    sure,
    sureRight,
    abstained,
    seconds,
    bins: bins.map(({ count, sum, right }) => ({ count, mean: count === 0 ? 0 : sum / count, right })),
  };
}
