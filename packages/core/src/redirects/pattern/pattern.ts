/**
 * A pattern for old addresses: a path, and a query behind its question mark where only some queries are meant.
 * Source: WHATWG URL Pattern standard. Differences: a pattern is about one site, so it has no scheme and a host
 * only where two slashes begin it, for an old domain; without a query it is for any; and expressions are those that can be matched in bounded time.
 */
import { normalisePathEncoding, normaliseQueryEncoding, type Address } from '../../address/index.ts';
import { splitHost } from '../oldHost.ts';
import { ANY, readExpression, type Expression } from './expression.ts';
import { patternFault, type PatternMessage } from '../messages.ts';
import { parseParts, PatternError, tokenise, type Part, type Token } from './parts.ts';
import { writePlainSource } from './plain.ts';
import { writeExpressionSource } from './source.ts';
import { compileProgram, run, type Program } from './program.ts';

export interface Pattern {
  /** As it was written. */
  readonly text: string;
  /** Names of its parts, in order; `0`, `1` … for those without one. */
  readonly names: readonly string[];
  /** Of an old domain's addresses only; undefined for the site's own. */
  readonly host: string | undefined;
  /** What every path it matches begins with, the host left out. */
  readonly beginning: string;
  readonly path: Component;
  readonly query: Component | undefined;
}

interface Component {
  readonly program: Program;
  /** The same for the platform, where that is as safe. */
  readonly plain: RegExp | undefined;
  /** The same for other programs' regular expressions, a group for each name in order, without ^ and $. */
  readonly source: string;
  /** Stands in everything it matches. */
  readonly needs: string;
  readonly names: readonly string[];
}

export type PatternReading =
  | { readonly ok: true; readonly pattern: Pattern }
  | {
      readonly ok: false;
      readonly problem: PatternMessage;
      /** At which letter, from 0. */ readonly at: number;
    };

export interface PatternOptions {
  readonly ignoreCase?: boolean;
}

/** Longer ones are no pattern a person wrote. */
const MOST_LETTERS = 2000;
/** Longer addresses are matched by no pattern; servers refuse them too (common practice: 8 KiB for a whole request line). */
const MOST_ADDRESS = 8192;

export function readPattern(text: string, options: PatternOptions = {}): PatternReading {
  try {
    return { ok: true, pattern: compile(text, options.ignoreCase ?? false) };
  } catch (error) {
    if (error instanceof PatternError) return { ok: false, problem: error.fault, at: error.at };
    throw error;
  }
}

/** What each named part holds, as it stands in the address; undefined where the pattern does not match. A part that took no part is empty. */
export function matchPattern(
  pattern: Pattern,
  { path: whole, query }: Address,
): Readonly<Record<string, string>> | undefined {
  const { host, address: path } = splitHost(whole);
  if (host !== pattern.host) return undefined;
  if (path.length > MOST_ADDRESS || (query?.length ?? 0) > MOST_ADDRESS) return undefined;
  if (!pattern.path.program.ignoreCase && !path.startsWith(pattern.beginning)) return undefined;
  const inPath = matchComponent(pattern.path, path);
  const inQuery = inPath && pattern.query ? matchComponent(pattern.query, query ?? '') : [];
  if (!inPath || !inQuery) return undefined;
  const groups: Record<string, string> = {};
  for (let at = 0; at < pattern.path.names.length; at += 1) groups[pattern.path.names[at] ?? ''] = inPath[at] ?? '';
  pattern.query?.names.forEach((name, at) => {
    groups[name] = inQuery[at] ?? '';
  });
  return groups;
}

function matchComponent(
  { plain, program, needs }: Component,
  text: string,
): readonly (string | undefined)[] | undefined {
  if (!program.ignoreCase && !text.includes(needs)) return undefined;
  return plain ? (plain.exec(text)?.slice(1) ?? undefined) : run(program, text);
}

function compile(whole: string, ignoreCase: boolean): Pattern {
  const { host, address: text } = splitHost(whole);
  if (text.length > MOST_LETTERS)
    throw new PatternError(patternFault('too-long', { most: MOST_LETTERS }), MOST_LETTERS);
  if (!text.startsWith('/')) throw new PatternError(patternFault('no-slash'), 0);
  if (host !== undefined && !/^[a-z0-9.-]+(?::\d{1,5})?$/.test(host))
    throw new PatternError(patternFault('host-with-parts'), 0);
  const tokens = tokenise(text);
  const searchAt = searchPrefix(tokens);
  const pathTokens = searchAt < 0 ? tokens : [...tokens.slice(0, searchAt), endAt(tokens[searchAt]?.at ?? 0)];
  const pathParts = parseParts(pathTokens, { prefix: '/', encode: writeCanonicalPath });
  const queryParts =
    searchAt < 0 ? undefined : parseParts(tokens.slice(searchAt + 1), { prefix: '', encode: normaliseQueryEncoding });
  const path = compileComponent(pathParts, '/', ignoreCase);
  const query = queryParts && renumberNames(compileComponent(queryParts, '', ignoreCase), path.names);
  return {
    text: whole,
    host,
    names: [...path.names, ...(query?.names ?? [])],
    beginning: readFixedBeginning(pathParts),
    path,
    query,
  };
}

