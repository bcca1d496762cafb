/**
 * The order in which a request is decided. Sources: RFC 9110, sections 15.4 and 15.5.11; RFC 3986, section 3.4 (query) and
 * 4.2; that a folder is sent on with its slash is common practice of web servers, no source.
 */
import { describe, expect, it } from 'vitest';
import { splitAddress } from '../address/index.ts';
import { decide, listFilesInQuestion, withQuery } from './decide.ts';
import { indexRules, lintRules, describeRuleProblem, parseRules, serialiseRules, type Rule } from './index.ts';

const FILES = new Set(['index.html', 'visit/index.html', 'about.html', 'bus.html']);
const asked = (address: string, ...rules: Rule[]) => {
  const answer = decide(splitAddress(address), FILES, indexRules(rules));
  return answer.kind === 'file'
    ? answer.file
    : answer.kind === 'redirect'
      ? `${answer.status} ${answer.location}${answer.rule ? '' : ' by itself'}`
      : answer.kind;
};
const rule = (from: string, to: string | undefined, more: Partial<Rule> = {}): Rule => ({
  from,
  status: to === undefined ? 410 : 301,
  ...(to === undefined ? {} : { to }),
  ...more,
});
const pattern = (from: string, to: string | undefined, more: Partial<Rule> = {}) =>
  rule(from, to, { isPattern: true, ...more });

describe('a request is decided', () => {
  it.each<[string, string, Rule[], string]>([
    ['by a file', '/visit/', [], 'visit/index.html'],
    ['by a file before its rule', '/visit/', [rule('/visit/', '/x')], 'visit/index.html'],
    ['by a file, whatever its query', '/visit/?a', [], 'visit/index.html'],
    ['by a rule for exactly this query before the file', '/visit/?a', [rule('/visit/?a', '/x')], '301 /x'],
    [
      'by a pattern that asks for a query before the file',
      '/visit/?a=1',
      [pattern('/visit/\\?a=:b', '/x/:b')],
      '301 /x/1',
    ],
    [
      'by a file where that pattern asks for another query',
      '/visit/?c=1',
      [pattern('/visit/\\?a=:b', '/x/:b')],
      'visit/index.html',
    ],
    ['by a rule', '/a', [rule('/a', '/b', { status: 308 })], '308 /b'],
    ['by a rule, the query going along', '/a?c', [rule('/a', '/b')], '301 /b?c'],
    ['by a rule that drops it', '/a?c', [rule('/a', '/b', { dropsQuery: true })], '301 /b'],
    ['by what is gone', '/a', [rule('/a', undefined)], 'gone'],
    [
      'by a rule letter by letter before one that overlooks',
      '/a',
      [rule('/A', '/x', { ignoreCase: true }), rule('/a', '/b')],
      '301 /b',
    ],
    ['by a rule that overlooks letter case', '/aB', [rule('/Ab', '/x', { ignoreCase: true })], '301 /x'],
    ['by a rule that overlooks a slash', '/a/', [rule('/a', '/x', { anySlash: true })], '301 /x'],
    ['not by one that overlooks neither', '/A', [rule('/a', '/x')], 'missing'],
    ['not by letter case where the slash is overlooked', '/A/', [rule('/a', '/x', { anySlash: true })], 'missing'],
    ['not by a slash where letter case is overlooked', '/a/', [rule('/a', '/x', { ignoreCase: true })], 'missing'],
    ['by the folder’s slash', '/visit?a', [], '301 /visit/?a by itself'],
    ['by the folder’s slash before a pattern', '/visit', [pattern('/*', '/x')], '301 /visit/ by itself'],
    ['by a rule before the folder’s slash', '/visit', [rule('/visit', '/x')], '301 /x'],
    ['by the first pattern', '/a/b', [pattern('/a/*', '/1/:0'), pattern('/*', '/2')], '301 /1/b'],
    ['by a pattern with the query', '/a/b?c', [pattern('/a/*', '/x/:0')], '301 /x/b?c'],
    ['by a pattern of what is gone', '/a/b', [pattern('/a/*', undefined)], 'gone'],
    ['by nothing', '/a', [], 'missing'],
    ['by the answer of another address', '/short', [rule('/short', '/about.html', { status: 200 })], 'about.html'],
    [
      'by sending on from a file that answers another address',
      '/about.html',
      [rule('/short', '/about.html', { status: 200 }), rule('/about.html', '/short')],
      '301 /short',
    ],
    ['by that file where it answers none', '/about.html', [rule('/about.html', '/short')], 'about.html'],
    [
      'by nothing where the answering file is not there',
      '/short',
      [rule('/short', '/none.html', { status: 200 })],
      'missing',
    ],
    ['by the same address here, for an old domain', '//old.example/visit/?a', [], '301 /visit/?a by itself'],
    ['by a rule of the old domain', '//old.example/a', [rule('//old.example/a', '/b')], '301 /b'],
    [
      'by no file of the site, for an old domain',
      '//old.example/about.html',
      [pattern('//old.example/*', '/x')],
      '301 /x',
    ],
  ])('%s', (_, address, rules, expected) => expect(asked(address, ...rules)).toBe(expected));

  it.each([
    ['/a', undefined, '/a'],
    ['/a', 'b', '/a?b'],
    ['/a?c', 'b', '/a?c&b'],
    ['/a#d', 'b', '/a?b#d'],
    ['/a?c#d', 'b', '/a?c&b#d'],
  ])('%s with the query %s is %s', (to, query, expected) => expect(withQuery(to, query)).toBe(expected));

  it('after asking for no more files than it has to', () => {
    const rules = indexRules([rule('/short', '/about.html', { status: 200 }), rule('/b', '/about.html')]);
    expect(listFilesInQuestion(splitAddress('/short'), rules)).toContain('about.html');
    expect(listFilesInQuestion(splitAddress('/b'), rules)).not.toContain('about.html');
    expect(listFilesInQuestion(splitAddress('/visit'), rules)).toContain('visit/index.html');
  });
});

