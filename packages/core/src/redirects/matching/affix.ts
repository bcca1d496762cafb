/** What a site adds to its titles, such as " | Lanternmoor Observatory", says nothing about one page. */
const SEPARATOR = / [|–—·»«:-] |: /u;
/** A part is the site's where it stands at the same end of this share of all titles. */
const SHARE = 0.15;
const AT_LEAST = 4;

/** Gives a function that takes the parts off that many of these titles begin or end with; a title is never taken off whole. */
export function createAffixRemover(titles: readonly string[]): (title: string) => string {
  const first = new Map<string, number>();
  const last = new Map<string, number>();
  for (const title of titles) {
    const parts = splitTitle(title);
    if (parts.length < 2) continue;
    add(first, parts[0] ?? '');
    add(last, parts.at(-1) ?? '');
  }
  const enough = Math.max(AT_LEAST, titles.length * SHARE);
  return (title) => {
    const parts = splitTitle(title);
    while (parts.length > 1 && (last.get(parts.at(-1) ?? '') ?? 0) >= enough) parts.pop();
    while (parts.length > 1 && (first.get(parts[0] ?? '') ?? 0) >= enough) parts.shift();
    return parts.join(' ');
  };
}

function splitTitle(title: string): string[] {
  return title
    .split(SEPARATOR)
    .map((part) => part.trim())
    .filter((part) => part !== '');
}

function add(counts: Map<string, number>, key: string): void {
  counts.set(key, (counts.get(key) ?? 0) + 1);
}
