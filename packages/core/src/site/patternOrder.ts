/** Patterns in the order they are tried, those removed for a while in their places. */
import { mergedOrder } from '../placing/index.ts';
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
  folding.patternOrder = new Set(mergedOrder([...folding.patternOrder], next));
  inOrder(draft, folding);
}

export function inOrder(draft: MutableDraft, { patternOrder }: Folding): void {
  const patterns = new Map(draft.patterns);
  draft.patterns.clear();
  for (const id of patternOrder) {
    const pattern = patterns.get(id);
    if (pattern) draft.patterns.set(id, pattern);
  }
}
