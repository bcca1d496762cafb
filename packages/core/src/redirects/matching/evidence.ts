/** What speaks for one new page as the counterpart of one old address, in numbers from 0 to 1. */
import { filterTelling, type Profile, type Rarities } from './profile.ts';
import { computeDice, reckonShared, type Rarity } from './vocabulary.ts';

/**
 * The names, in the order of the numbers. "Old" is the share of the old side's words that the new one
 * has, weighted by rarity; "New" the other way round; "Strength" how much what is shared tells at all.
 */
export const EVIDENCE = [
  'addressEqual',
  'lastEqual',
  'lastOld',
  'lastNew',
  'lastBoth',
  'lastLetters',
  'lastBegins',
  'pathOld',
  'pathNew',
  'pathBoth',
  'pathStrength',
  'lastInPath',
  'folderOld',
  'folderNew',
  'idLost',
  'idLostInCrowd',
  'lastInTitle',
  'titleInPath',
  'lastInTitleBoth',
  'lastInText',
  'titleEqual',
  'titleOld',
  'titleNew',
  'titleBoth',
  'titleLetters',
  'titleStrength',
  'titleInLast',
  'titleInText',
  'textOld',
  'textAlike',
  'textAlikeSquared',
  'textStrength',
  'titleAndText',
  'numberSame',
  'numberOther',
  'languageSame',
  'languageOther',
  'isFront',
  'bothFront',
] as const;
/** As far as here, an address alone speaks; these count apart where more is known of the old page. */
export const ADDRESS_EVIDENCE = EVIDENCE.indexOf('lastInText') + 1;

/** A word no new page has counts this share of the rarest: it may have been renamed everywhere. */
const UNKNOWN_WORD = 0.5;

/** What is reckoned once for each side. */
export interface Sums {
  readonly last: number;
  readonly path: number;
  readonly folder: Int32Array;
  readonly folderSum: number;
  readonly lastByTitle: number;
  readonly lastByText: number;
  readonly title: number;
  readonly titleByLast: number;
  readonly titleByText: number;
  readonly number: number;
  readonly telling: Int32Array;
  readonly text: number;
}

export function sumRarities(profile: Profile, rarities: Rarities): Sums {
  const words = filterTelling(profile.textWords, rarities.text);
  const last = new Set(profile.lastWords);
  const folder = profile.pathWords.filter((id) => !last.has(id));
  return {
    last: sumRarity(profile.lastWords, rarities.last),
    path: sumRarity(profile.pathWords, rarities.path),
    folder,
    folderSum: sumRarity(folder, rarities.path),
    lastByTitle: sumRarity(profile.lastWords, rarities.title),
    lastByText: sumRarity(profile.lastWords, rarities.text),
    title: sumRarity(profile.titleWords, rarities.title),
    titleByLast: sumRarity(profile.titleWords, rarities.last),
    titleByText: sumRarity(profile.titleWords, rarities.text),
    number: sumRarity(profile.numbers, rarities.number),
    telling: words,
    text: rarities.text.sum(words),
  };
}

