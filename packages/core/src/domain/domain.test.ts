/** Names against UTS 46's conformance file and the public suffix list's own vectors; scores and costs by their reasons. */
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import psl from 'psl';
import { describe, expect, it } from 'vitest';
import {
  proposeAlternativeWords,
  reckonCost,
  splitName,
  nameScore,
  readTypedName,
  scoreName,
  findWordsOfSite,
} from './index.ts';

const data = (file: string) => readFileSync(new URL(`../../testdata/${file}`, import.meta.url), 'utf8');

describe('international names', () => {
  const unescape = (text: string) =>
    text.replace(/\\u\{([0-9a-f]+)\}|\\u([0-9a-f]{4})|\\x\{([0-9a-f]+)\}/gi, (_, a?: string, b?: string, c?: string) =>
      String.fromCodePoint(parseInt(a ?? b ?? c ?? '', 16)),
    );
  const rows = data('idna/IdnaTestV2.txt')
    .split('\n')
    .map((row) => row.replace(/\s*#.*$/, ''))
    .filter((row) => row.includes(';'))
    .map((row) => {
      const [source = '', unicode = '', status = '', ascii = '', asciiStatus = ''] = row
        .split(';')
        .map((cell) => cell.trim());
      const toUnicode = unicode === '' ? source : unicode;
      const asciiErrors = asciiStatus === '' ? status : asciiStatus;
      return {
        source: unescape(source),
        ascii: unescape(ascii === '' ? toUnicode : ascii),
        errors: asciiErrors
          .replace(/[[\]\s]/g, '')
          .split(',')
          .filter((code) => code !== ''),
      };
    });

  it('agree with UTS 46 wherever they are taken, and refuse what it refuses (Unicode, IdnaTestV2.txt, 13.0)', () => {
    let taken = 0;
    let refused = 0;
    const wrong: string[] = [];
    for (const { source, ascii, errors } of rows) {
      const read = readTypedName(source);
      // What stands after / ? # is a pasted address's page, and cut; that is ours, not the standard's.
      if (/[/?#]/.test(source.normalize('NFKC'))) continue;
      if (errors.length > 0) {
        refused += 1;
        // P1 and V6 alone: a letter Unicode 13 did not allow; the library's Unicode is a newer one that may.
        if (read.ok && !errors.every((code) => code === 'P1' || code === 'V6'))
          wrong.push(`taken: ${JSON.stringify(source)} ${errors.join()}`);
      } else if (read.ok) {
        taken += 1;
        if (read.name !== ascii.replace(/\.$/, '')) wrong.push(`${JSON.stringify(source)}: ${read.name}, not ${ascii}`);
      }
    }
    expect(wrong).toEqual([]);
    expect(taken).toBeGreaterThan(200);
    expect(refused).toBeGreaterThan(2000);
  });

  // RFC 3492 section 7.1 and common names, both forms.
  it.each([
    ['b\u00fccher.example', 'xn--bcher-kva.example'],
    ['\u4ED6\u4EEC\u4E3A\u4EC0\u4E48\u4E0D\u8BF4\u4E2D\u6587.example', 'xn--ihqwcrb4cv8a8dqg056pqjye.example'],
    ['CAF\u00c9.example', 'xn--caf-dma.example'],
  ])('%s is %s', (unicode, ascii) => {
    expect(readTypedName(unicode)).toEqual({ ok: true, name: ascii, unicode: unicode.toLowerCase() });
    expect(readTypedName(ascii)).toMatchObject({ ok: true, unicode: unicode.toLowerCase() });
  });

  it('never throw and, when taken, read back as themselves (property)', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        const read = readTypedName(text);
        if (read.ok) expect(readTypedName(read.name)).toMatchObject({ ok: true, name: read.name });
      }),
      { numRuns: 1000 },
    );
  });
});

describe('what is registered', () => {
  const vectors = [...data('psl/test_psl.txt').matchAll(/^checkPublicSuffix\((null|'[^']*'), (null|'[^']*')\);/gm)].map(
    ([, input = '', expected = '']) => [input, expected].map((each) => (each === 'null' ? null : each.slice(1, -1))),
  );

  it('agrees with the public suffix list’s vectors, or else with a second library on the list of today', () => {
    let checked = 0;
    const differing: string[] = [];
    for (const [input, expected] of vectors) {
      if (input == null || input.startsWith('.')) continue;
      const typed = readTypedName(input);
      if (!typed.ok) continue;
      checked += 1;
      const ours = splitName(typed.name).registrable ?? null;
      const wanted = expected == null ? null : (readTypedName(expected) as { name: string }).name;
      if (ours !== wanted) differing.push(`${input}: ${ours}, ${wanted}, ${psl.get(typed.name)}`);
    }
    expect(differing).toEqual([]);
    expect(checked).toBeGreaterThan(60);
  });

  it('takes endings a registrar sells for endings', () => {
    expect(splitName('www.moor.science.example', ['example', 'science.example'])).toEqual({
      registrable: 'moor.science.example',
      ending: 'science.example',
      word: 'moor',
    });
    expect(splitName('science.example', ['science.example']).registrable).toBeUndefined();
  });
});

