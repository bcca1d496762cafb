import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitAddress } from '../address/index.ts';
import { decide, indexRules, lintRules, problemWords, prove, type Rule } from './index.ts';

const files = new Set(['index.html', 'visit/index.html', 'about.html', 'sky/mars.html']);
const known = (...addresses: string[]) => addresses.map(splitAddress);
const told = (rules: readonly Rule[], ...addresses: string[]) =>
  lintRules(rules, files, known(...addresses)).map(
    (problem) => `${problem.from} ${problem.kind}: ${problemWords(problem)}`,
  );

describe('rules that have to change', () => {
  it.each<[string, Rule[], string[]]>([
    [
      'a circle',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 302, to: '/a' },
      ],
      ['/a loop: goes in a circle: /a → /b', '/b loop: goes in a circle: /b → /a'],
    ],
    [
      'a chain, with where it ends',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 301, to: '/c' },
        { from: '/c', status: 301, to: '/visit/' },
      ],
      ['/a chain: 3 steps until /visit/: /a → /b → /c → /visit/', '/b chain: 2 steps until /visit/: /b → /c → /visit/'],
    ],
    [
      'a detour by the slash that is missing',
      [{ from: '/a', status: 301, to: '/visit' }],
      ['/a chain: 2 steps until /visit/: /a → /visit → /visit/'],
    ],
    [
      'a chain to what is gone',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 410 },
      ],
      ['/a chain: 1 step until it is gone (410): /a → /b'],
    ],
    [
      'a chain to another host',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 301, to: 'https://elsewhere.example/' },
      ],
      ['/a chain: 2 steps until https://elsewhere.example/: /a → /b → https://elsewhere.example/'],
    ],
    ['a dead end', [{ from: '/a', status: 301, to: '/nothing/' }], ['/a dead: nothing is at /nothing/']],
    [
      'what a live page answers first',
      [{ from: '/about.html', status: 301, to: '/visit/' }],
      ['/about.html idle: never fires: the live page /about.html answers first'],
    ],
    [
      'two for one in another spelling',
      [
        { from: '/A', status: 301, to: '/visit/', ignoreCase: true },
        { from: '/a', status: 301, to: '/about.html' },
      ],
      ['/a twice: /A is for the same address in any spelling, and leads elsewhere'],
    ],
  ])('%s', (_, rules, expected) => expect(told(rules)).toEqual(expected));

  it('none where all is well', () => {
    expect(
      told(
        [
          { from: '/a', status: 301, to: '/visit/' },
          { from: '/?p=1', status: 301, to: '/about.html#x' },
          { from: '/gone', status: 410 },
          { from: '/out', status: 302, to: 'https://elsewhere.example/' },
          { from: '/A', status: 301, to: '/visit/', ignoreCase: true },
          { from: '/old/:x', status: 301, to: '/sky/:x.html', isPattern: true },
        ],
        '/old/mars',
      ),
    ).toEqual([]);
  });

  it('patterns: dead ends counted, and what answers before them', () => {
    const all: Rule[] = [
      { from: '/old/:x', status: 301, to: '/sky/:x.html', isPattern: true },
      { from: '/old/:name.html', status: 301, to: '/:name', isPattern: true },
      { from: '/never/*', status: 301, to: '/visit/', isPattern: true },
      { from: '/never/seen/:x', status: 301, to: '/visit/', isPattern: true },
    ];
    expect(told(all, '/old/mars', '/old/venus', '/old/pluto')).toEqual([
      '/old/:x dead: 2 old addresses end at nothing, such as /sky/venus.html',
      '/old/:name.html idle: never fires: /old/:x answers first',
      '/never/seen/:x idle: never fires: /never/* answers first',
    ]);
    expect(told([{ from: '/about:x?.html', status: 301, to: '/visit/', isPattern: true }], '/about.html')).toEqual([
      '/about:x?.html idle: never fires: the live page /about.html answers first',
    ]);
  });
});

describe('whatever the rules', () => {
  const at = fc.constantFrom('/a', '/b', '/c', '/d', '/visit/', '/about.html', '/visit');
  const rules = fc
    .uniqueArray(fc.record({ from: at, status: fc.constantFrom(301 as const, 302 as const, 410 as const), to: at }), {
      selector: ({ from }) => from,
      maxLength: 6,
    })
    .map((all) => all.map(({ from, status, to }): Rule => (status === 410 ? { from, status } : { from, status, to })));

  it('one without a problem is followed in one step to an end that is meant', () => {
    fc.assert(
      fc.property(rules, (all) => {
        const problems = new Set(lintRules(all, files, []).map(({ from }) => from));
        const index = indexRules(all);
        for (const { from, status } of all) {
          if (problems.has(from)) continue;
          const { hops, end } = prove(splitAddress(from), files, index);
          expect([status === 410 ? 'gone' : 'page', status === 410 ? 1 : 2]).toEqual([end.kind, hops.length]);
        }
      }),
    );
  });

  it('flattened as it is told, a chain is none any more and ends where it did', () => {
    fc.assert(
      fc.property(rules, (all) => {
        const before = indexRules(all);
        const finals = new Map(
          lintRules(all, files, []).flatMap((problem) =>
            problem.kind === 'chain' ? [[problem.from, problem.final] as const] : [],
          ),
        );
        const flat = all.map((rule): Rule =>
          !finals.has(rule.from)
            ? rule
            : finals.get(rule.from) === undefined
              ? { from: rule.from, status: 410 }
              : { ...rule, to: finals.get(rule.from) ?? '' },
        );
        expect(lintRules(flat, files, []).filter(({ kind }) => kind === 'chain')).toEqual([]);
        for (const { from } of all)
          expect(prove(splitAddress(from), files, indexRules(flat)).end).toEqual(
            prove(splitAddress(from), files, before).end,
          );
        // Still the same rule that answers.
        for (const { from } of flat)
          expect(decide(splitAddress(from), files, indexRules(flat)).kind).toBe(
            decide(splitAddress(from), files, before).kind === 'redirect' &&
              finals.has(from) &&
              finals.get(from) === undefined
              ? 'gone'
              : decide(splitAddress(from), files, before).kind,
          );
      }),
    );
  });
});
