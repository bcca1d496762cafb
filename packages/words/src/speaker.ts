/** Messages become words of one language here, and nowhere else. */
import type { Message, Parameter, ParameterKind, Part, Subject, Definitions } from '@fastigium/core/messages';
import { IntlMessageFormat } from 'intl-messageformat';
import { isPlain, type Catalogue } from './catalogue.ts';

/** Words of a message; a text stands as it is. */
export type Speak = (part: Part) => string;

type AnySubject = Subject<string, Definitions>;

/** One that is told more subjects and their words later; until then it says their codes. */
export interface SpeakAndLearn extends Speak {
  learn(catalogue: Catalogue, subjects: readonly AnySubject[]): void;
}

export interface Language {
  /** A language tag (BCP 47), for plurals, figures, dates and lists. */
  readonly tag: string;
  readonly catalogue: Catalogue;
  /** What stands between clauses. */
  readonly clauses: string;
}

/** As it is written and dated in Britain, which is how the words are spelt. */
export const BRITISH: Pick<Language, 'tag' | 'clauses'> = { tag: 'en-GB', clauses: '; ' };

/** @param subjects of which kind each parameter is */
export function createSpeaker({ tag, catalogue, clauses }: Language, subjects: readonly AnySubject[]): SpeakAndLearn {
  const patterns: Record<string, Catalogue[string]> = {};
  const definitions = new Map<string, Definitions>();
  const formats = new Map<string, IntlMessageFormat>();
  const figures = new Figures(tag);

  function formatOf(code: string): { format(values: Record<string, string | number>): unknown } | undefined {
    const known = formats.get(code);
    if (known) return known;
    const [subject, name] = parted(code);
    const pattern = patterns[subject]?.[name];
    if (pattern === undefined) return undefined;
    if (isPlain(pattern)) return { format: () => pattern };
    const made = new IntlMessageFormat(pattern, tag, undefined, { ignoreTag: true });
    formats.set(code, made);
    return made;
  }

  const fill = (kind: ParameterKind | undefined, value: Parameter): string | number => {
    if (typeof value === 'number') return figures.number(kind, value);
    if (typeof value === 'string') return figures.text(kind, value);
    if ('code' in value) return speak(value);
    return kind === 'clauses' ? value.map(speak).join(clauses) : figures.list(kind, value.map(speak));
  };

  function speak(part: Part): string {
    if (typeof part === 'string') return part;
    const format = formatOf(part.code);
    // A code from a newer version than this page: it says more than nothing.
    if (!format) return part.code;
    const [subject, name] = parted(part.code);
    const kinds = definitions.get(subject)?.[name] ?? {};
    // What was kept by an older version may lack what its words are filled with by now.
    const missing = Object.entries(kinds).map(([key, kind]) => [key, kind === 'number' ? 0 : MISSING]);
    const values = Object.entries(part.parameters).map(([key, value]) => [key, fill(kinds[key], value)]);
    return String(format.format(Object.fromEntries([...missing, ...values])));
  }

  function learn(more: Catalogue, of: readonly AnySubject[]): void {
    Object.assign(patterns, more);
    for (const { subject, definitions: all } of of) definitions.set(subject, all);
  }
  learn(catalogue, subjects);
  return Object.assign(speak, { learn });
}

/** Stands where nothing fills a message. */
export const MISSING = '…';

function parted(code: Message['code']): [string, string] {
  const dot = code.indexOf('.');
  return [code.slice(0, dot), code.slice(dot + 1)];
}

/** Largest first; the power of ten of each, as IEC 80000-13 keeps kB for 1000 bytes. */
const SIZES = [
  ['terabyte', 1e12],
  ['gigabyte', 1e9],
  ['megabyte', 1e6],
  ['kilobyte', 1e3],
] as const;

const TIMES = [
  ['day', 86_400],
  ['hour', 3600],
  ['minute', 60],
] as const;

/** Figures, days and lists as a language writes them (ECMA-402). */
class Figures {
  readonly #tag: string;
  readonly #days: Intl.DateTimeFormat;
  readonly #instants: Intl.DateTimeFormat;
  readonly #lists: Readonly<Record<'list' | 'alternatives' | 'series', Intl.ListFormat>>;

  constructor(tag: string) {
    this.#tag = tag;
    this.#days = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });
    this.#instants = new Intl.DateTimeFormat(tag, { dateStyle: 'medium', timeStyle: 'short' });
    this.#lists = {
      list: new Intl.ListFormat(tag, { type: 'conjunction' }),
      alternatives: new Intl.ListFormat(tag, { type: 'disjunction' }),
      series: new Intl.ListFormat(tag, { type: 'unit' }),
    };
  }

  number(kind: ParameterKind | undefined, value: number): string | number {
    if (kind === 'bytes') return this.#size(value);
    if (kind === 'seconds') return this.#time(value);
    return value;
  }

  text(kind: ParameterKind | undefined, value: string): string {
    if (kind === 'day') return this.#days.format(new Date(`${value}T00:00:00Z`));
    if (kind !== 'instant') return value;
    const [, at = value, zone] = /^(.*?)\[(.+)\]$/.exec(value) ?? [];
    if (zone === undefined) return this.#instants.format(new Date(at));
    const format = new Intl.DateTimeFormat(this.#tag, { dateStyle: 'medium', timeStyle: 'short', timeZone: zone });
    return `${format.format(new Date(at))} (${zone})`;
  }

  list(kind: ParameterKind | undefined, parts: readonly string[]): string {
    return this.#lists[kind === 'list' || kind === 'alternatives' ? kind : 'series'].format(parts);
  }

  #size(bytes: number): string {
    const [unit, size] = SIZES.find(([, each]) => bytes >= each) ?? (['byte', 1] as const);
    const figure = bytes / size;
    return new Intl.NumberFormat(this.#tag, {
      style: 'unit',
      unit,
      unitDisplay: size === 1 ? 'long' : 'short',
      maximumFractionDigits: size > 1 && figure < 10 ? 1 : 0,
    }).format(figure);
  }

  /** In the largest unit of which there are at least two. */
  #time(seconds: number): string {
    const [unit, size] = TIMES.find(([, each]) => seconds >= 2 * each) ?? (['second', 1] as const);
    return new Intl.NumberFormat(this.#tag, {
      style: 'unit',
      unit,
      unitDisplay: 'long',
      maximumFractionDigits: 0,
    }).format(seconds / size);
  }
}
