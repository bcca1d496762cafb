/** The catalogues of the interface against what components say: nothing missing, nothing left over, all of it filled. */
import { parse } from '@formatjs/icu-messageformat-parser';
import { findNames, type Catalogue } from '@fastigium/words';
import { describe, expect, it } from 'vitest';
import COMMON from './common.en.json';
import { findPhraseUses, type PhraseUse } from '../testing/phraseUses.ts';

const SOURCES = import.meta.glob<string>(['../**/*.{vue,ts}', '!../**/*.test.ts'], {
  query: '?raw',
  import: 'default',
  eager: true,
});
const CATALOGUES = Object.entries(
  import.meta.glob<Catalogue<string>>('../**/words.en.json', { import: 'default', eager: true }),
).map(([path, catalogue]) => [path.replace('..', '/web/src').replace('words.en.json', ''), catalogue] as const);
const USES = findPhraseUses(SOURCES);

/** Phrases by their keys. */
const phrasesOf = (catalogue: Catalogue<string>): ReadonlyMap<string, string> =>
  new Map(
    Object.entries(catalogue).flatMap(([part, phrases]) =>
      Object.entries(phrases).map(([name, pattern]) => [`${part}.${name}`, pattern] as const),
    ),
  );
const common = phrasesOf(COMMON);
const at = ({ file, key }: PhraseUse) => `${file}: ${key ?? 'no literal'}`;

it('there is a catalogue for whoever says something', () =>
  expect([...USES.keys()].sort()).toEqual(CATALOGUES.map(([folder]) => folder).sort()));

it('what all share is said by somebody', () => {
  const said = new Set([...USES.values()].flat().map(({ key }) => key));
  expect([...common.keys()].filter((key) => !said.has(key))).toEqual([]);
});

describe.each(CATALOGUES)('%s', (folder, catalogue) => {
  const own = phrasesOf(catalogue);
  const uses = USES.get(folder) ?? [];

  it('says nothing that is not there, and has nothing that is not said', () => {
    expect(uses.filter(({ key }) => key === undefined || !(own.has(key) || common.has(key))).map(at)).toEqual([]);
    const said = new Set(uses.map(({ key }) => key));
    expect([...own.keys()].filter((key) => !said.has(key))).toEqual([]);
  });

  it('fills each phrase with what it asks for', () => {
    const wrong = uses.filter(({ key, names }) => {
      const pattern = own.get(key ?? '') ?? common.get(key ?? '') ?? '';
      const asked = [...findNames(parse(pattern)).names].sort();
      return JSON.stringify(asked) !== JSON.stringify([...(names ?? ['?'])].sort());
    });
    expect(wrong.map(at)).toEqual([]);
  });
});

const PATTERNS = [COMMON, ...CATALOGUES.map(([, catalogue]) => catalogue)].flatMap((each) => [
  ...phrasesOf(each).values(),
]);

it('what stands around words is not called as what fills them: the two share their names', () => {
  const doubled = PATTERNS.filter((pattern) => {
    const { names, tags } = findNames(parse(pattern));
    return [...tags].some((tag) => names.has(tag));
  });
  expect(doubled).toEqual([]);
});

/** Sentences whose figures are never one, or whose noun is that of another figure. */
const NEVER_ONE = [
  // How far long work is: "1 of 300 pages".
  '{done, number} of {total, number} {unit',
  // With a digit behind the point: "4.3 minutes", "1.0 minutes".
  'which allows {minutes} minutes away',
];

it('what can be counted is counted in the plural form its figure asks for', () => {
  const counted =
    /\{\w+(?:, number)?\} (?:\w+ )?(?:day|file|letter|address|visit|record|page|answer|second|minute|redirect|change|question|suggestion|picture|menu)e?s\b/;
  expect(
    PATTERNS.filter((pattern) => counted.test(pattern) && !NEVER_ONE.some((known) => pattern.includes(known))),
  ).toEqual([]);
});

it('figures have their plurals in English: one and other (CLDR)', () => {
  const plurals = PATTERNS.flatMap((pattern) => [...pattern.matchAll(/\{\w+, plural, (.*?)\{/g)].map(() => pattern));
  expect(plurals.filter((pattern) => !/(?:one|=1) \{/.test(pattern) || !/other \{/.test(pattern))).toEqual([]);
  expect(plurals.length).toBeGreaterThan(100);
});
