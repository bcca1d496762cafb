/**
 * Patterns as they are written, taken apart.
 * Source: WHATWG URL Pattern standard, "Tokenizing" and "Parsing".
 */
import { patternFault, type PatternMessage } from '../messages.ts';

export type Modifier = '' | '?' | '*' | '+';

export type Part =
  | { readonly type: 'fixed'; readonly value: string; readonly modifier: Modifier }
  | {
      /** `:name` as far as the next delimiter, `*` as far as it goes, or an expression in parentheses. */
      readonly type: 'segment' | 'full' | 'regexp';
      /** Of an expression, its source. */
      readonly value: string;
      /** What stood before `:`, or its number for one that has no name. */
      readonly name: string;
      readonly prefix: string;
      readonly suffix: string;
      readonly modifier: Modifier;
    };

/** What is wrong with a pattern, and at which letter, from 0. */
export class PatternError extends Error {
  readonly fault: PatternMessage;
  readonly at: number;

  constructor(fault: PatternMessage, at: number) {
    super(fault.code);
    this.fault = fault;
    this.at = at;
  }
}

type TokenType = 'open' | 'close' | 'regexp' | 'name' | 'char' | 'escaped-char' | 'other-modifier' | 'asterisk' | 'end';

export interface Token {
  readonly type: TokenType;
  readonly at: number;
  readonly value: string;
}

/** "Tokenizing", with the strict policy. Throws a PatternError. */
export function tokenise(pattern: string): Token[] {
  const tokens: Token[] = [];
  const letters = [...pattern];
  const add = (type: TokenType, at: number, value: string) => tokens.push({ type, at, value });
  for (let at = 0; at < letters.length;) {
    const letter = letters[at] ?? '';
    if (letter === '*') add('asterisk', at, letter);
    else if (letter === '+' || letter === '?') add('other-modifier', at, letter);
    else if (letter === '{') add('open', at, letter);
    else if (letter === '}') add('close', at, letter);
    else if (letter === '\\') {
      const next = letters[at + 1];
      if (next === undefined) throw new PatternError(patternFault('backslash-at-end'), at);
      add('escaped-char', at, next);
      at += 1;
    } else if (letter === ':') {
      let end = at + 1;
      while (end < letters.length && isNameLetter(letters[end] ?? '', end === at + 1)) end += 1;
      if (end === at + 1) throw new PatternError(patternFault('colon-without-name'), at);
      add('name', at, letters.slice(at + 1, end).join(''));
      at = end - 1;
    } else if (letter === '(') {
      const end = endOfGroup(letters, at);
      add('regexp', at, letters.slice(at + 1, end).join(''));
      at = end;
    } else add('char', at, letter);
    at += 1;
  }
  add('end', letters.length, '');
  return tokens;
}

/** ECMAScript's IdentifierStart and IdentifierPart, as the standard names them. */
function isNameLetter(letter: string, isFirst: boolean): boolean {
  return isFirst ? /^[\p{ID_Start}$_]$/u.test(letter) : /^[\p{ID_Continue}$\u200c\u200d]$/u.test(letter);
}

function endOfGroup(letters: readonly string[], start: number): number {
  let depth = 1;
  for (let at = start + 1; at < letters.length; at += 1) {
    const letter = letters[at] ?? '';
    if (letter > '\x7f') throw new PatternError(patternFault('not-ascii'), at);
    if (at === start + 1 && letter === '?') throw new PatternError(patternFault('question-mark-first'), at);
    if (letter === '\\') {
      if (at === letters.length - 1) break;
      at += 1;
      continue;
    }
    if (letter === ')') {
      depth -= 1;
      if (depth === 0) {
        if (at === start + 1) throw new PatternError(patternFault('empty'), start);
        return at;
      }
    } else if (letter === '(') {
      depth += 1;
      if (letters[at + 1] !== '?') throw new PatternError(patternFault('named-group'), at);
    }
  }
  throw new PatternError(patternFault('parenthesis-open'), start);
}

export interface PartOptions {
  /** A part may take it along: `/:name` is left out whole where it is optional. */
  readonly prefix: string;
  /** Brings text that is written as it is into its normal form. */
  readonly encode: (text: string) => string;
}

/** "Parsing". Throws a PatternError. */
export function parseParts(tokens: readonly Token[], { prefix: prefixLetter, encode }: PartOptions): Part[] {
  const parts: Part[] = [];
  const names = new Set<string>();
  let at = 0;
  let nextNumber = 0;
  let pending = '';
  const here = (): Token => tokens[at] ?? { type: 'end', at: 0, value: '' };
  const take = (type: TokenType): Token | undefined => {
    const token = here();
    if (token.type !== type) return undefined;
    at += 1;
    return token;
  };
  const takeValue = (name: Token | undefined) => take('regexp') ?? (name ? undefined : take('asterisk'));
  const takeModifier = (): Modifier => ((take('other-modifier') ?? take('asterisk'))?.value ?? '') as Modifier;
  const takeText = (): string => {
    let text = '';
    for (let token = take('char') ?? take('escaped-char'); token; token = take('char') ?? take('escaped-char'))
      text += token.value;
    return text;
  };
  const flush = (): void => {
    if (pending !== '') parts.push({ type: 'fixed', value: encode(pending), modifier: '' });
    pending = '';
  };
  const add = (
    prefix: string,
    name: Token | undefined,
    value: Token | undefined,
    suffix: string,
    modifier: Modifier,
  ): void => {
    if (!name && !value && modifier === '') {
      pending += prefix;
      return;
    }
    flush();
    if (!name && !value) {
      if (prefix !== '') parts.push({ type: 'fixed', value: encode(prefix), modifier });
      return;
    }
    const type =
      value === undefined ? 'segment' : value.type === 'asterisk' || value.value === '.*' ? 'full' : 'regexp';
    const called = name ? name.value : String(nextNumber++);
    if (names.has(called))
      throw new PatternError(patternFault('name-twice', { name: called }), (name ?? value)?.at ?? 0);
    names.add(called);
    parts.push({
      type,
      value: type === 'regexp' ? (value?.value ?? '') : '',
      name: called,
      prefix: encode(prefix),
      suffix: encode(suffix),
      modifier,
    });
  };
  while (at < tokens.length) {
    const char = take('char');
    const name = take('name');
    const value = takeValue(name);
    if (name || value) {
      let prefix = char?.value ?? '';
      if (prefix !== '' && prefix !== prefixLetter) {
        pending += prefix;
        prefix = '';
      }
      flush();
      add(prefix, name, value, '', takeModifier());
      continue;
    }
    const fixed = char ?? take('escaped-char');
    if (fixed) {
      pending += fixed.value;
      continue;
    }
    const open = take('open');
    if (open) {
      const prefix = takeText();
      const inner = take('name');
      const innerValue = takeValue(inner);
      const suffix = takeText();
      if (!take('close')) throw new PatternError(patternFault('brace-open'), open.at);
      add(prefix, inner, innerValue, suffix, takeModifier());
      continue;
    }
    flush();
    if (!take('end')) throw new PatternError(patternFault('letter-not-here', { letter: here().value }), here().at);
  }
  return parts;
}