describe('a score', () => {
  const points = (word: string, words: string[] = []) => scoreName(word, words).points;

  it('prefers the short, the sayable and the telling; each reason is said', () => {
    expect(points('moor')).toBeGreaterThan(points('moorandskyobservatorysociety'));
    expect(points('lantern')).toBeGreaterThan(points('lantern-moor-2'));
    expect(points('moorsky', ['moor', 'sky'])).toBeGreaterThan(points('quvbraz', ['moor', 'sky']));
    expect(scoreName('moor', [], 'org.example').points).toBeLessThan(scoreName('moor', [], 'example').points);
    expect(
      scoreName('moor-4-sky', [])
        .reasons.map(({ message }) => message.code)
        .join('; '),
    ).toMatch(/hyphens.*digits/);
  });

  it('sees letters that look like others (Unicode UTS 39, confusables.txt)', () => {
    // U+0430, Cyrillic a, and U+0131, dotless i, both in the table; plain letters are not.
    const messages = (word: string) => scoreName(word, []).reasons.map(({ message }) => message);
    expect(messages('p\u0430y')).toContainEqual(nameScore('looks-like', { letter: '\u0430', other: 'a' }));
    expect(messages('f\u0131ne')).toContainEqual(nameScore('looks-like', { letter: '\u0131', other: 'i' }));
    expect(messages('lantern').map(({ code }) => code)).not.toContain('name-score.looks-like');
  });

  it('is always between 0 and 100, and the sum of its reasons where it is not cut (property)', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z0-9-]{1,63}$/), (word) => {
        const { points: total, reasons } = scoreName(word, ['moor']);
        expect(total).toBe(
          Math.max(
            0,
            Math.min(
              100,
              reasons.reduce((sum, reason) => sum + reason.points, 70),
            ),
          ),
        );
      }),
    );
  });
});

describe('alternatives', () => {
  it('are made of the name’s and the site’s words, never the name itself, never twice', () => {
    const words = proposeAlternativeWords('lantern-moor', ['lanternmoor', 'observatory', 'sky']);
    expect(words).toContain('lanternmoor');
    expect(words).toContain('lantern-moorsky');
    expect(new Set(words).size).toBe(words.length);
    expect(words).not.toContain('lantern-moor');
  });

  it('of an international name are what people type who lack its letters, never its Punycode', () => {
    expect(proposeAlternativeWords('b\u00fccherturm', ['moor'])[0]).toBe('bucherturm');
    expect(proposeAlternativeWords('\u4ED6\u4EEC', ['moor', 'sky'])).toEqual(['moorsky', 'moor', 'sky']);
    expect(proposeAlternativeWords('b\u00fccherturm', ['moor']).some((each) => each.includes('xn--'))).toBe(false);
  });

  it('take the site’s words from its titles, its name’s first', () => {
    expect(
      findWordsOfSite('Lanternmoor Observatory', ['The Moon', 'Moon and planets', 'Opening times', 'Planets tonight']),
    ).toEqual(['lanternmoor', 'observatory', 'moon', 'planets']);
  });
});

describe('costs', () => {
  const price = { currency: 'USD', firstYearCents: 1000, renewalCents: 1500, privacyCents: 300, longTermPercent: 2 };

  it('add up over the years', () => {
    expect(reckonCost(price, 1, false)).toEqual({
      years: 1,
      totalCents: 1000,
      perYearCents: 1000,
      renewalCents: 1500,
      privacyCents: 0,
    });
    // 1000 + 1500 less 2 % of it for the second year, and two years of privacy.
    expect(reckonCost(price, 2, true)).toEqual({
      years: 2,
      totalCents: 2500 - 50 + 600,
      perYearCents: 1525,
      renewalCents: 1800,
      privacyCents: 600,
    });
  });

  it('are whole cents, and the yearly share never sums to less than the total (property)', () => {
    fc.assert(
      fc.property(
        fc.nat(100_000),
        fc.nat(100_000),
        fc.integer({ min: 1, max: 10 }),
        fc.boolean(),
        (first, renewal, years, privacy) => {
          const cost = reckonCost({ ...price, firstYearCents: first, renewalCents: renewal }, years, privacy);
          expect(Number.isInteger(cost.totalCents)).toBe(true);
          expect(cost.perYearCents * years).toBeGreaterThanOrEqual(cost.totalCents);
        },
      ),
    );
  });
});