/** Writes the evidence for a pair into `out` from `at` on. */
export function weigh(
  old: Profile,
  ofOld: Sums,
  page: Profile,
  ofNew: Sums,
  rarities: Rarities,
  out: Float64Array,
  at: number,
): void {
  const { last, path, title, text, number } = rarities;
  const lastShared = reckonShared(old.lastWords, page.lastWords, last);
  const pathShared = reckonShared(old.pathWords, page.pathWords, path);
  const folderShared = reckonShared(ofOld.folder, page.pathWords, path);
  const newFolderShared = reckonShared(old.pathWords, ofNew.folder, path);
  const inTitle = reckonShared(old.lastWords, page.titleWords, title);
  const titleByPath = reckonShared(old.pathWords, page.titleWords, title);
  const titleShared = reckonShared(old.titleWords, page.titleWords, title);
  const titleBoth = reckonPart(titleShared, ofOld.title) * reckonPart(titleShared, ofNew.title);
  const textShared = reckonShared(ofOld.telling, ofNew.telling, text);
  const textAlike = reckonPart(textShared, Math.sqrt(ofOld.text * ofNew.text));
  const sameNumbers = reckonShared(old.numbers, page.numbers, number);
  const bothNumbered = old.numbers.length > 0 && page.numbers.length > 0;
  const bothSpeak = old.language !== undefined && page.language !== undefined;
  // `/photo?n=12` is not the page `/photo/`, but one of many.
  const isSame = old.last === page.last && (old.ids.length === 0 || old.ids.some((id) => page.numbers.includes(id)));
  const share = reckonNameShare(old, page);
  const values = [
    isSame && old.folders.join('/') === page.folders.join('/') ? 1 : 0,
    isSame && isName(old.last) ? 1 : 0,
    reckonPart(lastShared, ofOld.last),
    reckonPart(lastShared, ofNew.last),
    share * reckonPart(lastShared, ofOld.last) * reckonPart(lastShared, ofNew.last),
    isName(old.last) ? share * computeDice(old.lastTrigrams, page.lastTrigrams) : 0,
    share * begins(old.last, page.last),
    reckonPart(pathShared, ofOld.path),
    reckonPart(pathShared, ofNew.path),
    share * reckonPart(pathShared, ofOld.path) * reckonPart(pathShared, ofNew.path),
    reckonStrength(pathShared, path.most),
    reckonPart(reckonShared(old.lastWords, page.pathWords, path), ofOld.last),
    reckonPart(folderShared, ofOld.folderSum),
    reckonPart(newFolderShared, ofNew.folderSum),
    isIdLost(old, page) ? 1 : 0,
    1 - share,
    reckonPart(inTitle, ofOld.lastByTitle),
    reckonPart(titleByPath, ofNew.title),
    share * reckonPart(inTitle, ofOld.lastByTitle) * reckonPart(titleByPath, ofNew.title),
    reckonPart(reckonShared(old.lastWords, page.textWords, text), ofOld.lastByText),
    old.title !== '' && old.title === page.title ? 1 : 0,
    reckonPart(titleShared, ofOld.title),
    reckonPart(titleShared, ofNew.title),
    titleBoth,
    computeDice(old.titleTrigrams, page.titleTrigrams),
    reckonStrength(titleShared, title.most),
    reckonPart(reckonShared(old.titleWords, page.lastWords, last), ofNew.last),
    reckonPart(reckonShared(old.titleWords, page.textWords, text), ofOld.titleByText),
    reckonPart(textShared, ofOld.text),
    textAlike,
    textAlike * textAlike,
    reckonStrength(textShared, text.most * 4),
    Math.max(titleBoth, textAlike) * Math.min(1, titleBoth + textAlike),
    reckonPart(sameNumbers, ofOld.number),
    bothNumbered && sameNumbers === 0 ? 1 : 0,
    bothSpeak && old.language === page.language ? 1 : 0,
    bothSpeak && old.language !== page.language ? 1 : 0,
    isFront(page) ? 1 : 0,
    isFront(page) && isFront(old) && old.ids.length === 0 ? 1 : 0,
  ];
  out.set(values, at);
}

/** The old address has a number that the new one lacks. */
function isIdLost(old: Profile, page: Profile): boolean {
  return old.ids.length > 0 && !old.ids.some((id) => page.numbers.includes(id));
}

/** How much of its name is the old address's own: of many that differ in their number only, it is that of the program that shows them. */
export function reckonNameShare(old: Profile, page: Profile): number {
  return isIdLost(old, page) ? 1 / old.crowd : 1;
}

/** The page a site opens with, which has no name of its own. */
function isFront({ last, folders }: Profile): boolean {
  return last === '' && folders.length === 0;
}

/** A name rather than a running number. */
function isName(last: string): boolean {
  return /\p{L}{2}/u.test(last);
}

/** How much of the longer name the shorter one is that it begins with: `arch` and `architecture`. */
function begins(a: string, b: string): number {
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  return short.length >= 3 && isName(short) && long.startsWith(short) ? 0.5 + (0.5 * short.length) / long.length : 0;
}

function reckonPart(some: number, all: number): number {
  return all > 0 ? Math.min(1, some / all) : 0;
}

/** Rises quickly at first: the second rare word adds less than the first. */
function reckonStrength(sharedRarity: number, most: number): number {
  return 1 - Math.exp(-sharedRarity / most);
}

function sumRarity(set: Int32Array, rarity: Rarity): number {
  let sum = 0;
  for (const id of set) sum += rarity.pagesWith(id) === 0 ? rarity.most * UNKNOWN_WORD : rarity.of(id);
  return sum;
}
