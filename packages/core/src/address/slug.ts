/** Addresses made from titles. */

const LETTERS_WITHOUT_MARKS: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ł: 'l',
  ı: 'i',
};

/**
 * A title as a path segment: `Croeso i'r Rhos!` becomes `croeso-ir-rhos`. The marks on
 * Latin letters are dropped by Unicode decomposition (UAX 15); other scripts stay, since addresses can carry them.
 */
export function makeSlug(title: string): string {
  return title
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]+/g, '')
    .replace(/[ßæœøđðþłı]/g, (letter) => LETTERS_WITHOUT_MARKS[letter] ?? letter)
    .replace(/['’]/g, '')
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60)
    .replace(/-+$/, '');
}

/** The first of `/name/`, `/name-2/`, `/name-3/` … that is free. */
export function findFreeAddress(name: string, isTaken: (address: string) => boolean): string {
  const base = name === '' ? 'page' : name;
  for (let n = 1; ; n += 1) {
    const address = n === 1 ? `/${base}/` : `/${base}-${n}/`;
    if (!isTaken(address)) return address;
  }
}
