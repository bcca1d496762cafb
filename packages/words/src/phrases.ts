/** Phrases of an interface: words that are no message of anything, said by their keys. */
import { IntlMessageFormat } from 'intl-messageformat';
import { isPlain, type Catalogue, type Pattern } from './catalogue.ts';
import { MISSING } from './speaker.ts';

type Element = ReturnType<IntlMessageFormat['getAst']>[number];

/** `panel.title`, of a catalogue `{ panel: { title: 'Title' } }`. */
export type PhraseKey<C extends Catalogue> = { [P in keyof C & string]: `${P}.${keyof C[P] & string}` }[keyof C &
  string];

/** What a phrase is filled with; numbers are written as the language does where the pattern asks for it. */
export type Filling = Readonly<Record<string, string | number | boolean | null | undefined>>;

/** Words, or words that something on the screen stands around: `<link>the history</link>`. */
export type PhrasePart = string | { readonly tag: string; readonly parts: readonly PhrasePart[] };

export interface Say<K extends string> {
  (key: K, filling?: Filling): string;
  /** For patterns with tags. */
  parts(key: K, filling?: Filling): readonly PhrasePart[];
}

/** The kind of an element that is words alone, as the reader of patterns numbers them. */
const LITERAL = 0;

interface Phrase {
  readonly format: IntlMessageFormat;
  readonly names: ReadonlySet<string>;
  readonly tags: ReadonlySet<string>;
}

/** @param tag a language tag (BCP 47) */
export function createSay<C extends Catalogue>(catalogue: C, tag: string): Say<PhraseKey<C>> {
  const phrases = new Map<string, Phrase>();

  function phraseOf(key: string, pattern: Pattern): Phrase {
    const known = phrases.get(key);
    if (known) return known;
    const format = new IntlMessageFormat(pattern, tag);
    const phrase = { format, ...findNames(format.getAst()) };
    phrases.set(key, phrase);
    return phrase;
  }

  function partsOf(key: string, filling: Filling): readonly PhrasePart[] {
    const dot = key.indexOf('.');
    const pattern = catalogue[key.slice(0, dot)]?.[key.slice(dot + 1)];
    if (pattern === undefined) return [key];
    if (isPlain(pattern)) return [pattern];
    const { format, names, tags } = phraseOf(key, pattern);
    const missing = [...names].map((name) => [name, MISSING] as const);
    const given = Object.entries(filling).map(([name, value]) => [name, filledBy(value)] as const);
    const around = [...tags].map((each) => [each, (parts: readonly PhrasePart[]) => ({ tag: each, parts })] as const);
    const said = format.format<PhrasePart>(Object.fromEntries<unknown>([...missing, ...given, ...around]) as never);
    return Array.isArray(said) ? said : [said as PhrasePart];
  }

  return Object.assign((key: PhraseKey<C>, filling: Filling = {}) => wordsIn(partsOf(key, filling)), {
    parts: (key: PhraseKey<C>, filling: Filling = {}) => partsOf(key, filling),
  });
}

/** Without anything that stands around words. */
export const wordsIn = (parts: readonly PhrasePart[]): string =>
  parts.map((part) => (typeof part === 'string' ? part : wordsIn(part.parts))).join('');

const filledBy = (value: Filling[string]): string | number =>
  typeof value === 'number' ? value : value == null ? '' : String(value);

/** What a pattern is filled with, and what stands around words of it. */
export function findNames(elements: readonly Element[]): Pick<Phrase, 'names' | 'tags'> {
  const names = new Set<string>();
  const tags = new Set<string>();
  const visit = (element: Element): void => {
    if ('children' in element) {
      tags.add(element.value);
      element.children.forEach(visit);
    } else if ('value' in element && element.type !== LITERAL) {
      names.add(element.value);
      if ('options' in element) for (const { value } of Object.values(element.options)) value.forEach(visit);
    }
  };
  elements.forEach(visit);
  return { names, tags };
}
