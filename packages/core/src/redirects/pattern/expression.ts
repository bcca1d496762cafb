/**
 * Regular expressions as trees, and the part of ECMAScript's syntax that a pattern may hold: what can be
 * matched in a time that grows with pattern times text, whatever both are. Looking ahead or behind, referring
 * back and asserting an end cannot, and are refused.
 * Source: ECMA-262, section 22.2.1 (Patterns).
 */
import { PatternError } from './parts.ts';

export type Expression =
  | { readonly kind: 'set'; readonly has: (code: number) => boolean }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'sequence'; readonly of: readonly Expression[] }
  | { readonly kind: 'choice'; readonly of: readonly Expression[] }
  | {
      readonly kind: 'repeat';
      readonly of: Expression;
      readonly min: number;
      readonly max: number;
      readonly greedy: boolean;
    }
  /** Remembers what it matched, under a number from 0. */
  | { readonly kind: 'capture'; readonly of: Expression; readonly number: number };

const isDigit = (code: number) => code >= 48 && code <= 57;
const isWord = (code: number) =>
  isDigit(code) || (code >= 65 && code <= 90) || (code >= 97 && code <= 122) || code === 95;
const isSpace = (code: number) => code === 32 || (code >= 9 && code <= 13) || code === 0xa0 || code === 0xfeff;
/** ECMA-262, section 12.3: the dot does not match these. */
const isLineEnd = (code: number) => code === 10 || code === 13 || code === 0x2028 || code === 0x2029;
export const ANY: Expression = { kind: 'set', has: (code) => !isLineEnd(code) };
const MOST_REPEATS = 1000;

/** @param at where the source begins in the pattern, for messages. Throws a PatternError. */
export function readExpression(source: string, at: number): Expression {
  let position = 0;
  const fail = (message: string): never => {
    throw new PatternError(message, at + position);
  };
  const peek = () => source[position];

  function choice(): Expression {
    const options = [sequence()];
    while (peek() === '|') {
      position += 1;
      options.push(sequence());
    }
    return options.length === 1 && options[0] ? options[0] : { kind: 'choice', of: options };
  }

  function sequence(): Expression {
    const of: Expression[] = [];
    for (let next = peek(); next !== undefined && next !== '|' && next !== ')'; next = peek())
      of.push(repeated(atom()));
    return { kind: 'sequence', of };
  }

  function repeated(of: Expression): Expression {
    const bounds = quantifier();
    if (!bounds) return of;
    const greedy = peek() !== '?';
    if (!greedy) position += 1;
    if (quantifier()) fail('two repetitions behind each other say nothing');
    return { kind: 'repeat', of, ...bounds, greedy };
  }

  function quantifier(): { min: number; max: number } | undefined {
    const sign = peek();
    if (sign === '*' || sign === '+' || sign === '?') {
      position += 1;
      return { min: sign === '+' ? 1 : 0, max: sign === '?' ? 1 : Infinity };
    }
    const counted = /^\{(\d{1,4})(,(\d{0,4}))?\}/.exec(source.slice(position));
    if (!counted) return undefined;
    const min = Number(counted[1]);
    const max = counted[2] === undefined ? min : counted[3] === '' ? Infinity : Number(counted[3]);
    if (max < min) fail('the larger number of a repetition stands second');
    if (min > MOST_REPEATS || (max !== Infinity && max > MOST_REPEATS))
      fail(`nothing can be repeated more than ${MOST_REPEATS} times`);
    position += counted[0].length;
    return { min, max };
  }

  function atom(): Expression {
    const letter = source[position] ?? '';
    if (letter === '(') {
      if (source.slice(position, position + 3) !== '(?:')
        fail('looking ahead or behind is not possible here; a group begins with (?:');
      position += 3;
      const inside = choice();
      if (peek() !== ')') fail('this group is never closed');
      position += 1;
      return inside;
    }
    if (letter === '[') return set();
    if (letter === '^' || letter === '$')
      fail('a pattern always matches from its beginning to its end; ^ and $ have no place in it');
    if (letter === '*' || letter === '+' || letter === '?' || letter === '{' || letter === '}' || letter === ']')
      fail(`“${letter}” cannot stand here; write \\${letter} for the letter itself`);
    position += 1;
    if (letter === '.') return ANY;
    if (letter !== '\\') return { kind: 'text', text: letter };
    const has = escapedSet();
    return has ? { kind: 'set', has } : { kind: 'text', text: escapedLetter() };
  }

  function escapedSet(): ((code: number) => boolean) | undefined {
    const sets: Readonly<Record<string, (code: number) => boolean>> = {
      d: isDigit,
      w: isWord,
      s: isSpace,
      D: (c) => !isDigit(c),
      W: (c) => !isWord(c),
      S: (c) => !isSpace(c),
    };
    const has = sets[source[position] ?? ''];
    if (has) position += 1;
    return has;
  }

  /** Behind the backslash. */
  function escapedLetter(): string {
    const letter = source[position] ?? '';
    if (letter === '') fail('a backslash at the end stands for nothing');
    position += 1;
    if (/[a-zA-Z0-9]/.test(letter)) {
      position -= 1;
      fail(/\d/.test(letter) ? 'referring back to a group is not possible here' : `\\${letter} is not known here`);
    }
    return letter;
  }

  function set(): Expression {
    position += 1;
    const isNot = peek() === '^';
    if (isNot) position += 1;
    const ranges: [number, number][] = [];
    const sets: ((code: number) => boolean)[] = [];
    while (peek() !== ']') {
      if (peek() === undefined) fail('this bracket is never closed');
      const from = member();
      if (typeof from === 'function') {
        sets.push(from);
        continue;
      }
      if (peek() !== '-' || source[position + 1] === ']' || source[position + 1] === undefined) {
        ranges.push([from, from]);
        continue;
      }
      position += 1;
      const to = member();
      if (typeof to === 'function') fail('a range goes from letter to letter');
      else if (to < from) fail('the range runs backwards');
      else ranges.push([from, to]);
    }
    position += 1;
    const has = (code: number) =>
      ranges.some(([from, to]) => code >= from && code <= to) || sets.some((each) => each(code));
    return { kind: 'set', has: isNot ? (code) => !has(code) : has };
  }

  function member(): number | ((code: number) => boolean) {
    const letter = source[position] ?? '';
    position += 1;
    if (letter !== '\\') return letter.charCodeAt(0);
    return escapedSet() ?? (source[position] === '-' ? (position++, 45) : escapedLetter().charCodeAt(0));
  }

  const whole = choice();
  if (position < source.length) fail('there is a parenthesis too many');
  return whole;
}
