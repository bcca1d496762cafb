/**
 * Regular expressions as trees, and the part of ECMAScript's syntax that a pattern may hold: what can be
 * matched in a time that grows with pattern times text, whatever both are. Looking ahead or behind, referring
 * back and asserting an end cannot, and are refused.
 * Source: ECMA-262, section 22.2.1 (Patterns).
 */
import { patternFault, type PatternMessage } from '../messages.ts';
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
/** ECMA-262, section 12.2: spaces of every script, and ends of lines. */
const isSpace = (code: number) => /\s/.test(String.fromCharCode(code));
/** ECMA-262, section 12.3: the dot does not match these. */
const isLineEnd = (code: number) => code === 10 || code === 13 || code === 0x2028 || code === 0x2029;
export const ANY: Expression = { kind: 'set', has: (code) => !isLineEnd(code) };
const MOST_REPEATS = 1000;

type Has = (code: number) => boolean;

/** Behind a backslash, the letters that stand for many. */
const ESCAPED_SETS: Readonly<Record<string, Has>> = {
  d: isDigit,
  w: isWord,
  s: isSpace,
  D: (code) => !isDigit(code),
  W: (code) => !isWord(code),
  S: (code) => !isSpace(code),
};

/** @param at where the source begins in the pattern, for messages. Throws a PatternError. */
export function readExpression(source: string, at: number): Expression {
  return new ExpressionReader(source, at).read();
}

/** Reads from left to right, one method for each production of the grammar. */
class ExpressionReader {
  readonly #source: string;
  readonly #at: number;
  #position = 0;

  constructor(source: string, at: number) {
    this.#source = source;
    this.#at = at;
  }

  read(): Expression {
    const whole = this.#choice();
    if (this.#position < this.#source.length) this.#fail(patternFault('parenthesis-many'));
    return whole;
  }

  #fail(fault: PatternMessage): never {
    throw new PatternError(fault, this.#at + this.#position);
  }

  #peek(): string | undefined {
    return this.#source[this.#position];
  }

  #choice(): Expression {
    const options = [this.#sequence()];
    while (this.#peek() === '|') {
      this.#position += 1;
      options.push(this.#sequence());
    }
    return options.length === 1 && options[0] ? options[0] : { kind: 'choice', of: options };
  }

  #sequence(): Expression {
    const parts: Expression[] = [];
    for (let next = this.#peek(); next !== undefined && next !== '|' && next !== ')'; next = this.#peek())
      parts.push(this.#repeated(this.#atom()));
    return { kind: 'sequence', of: parts };
  }

  #repeated(repeated: Expression): Expression {
    const bounds = this.#quantifier();
    if (!bounds) return repeated;
    const greedy = this.#peek() !== '?';
    if (!greedy) this.#position += 1;
    if (this.#quantifier()) this.#fail(patternFault('repeats-twice'));
    return { kind: 'repeat', of: repeated, ...bounds, greedy };
  }

  #quantifier(): { min: number; max: number } | undefined {
    const sign = this.#peek();
    if (sign === '*' || sign === '+' || sign === '?') {
      this.#position += 1;
      return { min: sign === '+' ? 1 : 0, max: sign === '?' ? 1 : Infinity };
    }
    const counted = /^\{(\d{1,4})(,(\d{0,4}))?\}/.exec(this.#source.slice(this.#position));
    if (!counted) return undefined;
    const min = Number(counted[1]);
    const max = counted[2] === undefined ? min : counted[3] === '' ? Infinity : Number(counted[3]);
    if (max < min) this.#fail(patternFault('repeats-backwards'));
    if (min > MOST_REPEATS || (max !== Infinity && max > MOST_REPEATS))
      this.#fail(patternFault('repeats-many', { most: MOST_REPEATS }));
    this.#position += counted[0].length;
    return { min, max };
  }

  #atom(): Expression {
    const letter = this.#source[this.#position] ?? '';
    if (letter === '(') {
      if (this.#source.slice(this.#position, this.#position + 3) !== '(?:') this.#fail(patternFault('looks-around'));
      this.#position += 3;
      const inside = this.#choice();
      if (this.#peek() !== ')') this.#fail(patternFault('group-open'));
      this.#position += 1;
      return inside;
    }
    if (letter === '[') return this.#set();
    if (letter === '^' || letter === '$') this.#fail(patternFault('ends-asserted'));
    if (letter === '*' || letter === '+' || letter === '?' || letter === '{' || letter === '}' || letter === ']')
      this.#fail(patternFault('letter-not-here', { letter }));
    this.#position += 1;
    if (letter === '.') return ANY;
    if (letter !== '\\') return { kind: 'text', text: letter };
    const has = this.#escapedSet();
    return has ? { kind: 'set', has } : { kind: 'text', text: this.#escapedLetter() };
  }

  #escapedSet(): Has | undefined {
    const has = ESCAPED_SETS[this.#source[this.#position] ?? ''];
    if (has) this.#position += 1;
    return has;
  }

  /** Behind the backslash. */
  #escapedLetter(): string {
    const letter = this.#source[this.#position] ?? '';
    if (letter === '') this.#fail(patternFault('backslash-at-end'));
    this.#position += 1;
    if (/[a-zA-Z0-9]/.test(letter)) {
      this.#position -= 1;
      this.#fail(/\d/.test(letter) ? patternFault('refers-back') : patternFault('escape-unknown', { letter }));
    }
    return letter;
  }

  #set(): Expression {
    this.#position += 1;
    const isNot = this.#peek() === '^';
    if (isNot) this.#position += 1;
    const ranges: [number, number][] = [];
    const sets: Has[] = [];
    while (this.#peek() !== ']') {
      if (this.#peek() === undefined) this.#fail(patternFault('bracket-open'));
      const from = this.#member();
      if (typeof from === 'function') {
        sets.push(from);
        continue;
      }
      if (
        this.#peek() !== '-' ||
        this.#source[this.#position + 1] === ']' ||
        this.#source[this.#position + 1] === undefined
      ) {
        ranges.push([from, from]);
        continue;
      }
      this.#position += 1;
      const to = this.#member();
      if (typeof to === 'function') this.#fail(patternFault('range-of-sets'));
      else if (to < from) this.#fail(patternFault('range-backwards'));
      else ranges.push([from, to]);
    }
    this.#position += 1;
    const has = (code: number) =>
      ranges.some(([from, to]) => code >= from && code <= to) || sets.some((each) => each(code));
    return { kind: 'set', has: isNot ? (code) => !has(code) : has };
  }

  #member(): number | Has {
    const letter = this.#source[this.#position] ?? '';
    this.#position += 1;
    if (letter !== '\\') return letter.charCodeAt(0);
    return (
      this.#escapedSet() ??
      (this.#source[this.#position] === '-' ? (this.#position++, 45) : this.#escapedLetter().charCodeAt(0))
    );
  }
}
