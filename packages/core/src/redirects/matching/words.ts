/** Words of addresses and texts, so that `/news/MercuryTransit.aspx` and "Transits of Mercury" have some in common. */

/** What a server or a program adds to an address and says nothing about its page (common practice, no source). */
const ENDING = /\.(?:[sx]?html?|php\d?|aspx?|jspx?|cfm|cgi|pl|do|md|rst|txt)$/i;
const INDEX = /^(?:index|default|welcome|home)$/i;
const NUMBER = /^\p{N}+$/u;
const WORD = /\p{Lu}+(?!\p{Ll})|\p{Lu}?[\p{Ll}\p{Lo}\p{Lm}\p{M}]+|\p{Lu}+|\p{N}+/gu;

export interface AddressWords {
  /** Decoded path segments without the file, as they are compared: lower case, letters and digits alone. */
  readonly folders: readonly string[];
  /** Words of the folders. */
  readonly folderWords: readonly string[];
  /** Words of the last segment and of the query's values. */
  readonly lastWords: readonly string[];
  /** The last segment's letters and digits in one, so that `dome_hire` and `DomeHire` are the same; empty for a folder's index. */
  readonly last: string;
  /** Numbers of its name and its query: one address a number is one page a number. */
  readonly ids: readonly string[];
  /** Ids, years and days: leading zeros are kept, since `007` and `7` are two ids. */
  readonly numbers: readonly string[];
}

/** Reads an address leniently: what cannot be decoded is read as it stands. */
export function splitAddressWords(address: string): AddressWords {
  const [whole = '', query = ''] = splitOnce(address.replace(/#.*$/s, ''), '?');
  const segments = whole
    .split('/')
    .filter((segment) => segment !== '')
    .map(decodePart);
  const isFolder = whole.endsWith('/');
  const file = isFolder ? undefined : segments.pop();
  const bare = file?.replace(ENDING, '') ?? '';
  const isIndex = bare === '' || INDEX.test(bare);
  const values = [...query.split('&')]
    .map((pair) => decodePart(splitOnce(pair, '=')[1] ?? ''))
    .filter((value) => value !== '');
  // A folder's own address is named by its last folder.
  const name = isIndex ? (segments.pop() ?? '') : bare;
  const ownWords = [name, ...values].flatMap(splitWords);
  const inFolders = segments.flatMap(splitWords);
  return {
    folders: segments.map(glueWords),
    folderWords: inFolders.filter(isWord),
    lastWords: ownWords.filter(isWord),
    // A running number beside a name is an id, not a part of the name.
    last: [name, ...values.filter((value) => !NUMBER.test(value) || name === '')].map(glueWords).join(''),
    ids: ownWords.filter((word) => NUMBER.test(word)),
    numbers: [...new Set([...ownWords, ...inFolders].filter((word) => NUMBER.test(word)))],
  };
}

/** Words of a title or a text, in their order: lower case, no marks, no common ending. */
export function splitWords(text: string): string[] {
  return (text.normalize('NFKC').match(WORD) ?? []).map((word) => stemWord(foldWord(word)));
}

/** The same with each word as it is written, for people to read. */
export function splitSpelledWords(text: string): { readonly word: string; readonly spelled: string }[] {
  return (text.normalize('NFKC').match(WORD) ?? []).map((spelled) => ({
    word: stemWord(foldWord(spelled)),
    spelled: spelled.toLowerCase(),
  }));
}

export function isWord(word: string): boolean {
  return !NUMBER.test(word) && (word.length > 1 || /[^\p{Script=Latin}]/u.test(word));
}

export function isNumber(word: string): boolean {
  return NUMBER.test(word);
}

/** Compared without letter case and marks, as people remember names (UAX 15, decomposition). */
export function foldWord(text: string): string {
  return text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .normalize('NFC');
}

/** Letters and digits in one, so that `dome_hire`, `dome-hire` and `DomeHire` are the same. */
export function glueWords(text: string): string {
  return foldWord(text).replace(/[^\p{L}\p{N}]+/gu, '');
}

/** The commonest endings of English and of many plurals elsewhere; one rule keeps both sides alike, right or wrong. */
function stemWord(word: string): string {
  if (word.length > 6 && word.endsWith('ing')) return word.slice(0, -3);
  return word.length > 3 && word.endsWith('s') && !word.endsWith('ss') ? word.slice(0, -1) : word;
}

/** Runs of three letters with the edges marked, for names that are spelled a little differently. */
export function listTrigrams(text: string): string[] {
  if (text === '') return [];
  const edged = `^${text}$`;
  const out = new Set<string>();
  for (let at = 0; at + 3 <= edged.length; at += 1) out.add(edged.slice(at, at + 3));
  return [...out];
}

function splitOnce(text: string, by: string): [string, string | undefined] {
  const at = text.indexOf(by);
  return at < 0 ? [text, undefined] : [text.slice(0, at), text.slice(at + by.length)];
}

/** As far as it can be: what is no percent-encoding stays. */
export function decodePart(part: string): string {
  try {
    return decodeURIComponent(part.replace(/\+/g, ' '));
  } catch {
    return part;
  }
}