/** "Canonicalize a pathname": dot segments are taken out as in any address. */
function writeCanonicalPath(text: string): string {
  const isWhole = text.startsWith('/');
  const { pathname } = new URL(`http://here.invalid${isWhole ? '' : '/-'}${text.replace(/[?#]/g, encodeURIComponent)}`);
  return normalisePathEncoding(isWhole ? pathname : pathname.slice(2));
}

/** "Is a search prefix": a question mark that does not make the part before it optional. */
function searchPrefix(tokens: readonly Token[]): number {
  return tokens.findIndex(({ type, value }, at) => {
    if (value !== '?') return false;
    if (type === 'char' || type === 'escaped-char') return true;
    const before = tokens[at - 1]?.type;
    return (
      type === 'other-modifier' &&
      before !== 'name' &&
      before !== 'regexp' &&
      before !== 'close' &&
      before !== 'asterisk'
    );
  });
}

const endAt = (at: number): Token => ({ type: 'end', at, value: '' });

/** Parts without a name count on from those of the path, so that a target can tell them apart. */
function renumberNames({ names, ...rest }: Component, before: readonly string[]): Component {
  const first = before.filter((name) => /^\d+$/.test(name)).length;
  const out = names.map((name) => (/^\d+$/.test(name) ? String(Number(name) + first) : name));
  const twice = out.find((name) => before.includes(name));
  if (twice !== undefined) throw new PatternError(patternFault('name-twice', { name: twice }), 0);
  return { ...rest, names: out };
}

function readFixedBeginning(parts: readonly Part[]): string {
  const [first, second] = parts;
  if (first?.type !== 'fixed') return readPrefix(first);
  return first.modifier === '' ? first.value + readPrefix(second) : '';
}

/** The slash that a part takes along, where it cannot be missing. */
function readPrefix(part: Part | undefined): string {
  return part && part.type !== 'fixed' && (part.modifier === '' || part.modifier === '+') ? part.prefix : '';
}

/** "Converting part lists to regular expressions", as a tree instead of a source. */
function compileComponent(parts: readonly Part[], delimiter: string, ignoreCase: boolean): Component {
  const names: string[] = [];
  const sequence = parts.map((part): Expression => {
    if (part.type === 'fixed') return applyModifier(compileLiteral(part.value), part.modifier);
    const number = names.push(part.name) - 1;
    const value = compileValue(part, delimiter);
    const { prefix, suffix, modifier } = part;
    if (prefix === '' && suffix === '') {
      return modifier === '' || modifier === '?'
        ? applyModifier({ kind: 'capture', of: value, number }, modifier)
        : { kind: 'capture', of: applyModifier(value, modifier), number };
    }
    if (modifier === '' || modifier === '?')
      return applyModifier(
        {
          kind: 'sequence',
          of: [compileLiteral(prefix), { kind: 'capture', of: value, number }, compileLiteral(suffix)],
        },
        modifier,
      );
    const more: Expression = {
      kind: 'repeat',
      of: { kind: 'sequence', of: [compileLiteral(suffix), compileLiteral(prefix), value] },
      min: 0,
      max: Infinity,
      greedy: true,
    };
    const all: Expression = {
      kind: 'sequence',
      of: [
        compileLiteral(prefix),
        { kind: 'capture', of: { kind: 'sequence', of: [value, more] }, number },
        compileLiteral(suffix),
      ],
    };
    return modifier === '*' ? applyModifier(all, '?') : all;
  });
  const source = delimiter === '/' ? writePlainSource(parts) : undefined;
  const needs = parts
    .map((part) => (part.type === 'fixed' && part.modifier === '' ? part.value : ''))
    .reduce((a, b) => (b.length > a.length ? b : a), '');
  return {
    program: compileProgram({ kind: 'sequence', of: sequence }, names.length, ignoreCase),
    plain: source === undefined ? undefined : new RegExp(source, ignoreCase ? 'i' : ''),
    source: writeExpressionSource(parts, delimiter),
    needs,
    names,
  };
}

function compileValue(part: Exclude<Part, { type: 'fixed' }>, delimiter: string): Expression {
  if (part.type === 'regexp') return readExpression(part.value, 0);
  if (part.type === 'full') return { kind: 'repeat', of: ANY, min: 0, max: Infinity, greedy: true };
  const stop = delimiter === '' ? -1 : delimiter.charCodeAt(0);
  return { kind: 'repeat', of: { kind: 'set', has: (code) => code !== stop }, min: 1, max: Infinity, greedy: false };
}

function applyModifier(expression: Expression, modifier: Part['modifier']): Expression {
  if (modifier === '') return expression;
  return {
    kind: 'repeat',
    of: expression,
    min: modifier === '+' ? 1 : 0,
    max: modifier === '?' ? 1 : Infinity,
    greedy: true,
  };
}

function compileLiteral(text: string): Expression {
  return { kind: 'text', text };
}
