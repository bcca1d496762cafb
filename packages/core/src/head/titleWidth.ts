/**
 * How wide a title is shown in a result line, and where it would be cut. Letters have the widths of Arimo
 * Regular, an open font as wide as those result pages are set in; 600 px at 20 px is common practice.
 */
import font from './titleFont.json' with { type: 'json' };

interface Font {
  readonly unitsPerEm: number;
  readonly letters: Readonly<Record<string, string>>;
  readonly pairs: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

const { unitsPerEm, letters, pairs }: Font = font;
const advances = new Map<string, number>();
for (const [width, all] of Object.entries(letters)) for (const letter of all) advances.set(letter, Number(width));
const kerning = new Map<string, number>();
for (const [first, row] of Object.entries(pairs))
  for (const [kern, all] of Object.entries(row)) for (const second of all) kerning.set(first + second, Number(kern));

export const COMMON_LIMITS = { titlePx: 600, descriptionLetters: 155, fontPx: 20 } as const;

/** Letters of other scripts come from other fonts: a square for wide ones, the width of an "n" for the rest. */
const GUESS_WIDE = unitsPerEm;
const GUESS = 1139;
const WIDE =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}\p{Extended_Pictographic}\u3000-\u303f\uff00-\uff60]/u;

/** The scripts whose letters are measured; what belongs to none of its own (spaces, figures, marks) is of the run it stands in. */
const SCRIPTS = [/\p{Script=Latin}/u, /\p{Script=Cyrillic}/u, /\p{Script=Greek}/u] as const;
const OF_ANY = /[\p{Script=Common}\p{Script=Inherited}]/u;

/**
 * In CSS pixels; white space as a browser folds it. Letters are shaped in runs of one script (Unicode Standard Annex
 * 24, section 5.1), so the space between two scripts is kerned with the letter before it and not with the one behind.
 */
export function measureTitlePx(text: string, fontPx: number = COMMON_LIMITS.fontPx): number {
  let units = 0;
  let before = '';
  let run: number | undefined;
  for (const letter of text.replace(/[\t\n\f\r ]+/g, ' ').trim()) {
    const script = OF_ANY.test(letter) ? run : SCRIPTS.findIndex((each) => each.test(letter));
    // What stands before the first letter of any script is of that letter's run.
    const isSameRun = run === undefined || script === run;
    units += (advances.get(letter) ?? guess(letter)) + (isSameRun ? (kerning.get(before + letter) ?? 0) : 0);
    before = letter;
    run = script;
  }
  return (units * fontPx) / unitsPerEm;
}

/** Whether every letter's width is known rather than guessed. */
export function isMeasured(text: string): boolean {
  for (const letter of text.replace(/[\t\n\f\r]/g, ' ')) if (!advances.has(letter)) return false;
  return true;
}

function guess(letter: string): number {
  if (/\p{M}|\p{Cf}/u.test(letter)) return 0;
  return WIDE.test(letter) ? GUESS_WIDE : GUESS;
}

/** What is shown of a title: the whole of it, or whole words as far as they fit with an ellipsis. */
export function cutTitle(
  text: string,
  limitPx: number = COMMON_LIMITS.titlePx,
  fontPx: number = COMMON_LIMITS.fontPx,
): string {
  const folded = text.replace(/[\t\n\f\r ]+/g, ' ').trim();
  if (measureTitlePx(folded, fontPx) <= limitPx) return folded;
  const words = folded.split(' ');
  let shown = '';
  for (const word of words) {
    const next = shown === '' ? word : `${shown} ${word}`;
    if (measureTitlePx(`${next} …`, fontPx) > limitPx) break;
    shown = next;
  }
  // A single word that is wider than the line is cut between its letters.
  if (shown !== '') return `${shown} …`;
  for (const letter of words[0] ?? '') {
    if (measureTitlePx(`${shown}${letter}…`, fontPx) > limitPx) break;
    shown += letter;
  }
  return `${shown}…`;
}

/** The same for a description, by its letters as people count them. */
export function cutDescription(text: string, limitLetters: number = COMMON_LIMITS.descriptionLetters): string {
  const folded = text.replace(/[\t\n\f\r ]+/g, ' ').trim();
  if (countLetters(folded) <= limitLetters) return folded;
  const start = [...folded].slice(0, limitLetters - 1).join('');
  const space = start.lastIndexOf(' ');
  return `${(space > limitLetters / 2 ? start.slice(0, space) : start).replace(/[\s,;:.–—-]+$/, '')} …`;
}

/** Code points: closer to what people count than units of UTF-16. */
export function countLetters(text: string): number {
  return [...text].length;
}
