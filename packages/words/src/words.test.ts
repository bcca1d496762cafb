/**
 * The catalogues against what messages there are, read with the parser of ICU MessageFormat; what is written in
 * figures, sizes, days and lists against ECMA-402 and the language data of the runtime (CLDR).
 */
import { parse, TYPE, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import { defineMessages, type Message, type ParameterKind } from '@fastigium/core/messages';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { english } from './en/index.ts';
import { ENGLISH, speakerFor, createSpeaker, SUBJECTS, type Language } from './index.ts';

const speak = speakerFor(ENGLISH);

interface Use {
  readonly name: string;
  /** Of a choice, its options without `other`. */
  readonly options?: readonly string[];
  readonly isNumber: boolean;
}

function usesOf(elements: readonly MessageFormatElement[]): Use[] {
  return elements.flatMap((element): Use[] => {
    switch (element.type) {
      case TYPE.argument:
        return [{ name: element.value, isNumber: false }];
      case TYPE.number:
        return [{ name: element.value, isNumber: true }];
      case TYPE.plural:
      case TYPE.select: {
        const isNumber = element.type === TYPE.plural;
        const options = isNumber ? {} : { options: Object.keys(element.options).filter((each) => each !== 'other') };
        return [
          { name: element.value, isNumber, ...options },
          ...Object.values(element.options).flatMap(({ value }) => usesOf(value)),
        ];
      }
      default:
        return [];
    }
  });
}

const patterns = SUBJECTS.flatMap(({ subject, definitions }) =>
  Object.entries(definitions as Record<string, Record<string, ParameterKind>>).map(
    ([name, kinds]) => [`${subject}.${name}`, kinds, english[subject]?.[name] ?? ''] as const,
  ),
);

describe('the English catalogue', () => {
  it('has words for every message, and for none that there is not', () => {
    const said = Object.entries(english).flatMap(([subject, words]) =>
      Object.keys(words).map((name) => `${subject}.${name}`),
    );
    expect(said.sort()).toEqual(patterns.map(([code]) => code).sort());
    expect(new Set(SUBJECTS.map(({ subject }) => subject)).size).toBe(SUBJECTS.length);
  });

  it.each(patterns)('%s is made of what it is filled with, all of it and nothing else', (_, kinds, pattern) => {
    const uses = usesOf(parse(pattern, { ignoreTag: true }));
    expect([...new Set(uses.map(({ name }) => name))].sort()).toEqual(Object.keys(kinds).sort());
    for (const { name, options, isNumber } of uses) {
      const kind = kinds[name];
      if (isNumber) expect([name, kind]).toEqual([name, 'number']);
      // A choice that is named nowhere would never be said.
      if (options) expect(kind).toEqual(expect.arrayContaining([...options]));
    }
  });

  it('never ends or begins in a space, and has curly quotes', () => {
    for (const [code, , pattern] of patterns) {
      expect([code, pattern.trim()]).toEqual([code, pattern]);
      expect([code, /["']/.test(pattern)]).toEqual([code, false]);
    }
  });
});

const any = defineMessages('any', {
  list: { all: 'list' },
  series: { all: 'series' },
  clauses: { all: 'clauses' },
  size: { of: 'bytes' },
  time: { of: 'seconds' },
  day: { of: 'day' },
  at: { of: 'instant' },
  within: { message: 'message' },
  plural: { count: 'number' },
});
const CATALOGUE = {
  any: {
    list: '{all}',
    series: '{all}',
    clauses: '{all}',
    size: '{of}',
    time: '{of}',
    day: '{of}',
    at: '{of}',
    within: '({message})',
    plural: '{count, plural, one {# Seite} other {# Seiten}}',
  },
};
const inTongue = (tag: string) => createSpeaker({ tag, catalogue: CATALOGUE, clauses: '; ' } satisfies Language, [any]);

describe('what fills a message', () => {
  it.each<[Message, string, string]>([
    [any('list', { all: ['a', 'b', 'c'] }), 'a, b and c', 'a, b und c'],
    [any('series', { all: ['a', 'b', 'c'] }), 'a, b, c', 'a, b und c'],
    [any('clauses', { all: ['a', any('series', { all: ['b', 'c'] })] }), 'a; b, c', 'a; b, c'],
    [any('size', { of: 900 }), '900 bytes', '900 Byte'],
    [any('size', { of: 1 }), '1 byte', '1 Byte'],
    [any('size', { of: 4100 }), '4.1 kB', '4,1 kB'],
    [any('size', { of: 23_456_789 }), '23 MB', '23 MB'],
    [any('time', { of: 604_800 }), '7 days', '7 Tage'],
    [any('time', { of: 7200 }), '2 hours', '2 Stunden'],
    [any('time', { of: 119 }), '119 seconds', '119 Sekunden'],
    [any('day', { of: '2027-03-31' }), '31 March 2027', '31. März 2027'],
    // RFC 9557, section 1: the zone stands behind the instant; summer time holds in London that day.
    [
      any('at', { of: '2027-03-31T08:00:00.000Z[Europe/London]' }),
      '31 Mar 2027, 09:00 (Europe/London)',
      '31.03.2027, 09:00 (Europe/London)',
    ],
    [any('within', { message: any('within', { message: any('size', { of: 2e9 }) }) }), '((2 GB))', '((2 GB))'],
    [any('plural', { count: 1 }), '1 Seite', '1 Seite'],
    [any('plural', { count: 12_345 }), '12,345 Seiten', '12.345 Seiten'],
  ])('%j', (message, english, german) => {
    // Some languages keep a figure and its unit on one line by a space of their own.
    const plain = (words: string) => words.replaceAll('\u00a0', ' ');
    expect(plain(inTongue('en-GB')(message))).toBe(english);
    expect(plain(inTongue('de')(message))).toBe(german);
  });

  it('is never read as a pattern: whatever a title holds stands as it is (property)', () => {
    const awkward = fc.string({ unit: fc.constantFrom('{', '}', "'", '#', '<', '>', '|', 'a', ' ', ',') });
    fc.assert(
      fc.property(awkward, (title) => {
        expect(speak({ code: 'decision.home-set', parameters: { name: title } })).toBe(
          `“${title}” becomes the home page`,
        );
      }),
    );
  });

  it('leaves out what was never kept, and says the rest: words outlive the versions that kept what fills them', () => {
    expect(speak({ code: 'error.host-unreachable', parameters: {} })).toContain('does not answer (…)');
    expect(speak({ code: 'decision.flattened', parameters: { from: '/a' } })).toBe('0 redirects lead there at once');
  });

  it('of a code that is not known names the code: a newer server may speak to a page from before', () => {
    expect(speak({ code: 'decision.of-tomorrow', parameters: { count: 2 } })).toBe('decision.of-tomorrow');
    expect(speak({ code: 'tomorrow.is-another-day', parameters: {} })).toBe('tomorrow.is-another-day');
    expect(speak('a text as it stands {count}')).toBe('a text as it stands {count}');
  });
});
