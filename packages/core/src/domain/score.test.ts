/**
 * Weights of a name, each at both sides of its limit, names near one, and why something is no name. Weights are this
 * project's own; syllables are those of the package that counts them. Scripts: UTS 39, section 5.2.
 */
import { describe, expect, it } from 'vitest';
import { proposeAlternativeWords, reckonCost, splitName, readTypedName, scoreName, findWordsOfSite } from './index.ts';

describe('a name', () => {
  it.each<[string, string[], string, string]>([
    ['moor', [], '', '88: 10 short 4; 8 easy-to-say 1'],
    ['tenletters', [], '', '88: 10 short 10; 8 easy-to-say 3'],
    ['elevenlette', [], '', '78: 0 middle-length 11; 8 easy-to-say 4'],
    ['fifteen-letters', [], '', '72: 0 middle-length 15; 8 easy-to-say 4; -6 hyphens 1'],
    ['sixteen-letters-', [], '', '63: -3 long 16; 8 easy-to-say 4; -12 hyphens 2'],
    ['anextraordinarilylongname', [], '', '25: -25 long 25; -20 long-to-say 9'],
    ['a'.repeat(40), [], '', '0: -25 long 40; -40 long-to-say 14; -6 three-in-a-row aaa'],
    ['strngth', [], '', '78: 10 short 7; 8 easy-to-say 1; -8 hard-to-spell strngth; -2 runs-together rn'],
    ['booook', [], '', '82: 10 short 6; 8 easy-to-say 2; -6 three-in-a-row ooo'],
    ['a-b-c', [], '', '76: 10 short 5; 8 easy-to-say 3; -12 hyphens 2'],
    ['moor2', [], '', '72: 10 short 5; -8 digits'],
    ['mo\u00f6r', [], '', '80: 10 short 4'],
    ['lantern', ['moor', 'lan'], '', '80: 10 short 7; 8 easy-to-say 2; -6 says-nothing; -2 runs-together rn'],
    [
      'lanternmoor',
      ['lantern', 'moor', 'lan'],
      '',
      '88: 0 middle-length 11; 8 easy-to-say 3; 12 says-what lantern,moor; -2 runs-together rn',
    ],
    ['moorsky', ['moor', 'sky'], '', '94: 10 short 7; 8 easy-to-say 2; 6 says-what moor'],
    [
      'lanternmoorskydome',
      ['lantern', 'moor', 'dome', 'skyd'],
      '',
      '67: -9 long 18; -4 long-to-say 5; 12 says-what lantern,moor,dome; -2 runs-together rn',
    ],
    ['moor', [], 'example', '88: 10 short 4; 8 easy-to-say 1'],
    ['moor', [], 'co.uk', '85: 10 short 4; 8 easy-to-say 1; -3 long-ending 2,co.uk'],
    ['moor', [], 'a.b.c', '82: 10 short 4; 8 easy-to-say 1; -6 long-ending 3,a.b.c'],
    ['vvave', [], '', '86: 10 short 5; 8 easy-to-say 1; -2 runs-together vv'],
    ['clay', [], '', '86: 10 short 4; 8 easy-to-say 1; -2 runs-together cl'],
    ['p\u0430y', [], '', '60: 10 short 3; -20 looks-like \u0430,a'],
    [
      '\u0430'.repeat(5),
      [],
      '',
      '20: 10 short 5; -20 looks-like \u0430,a; -20 looks-like \u0430,a; -20 looks-like \u0430,a',
    ],
  ])('%s, of a site about %j, under .%s', (word, about, ending, expected) => {
    const { points, reasons } = scoreName(word, about, ending);
    const told = reasons.map(({ points: each, message }) =>
      `${each} ${message.code.replace('name-score.', '')} ${Object.values(message.parameters).join()}`.trim(),
    );
    expect(`${points}: ${told.join('; ')}`).toBe(expected);
  });
});