describe('what is wrong with rules', () => {
  const told = (rules: Rule[], ...known: string[]) =>
    lintRules(rules, FILES, known.map(splitAddress)).map((problem) =>
      [
        problem.from,
        describeRuleProblem(problem).code.replace('rule-fault.', ''),
        ...Object.values(describeRuleProblem(problem).parameters),
      ].join(' '),
    );

  it.each<[string, Rule[], string[], string[]]>([
    ['nothing', [rule('/a', '/visit/'), rule('/b', undefined), rule('/c', 'https://x.example/')], [], []],
    ['a page answers first', [rule('/visit/', '/about.html')], [], ['/visit/ page-first /visit/']],
    ['an answer of another address is none', [rule('/short', '/about.html', { status: 200 })], [], []],
    [
      'another spelling leads elsewhere',
      [rule('/A', '/visit/', { ignoreCase: true }), rule('/a', '/about.html')],
      [],
      ['/a twice /A'],
    ],
    [
      'another spelling leads to the same',
      [rule('/A', '/visit/', { ignoreCase: true }), rule('/a', '/visit/')],
      [],
      [],
    ],
    [
      'another status for the same',
      [rule('/A', '/visit/', { ignoreCase: true }), rule('/a', '/visit/', { status: 302 })],
      [],
      ['/a twice /A'],
    ],
    [
      'a pattern that leads known addresses nowhere',
      [pattern('/n/*', '/none/:0')],
      ['/n/a', '/n/b'],
      ['/n/* leads-many-nowhere 2 /none/a'],
    ],
    ['a pattern that leads one nowhere', [pattern('/n/*', '/none/:0')], ['/n/a'], ['/n/* leads-nowhere /none/a']],
    [
      'a pattern behind one that takes all',
      [pattern('/n/*', '/visit/'), pattern('/n/a', '/about.html')],
      ['/n/a'],
      ['/n/a rule-first /n/*'],
    ],
    [
      'a pattern behind one that takes all, unseen',
      [pattern('/n/*', '/visit/'), pattern('/n/:a', '/about.html')],
      [],
      ['/n/:a rule-first /n/*'],
    ],
    [
      'a pattern with something left to it',
      [rule('/n/a', '/visit/'), pattern('/n/*', '/visit/')],
      ['/n/a', '/n/b'],
      [],
    ],
    [
      'a pattern whose known addresses have rules of their own',
      [rule('/n/a', '/visit/'), pattern('/n/*', '/visit/')],
      ['/n/a'],
      ['/n/* rule-first /n/a'],
    ],
    [
      'a pattern that leads over a rule',
      [pattern('/n/*', '/m/:0'), rule('/m/a', '/visit/')],
      ['/n/a'],
      ['/n/* detour 2 /n/a → /m/a → /visit/ /visit/'],
    ],
    [
      'a pattern that leads in a circle before any detour',
      [pattern('/n/*', '/m/:0'), rule('/m/a', '/visit/'), rule('/m/b', '/n/b')],
      ['/n/a', '/n/b'],
      ['/m/b circle /m/b → /n/b', '/n/* circle /n/b → /m/b'],
    ],
  ])('%s', (_, rules, known, expected) =>
    expect(told(rules, ...known).map((each) => each.split(' ').slice(0, 2).join(' '))).toEqual(
      expected.map((each) => each.split(' ').slice(0, 2).join(' ')),
    ),
  );
});

describe('rules as they are kept', () => {
  it('are one line each, exact ones by address, patterns as they are tried', () => {
    const rules: Rule[] = [
      pattern('/z/*', '/y/:0', { ignoreCase: true }),
      rule('/b', '/c', { anySlash: true, dropsQuery: true, ignoreCase: true }),
      pattern('/a/*', undefined),
      rule('/a', undefined),
      rule('/s', '/s.html', { status: 200 }),
    ];
    const text = serialiseRules(rules);
    expect(text.split('\n').map((line) => line.slice(0, 12))).toEqual([
      '["/a",410,nu',
      '["/b",301,"/',
      '["/s",200,"/',
      '["/z/*",301,',
      '["/a/*",410,',
      '',
    ]);
    expect(new Set(parseRules(text))).toEqual(new Set(rules));
    expect(serialiseRules(parseRules(text))).toBe(text);
    expect(parseRules('')).toEqual([]);
  });
});
