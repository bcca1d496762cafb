import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitAddress } from '../address/index.ts';
import {
  decide,
  indexRules,
  lintRules,
  describeRuleProblem,
  prove,
  type Rule,
  type RuleFaultMessage,
} from './index.ts';

const files = new Set(['index.html', 'visit/index.html', 'about.html', 'sky/mars.html']);
const known = (...addresses: string[]) => addresses.map(splitAddress);
/** The message with what fills it, one after another. */
const said = ({ code, parameters }: RuleFaultMessage) => [code, ...Object.values(parameters)].join(' | ');
const told = (rules: readonly Rule[], ...addresses: string[]) =>
  lintRules(rules, files, known(...addresses)).map(
    (problem) => `${problem.from} ${problem.kind}: ${said(describeRuleProblem(problem))}`,
  );

describe('rules that have to change', () => {
  it.each<[string, Rule[], string[]]>([
    [
      'a circle',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 302, to: '/a' },
      ],
      ['/a loop: rule-fault.circle | /a → /b', '/b loop: rule-fault.circle | /b → /a'],
    ],
    [
      'a chain, with where it ends',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 301, to: '/c' },
        { from: '/c', status: 301, to: '/visit/' },
      ],
      [
        '/a chain: rule-fault.detour | 3 | /a → /b → /c → /visit/ | /visit/',
        '/b chain: rule-fault.detour | 2 | /b → /c → /visit/ | /visit/',
      ],
    ],
    [
      'a detour by the slash that is missing',
      [{ from: '/a', status: 301, to: '/visit' }],
      ['/a chain: rule-fault.detour | 2 | /a → /visit → /visit/ | /visit/'],
    ],
    [
      'a chain to what is gone',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 410 },
      ],
      ['/a chain: rule-fault.detour-to-gone | 1 | /a → /b'],
    ],
    [
      'a chain to another host',
      [
        { from: '/a', status: 301, to: '/b' },
        { from: '/b', status: 301, to: 'https://elsewhere.example/' },
      ],
      ['/a chain: rule-fault.detour | 2 | /a → /b → https://elsewhere.example/ | https://elsewhere.example/'],
    ],
    ['a dead end', [{ from: '/a', status: 301, to: '/nothing/' }], ['/a dead: rule-fault.leads-nowhere | /nothing/']],
    [
      'what a live page answers first',
      [{ from: '/about.html', status: 301, to: '/visit/' }],
      ['/about.html idle: rule-fault.page-first | /about.html'],
    ],
    [
      'two for one in another spelling',
      [
        { from: '/A', status: 301, to: '/visit/', ignoreCase: true },
        { from: '/a', status: 301, to: '/about.html' },
      ],
      ['/a twice: rule-fault.twice | /A'],
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
      '/old/:x dead: rule-fault.leads-many-nowhere | 2 | /sky/venus.html',
      '/old/:name.html idle: rule-fault.rule-first | /old/:x',
      '/never/seen/:x idle: rule-fault.rule-first | /never/*',
    ]);
    expect(told([{ from: '/about:x?.html', status: 301, to: '/visit/', isPattern: true }], '/about.html')).toEqual([
      '/about:x?.html idle: rule-fault.page-first | /about.html',
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