describe('names near one', () => {
  it.each<[string, string[], number | undefined, string[]]>([
    [
      'lantern-moor',
      ['lanternmoor', 'observatory', 'sky', 'la'],
      undefined,
      [
        'lantern-moorlanternmoor',
        'lantern-moorobservatory',
        'lantern-moorsky',
        'lanternmoor',
        'lanternmoorobservatory',
        'thelantern-moor',
        'visitlantern-moor',
        'atlantern-moor',
        'lantern-moor-lanternmoor',
        'lantern-moor-observatory',
        'lantern-moor-sky',
        'lantern-mooronline',
      ],
    ],
    [
      'www-moor',
      ['sky', 'dome'],
      undefined,
      [
        'moor',
        'moorsky',
        'moordome',
        'skydome',
        'themoor',
        'visitmoor',
        'atmoor',
        'moor-sky',
        'moor-dome',
        'mooronline',
        'moorsite',
        'moorlive',
      ],
    ],
    [
      'moor',
      ['moorland', 'sky', 'ab'],
      undefined,
      ['moorsky', 'moorlandsky', 'themoor', 'visitmoor', 'atmoor', 'moor-sky', 'mooronline', 'moorsite', 'moorlive'],
    ],
    ['\u4ED6', ['moor', 'sky', 'x'], undefined, ['moorsky', 'moor', 'sky']],
    ['moor', ['sky'], 3, ['moorsky', 'sky', 'themoor']],
    // No longer than forty letters.
    ['m'.repeat(38), [], undefined, [`at${'m'.repeat(38)}`]],
    ['m'.repeat(37), [], undefined, [`the${'m'.repeat(37)}`, `at${'m'.repeat(37)}`]],
  ])('%s, of a site about %j', (word, about, most, expected) => {
    expect(proposeAlternativeWords(word, about, ...(most === undefined ? [] : [most]))).toEqual(expected);
  });

  it('words of a site are those of its name, then those that stand in more than one title', () => {
    expect(
      findWordsOfSite('The Lantern Moor 2016', [
        'Visit the dome',
        'The dome by night',
        'Night sky',
        'Sky',
        'dome dome',
      ]),
    ).toEqual(['lantern', 'moor', 'dome', 'night', 'sky']);
    expect(findWordsOfSite('a b', ['cc dd'])).toEqual([]);
    expect(findWordsOfSite('one1 two2 three', ['four five', 'four five'], 4)).toEqual([
      'one1',
      'two2',
      'three',
      'five',
    ]);
  });
});

describe('what is typed', () => {
  it.each([
    ['https://www.Moor.example:8080/x?y#z', 'www.moor.example'],
    ['  moor.example.  ', 'moor.example'],
    ['moor.example?x', 'moor.example'],
    ['moor.example#x', 'moor.example'],
    ['', 'empty '],
    ['a b.c', 'spaces '],
    ['\u{1F600}.example', 'pictures '],
    ['p\u0430ypal.example', 'scripts-mixed Latin,Cyrillic'],
    ['\u65e5\u672ca\u30ab.example', 'xn--a-xeuq75rncb.example'],
    ['\ud55c\u6f22.example', 'xn--hext49s.example'],
    ['\u03b1\u0430.example', 'scripts-mixed Cyrillic,Greek'],
    ['\u0430.p\u0430.example', 'scripts-mixed Latin,Cyrillic'],
    ['\u0430\u0431.example', 'xn--80ac.example'],
    ['localhost', 'nowhere localhost'],
    ['a.local', 'nowhere local'],
    ['a.onion', 'nowhere onion'],
    ['a.alt', 'nowhere alt'],
    ['xn--a.example', 'not-allowed '],
    ['a_b.example', 'letter _'],
    ['-a.example', 'hyphen -a'],
    ['10', 'numeric '],
  ])('%s: %s', (text, expected) => {
    const typed = readTypedName(text);
    expect(
      typed.ok
        ? typed.name
        : `${typed.reason.code.replace('name-fault.', '')} ${Object.values(typed.reason.parameters).join()}`,
    ).toBe(expected);
  });
});

describe('what a name costs', () => {
  const price = { currency: 'EUR', firstYearCents: 500, renewalCents: 1205, privacyCents: 100, longTermPercent: 1 };
  it.each([
    [1, false, 500, 500, 1205, 0],
    [2, false, 1688, 844, 1205, 0],
    [2, true, 1888, 944, 1305, 200],
    [5, false, 5108, 1022, 1205, 0],
  ])('over %d years, privately: %s', (years, isPrivate, totalCents, perYearCents, renewalCents, privacyCents) => {
    expect(reckonCost(price, years, isPrivate)).toEqual({
      years,
      totalCents,
      perYearCents,
      renewalCents,
      privacyCents,
    });
  });

  it('of a name under an ending that is sold inside another the longer one counts', () => {
    const sold = ['example', 'science.example'];
    expect(splitName('a.b.example', sold)).toEqual({ registrable: 'b.example', ending: 'example', word: 'b' });
    expect(splitName('example', sold)).toEqual({ registrable: undefined, ending: 'example', word: 'example' });
    expect(splitName('x.science.example', ['science.example', 'example']).ending).toBe('science.example');
  });
});
