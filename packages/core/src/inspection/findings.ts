/** What is looked at when a live release is inspected from outside, and what was found otherwise than promised. */

import type { FindingMessage } from './messages.ts';

/** In the order a report tells them. */
export const ASPECTS = [
  'home',
  'pages',
  'visitors',
  'old addresses',
  'files',
  'not found',
  'machines',
  'types',
  'caching',
  'security',
  'certificate',
] as const;
export type Aspect = (typeof ASPECTS)[number];

export interface Finding {
  readonly aspect: Aspect;
  /** What was asked: an address on the site, or a name. */
  readonly address: string;
  readonly message: FindingMessage;
  /** `wrong`: visitors do not get what was published; `note`: they do, and something could be better. */
  readonly weight: 'wrong' | 'note';
}

export interface AspectResult {
  readonly aspect: Aspect;
  readonly asked: number;
  readonly wrong: number;
  readonly notes: number;
}

export type Verdict = 'right' | 'noted' | 'wrong';

/** @param asked how many were asked for each aspect; one that was not asked is not told */
export function countResults(asked: ReadonlyMap<Aspect, number>, findings: readonly Finding[]): AspectResult[] {
  return ASPECTS.flatMap((aspect) => {
    const count = asked.get(aspect);
    if (count === undefined || count === 0) return [];
    const ofAspect = findings.filter((each) => each.aspect === aspect);
    // One address may have several things wrong and counts once.
    const addresses = (weight: Finding['weight']) =>
      new Set(ofAspect.filter((each) => each.weight === weight).map(({ address }) => address)).size;
    return [{ aspect, asked: count, wrong: addresses('wrong'), notes: addresses('note') }];
  });
}

export function judgeResults(all: readonly AspectResult[]): Verdict {
  return all.some(({ wrong }) => wrong > 0) ? 'wrong' : all.some(({ notes }) => notes > 0) ? 'noted' : 'right';
}
