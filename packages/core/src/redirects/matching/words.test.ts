/**
 * Words of addresses and texts, and why a page is suggested, reckoned by hand. Sources: L. R. Dice, "Measures of the
 * Amount of Ecologic Association Between Species" (1945); UAX 15 (letters and marks). Endings and names of folders'
 * pages are common practice, no source.
 */
import { describe, expect, it } from 'vitest';
import { explain } from './explain.ts';
import {
  splitAddressWords,
  decodePart,
  glueWords,
  isNumber,
  isWord,
  foldWord,
  splitSpelledWords,
  listTrigrams,
  splitWords,
} from './words.ts';

describe('an address', () => {
  const names = (address: string) => {
    const { folders, last } = splitAddressWords(address);
    return [...folders, last];
  };

  it.each([
    'htm',
    'html',
    'SHTML',
    'xhtm',
    'php',
    'php5',
    'asp',
    'aspx',
    'jsp',
    'jspx',
    'cfm',
    'cgi',
    'pl',
    'do',
    'md',
    'rst',
    'txt',
  ])('loses .%s, which says nothing of its page', (ending) => expect(names(`/a.${ending}`)).toEqual(['a']));

  it.each([
    ['/a.pdf', ['apdf']],
    ['/a.html.b', ['ahtmlb']],
    ['/a.thtml', ['athtml']],
    ['/a/b/', ['a', 'b']],
    ['//a//b', ['a', 'b']],
    ['/blog/welcome', ['blog']],
    ['/Default.aspx', ['']],
    ['/home/a', ['home', 'a']],
    ['/', ['']],
    ['', ['']],
    ['/a#b/c', ['a']],
    ['/a?b', ['a']],
    ['/a?b=', ['a']],
    ['/a?name=dome&id=7', ['adome']],
    ['/?id=7', ['7']],
    ['/?a=b?c', ['bc']],
    ['/a+b/c%2Bd', ['ab', 'cd']],
  ])('%s is %j', (address, expected) => expect(names(address)).toEqual(expected));

  it.each([
    ['/photo?n=12', ['photo'], [], ['12'], ['12']],
    ['/2016/05/red-moon/', ['red', 'moon'], [], [], ['2016', '05']],
    ['/news/2016/a-7?b=7', [], ['new'], ['7', '7'], ['7', '2016']],
    ['/opening-times/a', [], ['open', 'time'], [], []],
  ])('%s has words, ids and numbers', (address, lastWords, folderWords, ids, numbers) =>
    expect(splitAddressWords(address)).toMatchObject({ lastWords, folderWords, ids, numbers }),
  );
});

describe('words', () => {
  it.each([
    ['XMLFiles', ['xml', 'file']],
    ['MercuryTransit', ['mercury', 'transit']],
    ['iPhone', ['i', 'phone']],
    ['abc123def', ['abc', '123', 'def']],
    ['testing string', ['test', 'string']],
    ['openings', ['opening']],
    ['glass gas news', ['glass', 'gas', 'new']],
    ['naïve Ünder', ['naive', 'under']],
    ['ＡＢ', ['ab']],
    ['東京', ['東京']],
    ['a--b__c', ['a', 'b', 'c']],
    ['', []],
  ])('of %j are %j', (text, expected) => {
    expect(splitWords(text)).toEqual(expected);
    expect(splitSpelledWords(text).map(({ word }) => word)).toEqual(expected);
  });

  it('are kept as they are written, for people', () =>
    expect(splitSpelledWords('Visits É')).toEqual([
      { word: 'visit', spelled: 'visits' },
      { word: 'e', spelled: 'é' },
    ]));

  it('say something by themselves, or do not', () => {
    expect(['a', 'ab', '東', 'я', '12', 'é'].map(isWord)).toEqual([false, true, true, true, false, false]);
    expect(['12', '１２', 'a1', ''].map(isNumber)).toEqual([true, true, false, false]);
  });

  it('are compared without marks, signs and cases', () => {
    expect(foldWord('ÉTÉ Å')).toBe('ete a');
    expect(glueWords('Dome_Hire-2 é')).toBe('domehire2e');
    expect(decodePart('a+b%20c')).toBe('a b c');
    expect(decodePart('%zz+')).toBe('%zz+');
  });

  it('are runs of three letters, each once', () => {
    expect(listTrigrams('')).toEqual([]);
    expect(listTrigrams('a')).toEqual(['^a$']);
    expect(listTrigrams('ab')).toEqual(['^ab', 'ab$']);
    expect(listTrigrams('aaaaa')).toEqual(['^aa', 'aaa', 'aa$']);
  });
});

describe('a suggestion is explained', () => {
  const why = (...of: Parameters<typeof explain>) =>
    explain(...of).map(({ kind, strength, words }) => [kind, Math.round(strength * 1000) / 1000, words.join(' ')]);

  it('by all that both pages have', () =>
    expect(
      why(
        {
          address: '/visit/getting_here.php',
          title: 'Getting here',
          headings: ['Dome hire', 'Prices'],
          text: 'The bus leaves the station hourly.',
        },
        {
          address: '/visit/getting-here/',
          title: 'Getting here today',
          headings: ['Hire prices'],
          text: 'Buses leave from the station.',
        },
      ),
    ).toEqual([
      ['address', 1, 'visit getting here'],
      ['title', 0.8, 'getting here'],
      ['headings', 0.8, 'hire prices'],
      ['text', 0.667, 'leaves station'],
    ]));

  it.each([
    // Fronts are the same place under two names.
    ['/index.php', '/', undefined, 1, ''],
    ['/', '/a/', undefined, 0, ''],
    ['/a/', '/', undefined, 0, ''],
    ['/1', '/2', undefined, 0, ''],
    // What the old address says may stand in the new title; a word of both counts once.
    ['/mercury.html', '/planets/', 'Mercury', 0.667, 'mercury'],
    ['/mercury.html', '/planets/', 'Venus', 0, ''],
    ['/mercury.html', '/mercury/', 'Mercury', 1, 'mercury'],
    // By ten of eleven and twelve runs of letters.
    ['/architectur', '/architecture/', undefined, 0.87, ''],
    ['/12', '/12/', undefined, 0, ''],
    ['/visit.php?place=moon', '/moon/', undefined, 0.667, 'moon'],
  ])('%s and %s, %s', (from, address, title, strength, words) => {
    const [first, ...more] = why({ address: from }, title === undefined ? { address } : { address, title });
    expect(first).toEqual(['address', strength, words]);
    expect(more).toEqual([]);
  });

  it('by no more words than are read', () => {
    const text = Array.from({ length: 15 }, (_, n) => `word${String.fromCharCode(97 + n)}`).join(' ');
    expect(why({ address: '/', text }, { address: '/', text })[1]?.[2]).toBe(text.split(' ').slice(0, 12).join(' '));
    expect(why({ address: '/', text: 'four' }, { address: '/', text: 'four' })).toHaveLength(1);
  });

  it('by what both have alone', () => {
    const one = { address: '/', title: 'Dome', headings: ['Dome'], text: 'Telescopes' };
    expect(why(one, { address: '/' })).toHaveLength(1);
    expect(why({ address: '/' }, one)).toHaveLength(1);
    expect(why({ address: '/', title: 'Architectur' }, { address: '/', title: 'Architecture' })[1]).toEqual([
      'title',
      0.87,
      '',
    ]);
  });
});
