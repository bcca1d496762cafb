/** A page as it is compared: sets of words of each part of it. */
import type { OldPage } from './pages.ts';
import { Rarity, type Vocabulary } from './vocabulary.ts';
import { splitAddressWords, glueWords, isNumber, isWord, listTrigrams, splitWords } from './words.ts';

/** The words of a text that tell most about it; more hardly change what is found. */
const TELLING_WORDS = 64;
/** Words of a text that are looked at; old texts are often only a beginning. */
const TEXT_LETTERS = 6000;

export interface Profile {
  readonly folders: readonly string[];
  readonly last: string;
  readonly lastWords: Int32Array;
  readonly pathWords: Int32Array;
  readonly lastTrigrams: Int32Array;
  readonly numbers: Int32Array;
  /** Numbers of its name and its query. */
  readonly ids: Int32Array;
  /** How many old addresses differ from this one in these numbers only, itself among them; 1 where it has none. */
  readonly crowd: number;
  readonly title: string;
  readonly titleWords: Int32Array;
  readonly titleTrigrams: Int32Array;
  /** All words of the text, title and headings included. */
  readonly textWords: Int32Array;
  readonly language: string | undefined;
}

export function createProfile(page: OldPage, title: string, vocabulary: Vocabulary, crowd = 1): Profile {
  const address = splitAddressWords(page.address);
  const titleWords = splitWords(title);
  const headings = (page.headings ?? []).flatMap(splitWords);
  const text = splitWords((page.text ?? '').slice(0, TEXT_LETTERS));
  const name = glueWords(title);
  return {
    folders: address.folders,
    last: address.last,
    lastWords: vocabulary.setOf(address.lastWords),
    pathWords: vocabulary.setOf([...address.lastWords, ...address.folderWords]),
    lastTrigrams: vocabulary.setOf(listTrigrams(address.last)),
    numbers: vocabulary.setOf([...address.numbers, ...titleWords.filter(isNumber)]),
    ids: vocabulary.setOf(address.ids),
    crowd,
    title: name,
    titleWords: vocabulary.setOf(titleWords),
    titleTrigrams: vocabulary.setOf(listTrigrams(name)),
    textWords: vocabulary.setOf([...titleWords, ...headings, ...text].filter(isWord)),
    language: page.language?.split('-')[0]?.toLowerCase(),
  };
}

/** How much a word tells, by part of a page. */
export interface Rarities {
  readonly last: Rarity;
  readonly path: Rarity;
  readonly trigram: Rarity;
  readonly number: Rarity;
  readonly title: Rarity;
  readonly text: Rarity;
}

export function countRarities(profiles: readonly Profile[], words: number): Rarities {
  const rarityOf = (part: (profile: Profile) => Int32Array) => new Rarity(profiles.map(part), words);
  return {
    last: rarityOf(({ lastWords }) => lastWords),
    path: rarityOf(({ pathWords }) => pathWords),
    trigram: rarityOf(({ lastTrigrams }) => lastTrigrams),
    number: rarityOf(({ numbers }) => numbers),
    title: rarityOf(({ titleWords }) => titleWords),
    text: rarityOf(({ textWords }) => textWords),
  };
}

/** A text's most telling words, by what is rare on the new site but said there. */
export function filterTelling(words: Int32Array, rarity: Rarity): Int32Array {
  const known = words.filter((id) => rarity.pagesWith(id) > 0);
  if (known.length <= TELLING_WORDS) return known;
  return Int32Array.from(
    [...known].sort((a, b) => rarity.of(b) - rarity.of(a) || a - b).slice(0, TELLING_WORDS),
  ).sort();
}
