/** What all titles of a site end in, such as ` · Lanternmoor Observatory`, and titles without it. */

const SEPARATED = /\s+[-–—|·•:»«/]+\s+\S[^]*$/;

/** The ending that most titles share, its separator included; undefined where there is none (common practice). */
export function findCommonEnding(titles: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const title of titles) {
    const ending = readTitleEnding(title);
    if (ending !== undefined) counts.set(ending, (counts.get(ending) ?? 0) + 1);
  }
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] >= 2 && best[1] * 3 >= titles.length ? best[0] : undefined;
}

/** From the last separator on. */
function readTitleEnding(title: string): string | undefined {
  const last = [...title.matchAll(/\s+[-–—|·•:»«/]+\s+/g)].at(-1);
  return last && SEPARATED.test(title) ? title.slice(last.index) : undefined;
}

/** @param endings of the site, one a language perhaps; the title of the site itself stays as it is */
export function labelTitle(title: string, endings: readonly string[]): string {
  const ending = endings.find((each) => title.length > each.length && title.endsWith(each));
  return ending === undefined ? title : title.slice(0, -ending.length);
}
