/** Both sides of a relaunch, read once, and the evidence for every pair worth comparing. */
import { createAffixRemover } from './affix.ts';
import { BRANCH_EVIDENCE, type Branches, type Pair } from './branches.ts';
import { CandidateFinder } from './candidates.ts';
import { EVIDENCE, sumRarities, weigh, type Sums } from './evidence.ts';
import { NONE_EVIDENCE } from './model.ts';
import type { NewPage, OldPage } from './pages.ts';
import { createProfile, countRarities, type Profile, type Rarities } from './profile.ts';
import { Vocabulary } from './vocabulary.ts';
import { splitAddressWords } from './words.ts';

/** An old address with the new pages worth comparing, and what speaks for each. */
export interface Compared {
  readonly profile: Profile;
  /** Index into KNOWLEDGE. */
  readonly knowledge: number;
  /** Indices of new pages. */
  readonly candidates: readonly number[];
  /** A row of EVIDENCE for each candidate. */
  readonly evidence: Float64Array;
  /** One row of NONE_EVIDENCE. */
  readonly none: Float64Array;
}

export class Matcher {
  readonly pages: readonly Profile[];
  readonly rarities: Rarities;
  readonly #vocabulary = new Vocabulary();
  readonly #sums: readonly Sums[];
  readonly #finder: CandidateFinder;
  readonly #cleanOld: (title: string) => string;
  /** How many old addresses there are of a name, whatever their numbers. */
  readonly #crowds = new Map<string, number>();

  constructor(pages: readonly NewPage[], olds: readonly OldPage[]) {
    for (const { address } of olds) {
      const name = findCrowd(address);
      if (name !== undefined) this.#crowds.set(name, (this.#crowds.get(name) ?? 0) + 1);
    }
    const clean = createAffixRemover(pages.map(({ title }) => title ?? ''));
    this.#cleanOld = createAffixRemover(olds.map(({ title }) => title ?? '').filter((title) => title !== ''));
    this.pages = pages.map((page) => createProfile(page, clean(page.title ?? ''), this.#vocabulary));
    this.rarities = countRarities(this.pages, this.#vocabulary.size);
    this.#sums = this.pages.map((page) => sumRarities(page, this.rarities));
    this.#finder = new CandidateFinder(this.pages, this.rarities);
  }

  profile(old: OldPage): Profile {
    return createProfile(
      old,
      this.#cleanOld(old.title ?? ''),
      this.#vocabulary,
      this.#crowds.get(findCrowd(old.address) ?? '') ?? 1,
    );
  }

  /** Pages of this one's name in folders that others of its folder went to. */
  moved(profile: Profile, to: readonly { readonly folders: readonly string[] }[]): number[] {
    return to.flatMap(({ folders }) => this.#finder.at(folders, profile.last) ?? []);
  }

  /** @param candidates indices of new pages; those that share what is rare, where none are given */
  compare(profile: Profile, candidates: readonly number[] = this.#finder.find(profile)): Compared {
    const knowledge = profile.textWords.length > profile.titleWords.length + 5 ? 2 : profile.title === '' ? 0 : 1;
    const evidence = new Float64Array(candidates.length * EVIDENCE.length);
    const sums = sumRarities(profile, this.rarities);
    candidates.forEach((page, at) => {
      const [there, ofThere] = [this.pages[page], this.#sums[page]];
      if (there && ofThere) weigh(profile, sums, there, ofThere, this.rarities, evidence, at * EVIDENCE.length);
    });
    return {
      profile,
      knowledge,
      candidates,
      evidence,
      none: this.#noneEvidence(profile, knowledge, candidates.length, evidence),
    };
  }

  #noneEvidence(profile: Profile, knowledge: number, count: number, evidence: Float64Array): Float64Array {
    const best = (name: (typeof EVIDENCE)[number]) => {
      const column = EVIDENCE.indexOf(name);
      let most = 0;
      for (let at = 0; at < count; at += 1) most = Math.max(most, evidence[at * EVIDENCE.length + column] ?? 0);
      return most;
    };
    const words = profile.pathWords;
    const unknown = words.filter(
      (id) => this.rarities.path.pagesWith(id) === 0 && this.rarities.title.pagesWith(id) === 0,
    ).length;
    return Float64Array.from([
      1,
      knowledge >= 1 && profile.title !== '' ? 1 : 0,
      knowledge === 2 ? 1 : 0,
      best('titleBoth'),
      best('textAlike'),
      Math.max(best('lastBoth'), best('lastEqual')),
      best('pathBoth'),
      words.length > 0 ? unknown / words.length : 0,
      0,
      0,
    ]);
  }

  /** A row of BRANCH_EVIDENCE for each candidate. @param claimed how many old addresses claim each page @param ownClaims this one's share of those */
  besides(
    { profile, candidates, none }: Pick<Compared, 'profile' | 'candidates' | 'none'>,
    branches: Branches,
    ownPair: Pair | undefined,
    claimed: Float64Array,
    ownClaims: ReadonlyMap<number, number>,
  ): Float64Array {
    const predicted = branches.predicted(profile, ownPair);
    const out = new Float64Array(candidates.length * BRANCH_EVIDENCE.length);
    let bestRenamed = 0;
    candidates.forEach((page, at) => {
      const there = this.pages[page];
      if (!there) return;
      const taken = (claimed[page] ?? 0) - (ownClaims.get(page) ?? 0);
      branches.weigh(profile, there, ownPair, predicted, taken, out, at * BRANCH_EVIDENCE.length);
      bestRenamed = Math.max(
        bestRenamed,
        out[at * BRANCH_EVIDENCE.length + BRANCH_EVIDENCE.indexOf('renamedBoth')] ?? 0,
      );
    });
    none[NONE_EVIDENCE.indexOf('bestRenamed')] = bestRenamed;
    return out;
  }
}

/** What an address with numbers is called without them; undefined where it has none. */
function findCrowd(address: string): string | undefined {
  const { folders, last, ids } = splitAddressWords(address);
  return ids.length === 0 ? undefined : [...folders, last.replace(/\d+/g, '')].join('/');
}
