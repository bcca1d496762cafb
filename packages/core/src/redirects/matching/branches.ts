/**
 * What pairs that are as good as certain teach about the others: where the pages of a folder went,
 * which words were renamed, dropped or added on the way, and whether ids and names were kept.
 */
import { reckonNameShare } from './evidence.ts';
import type { Profile, Rarities } from './profile.ts';

/** One old page and the new page it is taken to have become. */
export interface Pair {
  readonly old: Profile;
  readonly page: Profile;
  /** 1 for a person's decision, otherwise the probability. */
  readonly weight: number;
}

/** The names of the numbers that `Branches.weigh` writes. */
export const BRANCH_EVIDENCE = [
  'folderMoved',
  'folderMovedSurely',
  'folderMovedElsewhere',
  'movedSameName',
  'movedAlikeName',
  'indexMoved',
  'topKept',
  'topLeft',
  'renamedOld',
  'renamedNew',
  'renamedBoth',
  'numberTrusted',
  'nameTrusted',
  'taken',
  'takenOutright',
] as const;

/** Words of an address that are looked at for renames; addresses with more tell nothing clear. */
const MOST_WORDS = 8;

export class Branches {
  /** From an old folder to the new folders its pages went to. */
  readonly #moves = new Map<string, Map<string, number>>();
  readonly #moved = new Map<string, number>();
  readonly #renames = new Map<number, Map<number, number>>();
  readonly #seen = new Map<number, number>();
  readonly #kept = new Map<number, number>();
  readonly #added = new Map<number, number>();
  readonly #newSeen = new Map<number, number>();
  readonly #rarities: Rarities;
  /** How many pages stayed below the first folder they were in. */
  #topKept = 1;
  #topSeen = 2;
  #numbersKept = 1;
  #numbersSeen = 2;
  #namesKept = 1;
  #namesSeen = 2;

  constructor(pairs: Iterable<Pair>, rarities: Rarities) {
    this.#rarities = rarities;
    for (const pair of pairs) this.#learn(pair);
  }

