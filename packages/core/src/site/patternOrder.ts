/** Patterns in the order they are tried, those removed for a while in their places. */
import { mergeOrder } from '../placing/index.ts';
import type { PatternRedirect } from '../redirects/index.ts';
import type { MutableDraft } from './draft.ts';
import type { Folding } from './folding.ts';

export function setPattern(draft: MutableDraft, folding: Folding, id: string, pattern: PatternRedirect): void {
  draft.patterns.set(id, pattern);
  folding.patternOrder.add(id);
}

export function orderPatterns(draft: MutableDraft, folding: Folding, ids: readonly string[]): void {
  const named = new Set(ids);
  const next = [
    ...[...draft.patterns.keys()].filter((id) => !named.has(id)),
    ...ids.filter((id) => draft.patterns.has(id)),
  ];
  folding.patternOrder = new Set(mergeOrder([...folding.patternOrder], next));
  sortPatterns(draft, folding);
}

export function sortPatterns(draft: MutableDraft, { patternOrder }: Folding): void {
  const patterns = new Map(draft.patterns);
  draft.patterns.clear();
  for (const id of patternOrder) {
    const pattern = patterns.get(id);
    if (pattern) draft.patterns.set(id, pattern);
  }
}
