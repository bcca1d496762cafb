/**
 * `npm run bench -- matching`: how well old addresses are matched on maps of real moves, beside simple ways.
 * `--maps DIR` takes any folder of maps, `--model FILE` other weights than those that ship.
 */
import { readFileSync } from 'node:fs';
import type { Model } from '@fastigium/core/redirects/matching';
import { baselines } from './baselines.ts';
import { judge, type Judgement } from './judge.ts';
import { readMaps } from './maps.ts';

export interface MapFigures extends Judgement {
  readonly baselines: { readonly sameLastSegment: number; readonly editDistance: number; readonly words: number };
}

export function matchingBench(folder: string, modelFile?: string): MapFigures[] {
  const model = modelFile === undefined ? undefined : (JSON.parse(readFileSync(modelFile, 'utf8')) as Model);
  return readMaps(folder).map((map) => ({ ...judge(map, model), baselines: baselines(map) }));
}

export function printMatching(figures: readonly MapFigures[]): void {
  for (const each of figures) {
    const share = (part: number, all = each.answerable) =>
      all === 0 ? 'none' : `${((100 * part) / all).toFixed(1)} %`;
    console.log(`${each.name}: ${each.old} old, ${each.pages} new, ${each.gone} gone, ${each.seconds.toFixed(1)} s`);
    console.log(
      `  first ${share(each.top1)}, among three ${share(each.top3)}; same last segment ${share(each.baselines.sameLastSegment)}, edit distance ${share(each.baselines.editDistance)}, words (minisearch) ${share(each.baselines.words)}`,
    );
    console.log(
      `  suggested at 0.9 or more ${share(each.sure, each.old)}, of which right ${share(each.sureRight, each.sure)}; abstained on the gone ${share(each.abstained, each.gone)}`,
    );
    console.log(
      `  of a hundred, by probability: ${each.bins.map(({ count, mean, right }) => (count === 0 ? '·' : `${(100 * mean).toFixed(0)}→${((100 * right) / count).toFixed(0)} (${count})`)).join('  ')}`,
    );
  }
}