  #learn({ old, page, weight }: Pair): void {
    for (const [from, to] of pairFolders(old, page)) {
      add(findOrAddEntry(this.#moves, from), to, weight);
      add(this.#moved, from, weight);
    }
    if (old.folders.length > 0 && page.folders.length > 0) {
      this.#topSeen += weight;
      if (old.folders[0] === page.folders[0]) this.#topKept += weight;
    }
    const olds = old.pathWords.slice(0, MOST_WORDS);
    const news = page.pathWords.slice(0, MOST_WORDS);
    const onlyNew = news.filter((id) => !old.pathWords.includes(id));
    for (const id of olds) {
      add(this.#seen, id, weight);
      if (page.pathWords.includes(id)) add(this.#kept, id, weight);
      else for (const other of onlyNew) add(findOrAddEntry(this.#renames, id), other, weight);
    }
    for (const id of news) add(this.#newSeen, id, weight);
    for (const id of onlyNew) add(this.#added, id, weight);
    // Only where something else than the address speaks can it be told whether addresses are to be trusted.
    const isSameTitle = old.title !== '' && old.title === page.title;
    if (isSameTitle && old.numbers.length > 0) {
      this.#numbersSeen += weight;
      if (old.numbers.some((id) => page.numbers.includes(id))) this.#numbersKept += weight;
    }
    if (isSameTitle && old.last !== '') {
      this.#namesSeen += weight;
      if (old.last === page.last) this.#namesKept += weight;
    }
  }

  /** Folders that pages of this one went to, longest known beginning first, with the share that did. @param ownPair what this page itself taught, which is no evidence for it */
  predicted(
    old: Profile,
    ownPair: Pair | undefined,
  ): { readonly folders: readonly string[]; readonly share: number }[] {
    const out: { folders: readonly string[]; share: number }[] = [];
    const ownMoves = ownPair ? new Map(pairFolders(old, ownPair.page)) : undefined;
    for (let length = old.folders.length; length >= 0; length -= 1) {
      const from = old.folders.slice(0, length).join('/');
      const moves = this.#moves.get(from);
      if (!moves) continue;
      const ownTo = ownMoves?.get(from);
      const all = (this.#moved.get(from) ?? 0) - (ownTo === undefined ? 0 : (ownPair?.weight ?? 0));
      const rest = old.folders.slice(length);
      for (const [to, weight] of moves) {
        const others = weight - (ownTo === to ? (ownPair?.weight ?? 0) : 0);
        if (others < 0.3) continue;
        out.push({ folders: [...(to === '' ? [] : to.split('/')), ...rest], share: others / (all + 1) });
      }
    }
    return out.sort((a, b) => b.share - a.share).slice(0, 12);
  }

  /** Writes the evidence in the order of BRANCH_EVIDENCE. @param taken how much other old addresses claim the page */
  weigh(
    old: Profile,
    page: Profile,
    ownPair: Pair | undefined,
    predicted: readonly { readonly folders: readonly string[]; readonly share: number }[],
    taken: number,
    out: Float64Array,
    at: number,
  ): void {
    const folder = page.folders.join('/');
    let moved = 0;
    let elsewhere = 0;
    for (const { folders, share } of predicted) {
      if (folders.join('/') === folder) moved = Math.max(moved, share);
      else elsewhere = Math.max(elsewhere, share);
    }
    const isSameName = old.last === page.last;
    const name = reckonNameShare(old, page);
    const ownHere = ownPair?.page === page ? ownPair.weight : 0;
    const ownWeight = ownPair?.weight ?? 0;
    const explainedOld = this.#explained(old, page, ownHere, ownWeight);
    const explainedNew = this.#explainedNew(old, page, ownHere, ownWeight);
    const itself =
      this.#moves.get([...old.folders, old.last].join('/'))?.get([...page.folders, page.last].join('/')) ?? 0;
    const trust =
      old.folders.length > 0 && page.folders.length > 0
        ? (this.#topKept - (ownPair && ownPair.page.folders[0] === old.folders[0] ? ownWeight : 0)) /
          (this.#topSeen - ownWeight)
        : 0;
    const sameNumber = old.numbers.some((id) => page.numbers.includes(id)) ? 1 : 0;
    out.set(
      [
        moved,
        reckonSurely(moved),
        reckonSurely(Math.max(0, elsewhere - moved)),
        isSameName ? moved * name : 0,
        name * moved * Math.max(0, explainedOld * explainedNew),
        (name * itself) / ((this.#moved.get([...old.folders, old.last].join('/')) ?? 0) + 1),
        old.folders[0] === page.folders[0] ? trust : 0,
        old.folders[0] === page.folders[0] ? 0 : reckonSurely(trust),
        name * explainedOld,
        explainedNew,
        name * explainedOld * explainedNew,
        sameNumber * (this.#numbersKept / this.#numbersSeen),
        isSameName ? name * reckonSurely(this.#namesKept / this.#namesSeen) : 0,
        Math.min(1, taken),
        Math.max(0, Math.min(1, taken * 2 - 1)),
      ],
      at,
    );
  }

  /** The share of the old address that is found in the new one, where renamed words count as found and dropped ones less. */
  #explained(old: Profile, page: Profile, ownHere: number, ownAll: number): number {
    let all = 0;
    let found = 0;
    for (const id of old.pathWords) {
      const weight = this.#rarities.path.of(id);
      const seen = (this.#seen.get(id) ?? 0) - ownAll;
      all += weight;
      if (page.pathWords.includes(id)) {
        found += weight;
        continue;
      }
      const renames = this.#renames.get(id);
      let best = 0;
      if (renames)
        for (const other of page.pathWords) {
          const count = (renames.get(other) ?? 0) - ownHere;
          if (count > 0) best = Math.max(best, count / (seen + 1));
        }
      const lost = Math.max(0, seen - (this.#kept.get(id) ?? 0) - ownHere) / (Math.max(0, seen) + 1);
      found += weight * Math.max(best, 0.6 * lost);
    }
    return all > 0 ? Math.min(1, found / all) : 0;
  }

  #explainedNew(old: Profile, page: Profile, ownHere: number, ownAll: number): number {
    let all = 0;
    let found = 0;
    for (const id of page.pathWords) {
      const weight = this.#rarities.path.of(id);
      all += weight;
      if (old.pathWords.includes(id)) {
        found += weight;
        continue;
      }
      let best = 0;
      for (const from of old.pathWords) {
        const count = (this.#renames.get(from)?.get(id) ?? 0) - ownHere;
        if (count > 0) best = Math.max(best, count / ((this.#seen.get(from) ?? 0) - ownAll + 1));
      }
      const added =
        Math.max(0, (this.#added.get(id) ?? 0) - ownHere) / (Math.max(0, (this.#newSeen.get(id) ?? 0) - ownHere) + 1);
      found += weight * Math.max(best, 0.6 * added);
    }
    return all > 0 ? Math.min(1, found / all) : 0;
  }
}

/** From where to where a page moved: its whole folder, and its folder without what both ends share. */
function pairFolders(old: Profile, page: Profile): [from: string, to: string][] {
  let same = 0;
  while (
    same < old.folders.length &&
    same < page.folders.length &&
    old.folders.at(-1 - same) === page.folders.at(-1 - same)
  )
    same += 1;
  const whole: [string, string] = [old.folders.join('/'), page.folders.join('/')];
  if (same === 0) return [whole];
  return [
    whole,
    [
      old.folders.slice(0, old.folders.length - same).join('/'),
      page.folders.slice(0, page.folders.length - same).join('/'),
    ],
  ];
}

/** From 0 for never to 1 for as good as always; what speaks against it counts by its logarithm, as in Bayes' rule. */
function reckonSurely(share: number): number {
  return Math.min(1, -Math.log(Math.max(0.005, 1 - share)) / 5.3);
}

function add<K>(counts: Map<K, number>, key: K, weight: number): void {
  counts.set(key, (counts.get(key) ?? 0) + weight);
}

function findOrAddEntry<K, L>(maps: Map<K, Map<L, number>>, key: K): Map<L, number> {
  const known = maps.get(key);
  if (known) return known;
  const fresh = new Map<L, number>();
  maps.set(key, fresh);
  return fresh;
}
