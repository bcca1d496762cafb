/** Which new pages are worth comparing with an old address: those that share what is rare. */
import { filterTelling, type Profile, type Rarities } from './profile.ts';
import type { Rarity } from './vocabulary.ts';

/** Comparing more changes hardly any answer; measured on relaunches made for learning. */
export const MOST_CANDIDATES = 24;

/** A word that half of a larger site has narrows nothing down. */
const COMMON_SHARE = 0.5;
const SMALL_SITE = 200;

type Postings = ReadonlyMap<number, Int32Array>;

/** How much a word in a part of the old page counts where it stands in a part of a new one. */
interface Way {
  readonly from: (old: Profile) => Int32Array;
  readonly postings: Postings;
  readonly rarity: Rarity;
  readonly weight: number;
}

/** Finds candidates by words, one address after another, at the cost of the pages that share words. */
export class CandidateFinder {
  readonly #scores: Float64Array;
  readonly #touched: number[] = [];
  readonly #ways: readonly Way[];
  readonly #byLast = new Map<string, number[]>();
  readonly #byAddress = new Map<string, number>();

  constructor(pages: readonly Profile[], rarities: Rarities) {
    this.#scores = new Float64Array(pages.length);
    const last = createPostings(pages, ({ lastWords }) => lastWords, rarities.last);
    const path = createPostings(pages, ({ pathWords }) => pathWords, rarities.path);
    const trigram = createPostings(pages, ({ lastTrigrams }) => lastTrigrams, rarities.trigram);
    const title = createPostings(pages, ({ titleWords }) => titleWords, rarities.title);
    const text = createPostings(pages, ({ textWords }) => filterTelling(textWords, rarities.text), rarities.text);
    const number = createPostings(pages, ({ numbers }) => numbers, rarities.number);
    this.#ways = [
      { from: ({ lastWords }) => lastWords, postings: last, rarity: rarities.last, weight: 1 },
      { from: ({ pathWords }) => pathWords, postings: path, rarity: rarities.path, weight: 0.6 },
      { from: ({ lastTrigrams }) => lastTrigrams, postings: trigram, rarity: rarities.trigram, weight: 0.25 },
      { from: ({ lastWords }) => lastWords, postings: title, rarity: rarities.title, weight: 0.7 },
      { from: ({ lastWords }) => lastWords, postings: text, rarity: rarities.text, weight: 0.25 },
      { from: ({ titleWords }) => titleWords, postings: title, rarity: rarities.title, weight: 1.5 },
      { from: ({ titleWords }) => titleWords, postings: last, rarity: rarities.last, weight: 0.6 },
      {
        from: ({ textWords }) => filterTelling(textWords, rarities.text),
        postings: text,
        rarity: rarities.text,
        weight: 0.3,
      },
      { from: ({ numbers }) => numbers, postings: number, rarity: rarities.number, weight: 0.4 },
    ];
    pages.forEach((page, at) => {
      if (page.last !== '') push(this.#byLast, page.last, at);
      this.#byAddress.set(keyAddress(page.folders, page.last), at);
    });
  }

  /** The page at exactly these folders with this name, if there is one. */
  at(folders: readonly string[], last: string): number | undefined {
    return this.#byAddress.get(keyAddress(folders, last));
  }

  /** Indices of new pages, the most alike first. */
  find(old: Profile): number[] {
    for (const { from, postings, rarity, weight } of this.#ways) {
      for (const id of from(old)) {
        const pages = postings.get(id);
        if (pages === undefined) continue;
        const worth = weight * rarity.of(id);
        for (const page of pages) this.#add(page, worth);
      }
    }
    const same = old.last === '' ? undefined : this.#byLast.get(old.last);
    if (same && same.length <= MOST_CANDIDATES * 4) for (const page of same) this.#add(page, 4);
    // Said otherwise, the very same place: `/visit.php` and `/visit/`, `/index.asp` and `/`.
    const there = this.at(old.folders, old.last);
    if (there !== undefined) this.#add(there, 8);
    return this.#best();
  }

  #add(page: number, worth: number): void {
    const score = this.#scores[page] ?? 0;
    if (score === 0) this.#touched.push(page);
    this.#scores[page] = score + worth;
  }

  /** A heap would save little: nearly all touched pages fall below the least of the best at the first look. */
  #best(): number[] {
    const scores = this.#scores;
    const best: number[] = [];
    for (const page of this.#touched) {
      const score = scores[page] ?? 0;
      if (best.length === MOST_CANDIDATES && score <= (scores[best[MOST_CANDIDATES - 1] ?? 0] ?? 0)) continue;
      let at = best.length === MOST_CANDIDATES ? MOST_CANDIDATES - 1 : best.length;
      for (; at > 0 && (scores[best[at - 1] ?? 0] ?? 0) < score; at -= 1) best[at] = best[at - 1] ?? 0;
      best[at] = page;
    }
    for (const page of this.#touched) scores[page] = 0;
    this.#touched.length = 0;
    return best;
  }
}

function createPostings(pages: readonly Profile[], part: (page: Profile) => Int32Array, rarity: Rarity): Postings {
  const lists = new Map<number, number[]>();
  const most = pages.length <= SMALL_SITE ? pages.length : pages.length * COMMON_SHARE;
  pages.forEach((page, at) => {
    for (const id of part(page)) if (rarity.pagesWith(id) <= most) push(lists, id, at);
  });
  return new Map([...lists].map(([id, list]) => [id, Int32Array.from(list)]));
}

function push<K>(lists: Map<K, number[]>, key: K, value: number): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

function keyAddress(folders: readonly string[], last: string): string {
  return `${folders.join('/')}\n${last}`;
}
