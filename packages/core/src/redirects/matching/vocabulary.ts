/** Words as numbers, and how much each tells in a field of the new site: its inverse document frequency. */

export class Vocabulary {
  readonly #ids = new Map<string, number>();

  idOf(word: string): number {
    const known = this.#ids.get(word);
    if (known !== undefined) return known;
    this.#ids.set(word, this.#ids.size);
    return this.#ids.size - 1;
  }

  get size(): number {
    return this.#ids.size;
  }

  /** Each word once, in rising order, so that two sets are compared in one pass. */
  setOf(words: Iterable<string>): Int32Array {
    const ids = new Set<number>();
    for (const word of words) ids.add(this.idOf(word));
    return Int32Array.from(ids).sort();
  }
}

/**
 * log(1 + (N − n + ½) / (n + ½)), as in Okapi BM25 (Robertson and Zaragoza, 2009, section 3.1), for N pages
 * of which n have the word: near nothing for what every page says, most for what one alone says.
 */
export class Rarity {
  readonly #counts: Uint32Array;
  readonly #values: Float64Array;
  /** Of a word no page has. */
  readonly most: number;

  /** @param words of the vocabulary; words that come later count as had by no page */
  constructor(sets: readonly Int32Array[], words: number) {
    this.#counts = new Uint32Array(words);
    for (const set of sets) for (const id of set) this.#counts[id] = (this.#counts[id] ?? 0) + 1;
    const rarity = (pages: number) => Math.log(1 + (sets.length - pages + 0.5) / (pages + 0.5));
    this.most = rarity(0);
    this.#values = Float64Array.from(this.#counts, rarity);
  }

  of(id: number): number {
    return this.#values[id] ?? this.most;
  }

  pagesWith(id: number): number {
    return this.#counts[id] ?? 0;
  }

  sum(set: Int32Array): number {
    let sum = 0;
    for (const id of set) sum += this.of(id);
    return sum;
  }
}

/** The rarity of what two sets have in common. */
export function reckonShared(a: Int32Array, b: Int32Array, rarity: Rarity): number {
  let sum = 0;
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const [x = 0, y = 0] = [a[i], b[j]];
    if (x === y) {
      sum += rarity.of(x);
      i += 1;
      j += 1;
    } else if (x < y) i += 1;
    else j += 1;
  }
  return sum;
}

/** The share of two sets that is the same (Dice, 1945). */
export function computeDice(a: Int32Array, b: Int32Array): number {
  if (a.length === 0 || b.length === 0) return 0;
  let same = 0;
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const [x = 0, y = 0] = [a[i], b[j]];
    if (x === y) same += 1;
    if (x <= y) i += 1;
    if (y <= x) j += 1;
  }
  return (2 * same) / (a.length + b.length);
}
