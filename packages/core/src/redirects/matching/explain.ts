/** Why a page is suggested, in words a person can check against both pages. */
import type { OldPage } from './pages.ts';
import { splitAddressWords, decodePart, glueWords, isWord, splitSpelledWords, listTrigrams } from './words.ts';

export interface Explained {
  readonly kind: 'address' | 'title' | 'headings' | 'text';
  /** From 0 to 1: how much of what both have there is the same. */
  readonly strength: number;
  /** What both have, as the old page writes it and in its order. */
  readonly words: readonly string[];
}

/** Words as they are compared, by which they are written. */
type Terms = ReadonlyMap<string, string>;

/** Enough to judge by; more is not read. */
const MOST_WORDS = 12;
/** Shorter ones stand in every text. */
const TELLING_LETTERS = 5;

/** Only kinds that both pages can be compared by. @param old its title without what all old titles share @param page likewise */
export function explain(old: OldPage, page: OldPage): Explained[] {
  const [from, to] = [splitAddressWords(old.address), splitAddressWords(page.address)];
  const [oldAddress, newAddress] = [listTermsOfAddress(old.address), listTermsOfAddress(page.address)];
  const [oldTitle, newTitle] = [listTerms(old.title), listTerms(page.title)];
  // An old address's words often stand in the new title where the new address says it otherwise.
  const there = new Map([...newAddress, ...[...newTitle].filter(([word]) => oldAddress.has(word))]);
  const bothFront = [from, to].every(
    ({ last, folders, ids }) => last === '' && folders.length === 0 && ids.length === 0,
  );
  const out: Explained[] = [
    { kind: 'address', ...findOverlap(oldAddress, there, bothFront ? 1 : reckonAlike(from.last, to.last)) },
  ];
  if (oldTitle.size > 0 && newTitle.size > 0)
    out.push({
      kind: 'title',
      ...findOverlap(oldTitle, newTitle, reckonAlike(glueWords(old.title ?? ''), glueWords(page.title ?? ''))),
    });
  const [oldHeadings, newHeadings] = [
    listTerms((old.headings ?? []).join(' ')),
    listTerms((page.headings ?? []).join(' ')),
  ];
  if (oldHeadings.size > 0 && newHeadings.size > 0)
    out.push({ kind: 'headings', ...findOverlap(oldHeadings, newHeadings, 0) });
  const [oldText, newText] = [listTerms(old.text, TELLING_LETTERS), listTerms(page.text, TELLING_LETTERS)];
  if (oldText.size > 0 && newText.size > 0) out.push({ kind: 'text', ...findOverlap(oldText, newText, 0) });
  return out;
}

/** Dice (1945): what either has alone counts against it. */
function findOverlap(old: Terms, page: Terms, atLeast: number): { strength: number; words: string[] } {
  const both = [...old].filter(([word]) => page.has(word)).map(([, spelled]) => spelled);
  return {
    strength: Math.max(atLeast, old.size + page.size === 0 ? 0 : (2 * both.length) / (old.size + page.size)),
    words: both.slice(0, MOST_WORDS),
  };
}

function listTerms(text: string | undefined, letters = 1): Terms {
  return new Map(
    splitSpelledWords(text ?? '')
      .filter(({ word, spelled }) => spelled.length >= letters && isWord(word))
      .map(({ word, spelled }) => [word, spelled]),
  );
}

/** Without endings such as `.php`, which say nothing of the page. */
function listTermsOfAddress(address: string): Terms {
  const { folderWords, lastWords } = splitAddressWords(address);
  const said = new Set([...folderWords, ...lastWords]);
  return new Map([...listTerms(decodePart(address.replace(/[?&=]/g, ' ')))].filter(([word]) => said.has(word)));
}

function reckonAlike(a: string, b: string): number {
  if (!/\p{L}{2}/u.test(a)) return 0;
  const [x, y] = [new Set(listTrigrams(a)), new Set(listTrigrams(b))];
  const both = [...x].filter((each) => y.has(each)).length;
  return x.size + y.size === 0 ? 0 : (2 * both) / (x.size + y.size);
}
