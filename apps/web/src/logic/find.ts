/** Finding by what a person types: every word must stand somewhere; earlier and whole words first. */

export interface Findable {
  /** Lower case. */
  readonly text: string;
}

export function find<T extends Findable>(items: readonly T[], typed: string, most: number): T[] {
  const words = typed
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  if (words.length === 0) return items.slice(0, most);
  const scored: { item: T; score: number }[] = [];
  for (const item of items) {
    let score = 0;
    for (const word of words) {
      const at = item.text.indexOf(word);
      if (at < 0) {
        score = -1;
        break;
      }
      const startsWord = at === 0 || !/[\p{L}\p{N}]/u.test(item.text[at - 1] ?? '');
      score += (startsWord ? 100 : 0) + Math.max(0, 50 - at);
    }
    if (score >= 0) scored.push({ item, score });
  }
  return scored
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ item }) => item);
}
