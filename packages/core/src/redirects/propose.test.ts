import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatAddress, splitAddress } from '../address/index.ts';
import { decide, indexRules, proposePatterns, type Rule } from './index.ts';

const files = new Set(['index.html', 'journal/red-moon/index.html', 'visit/index.html']);
const rule = (from: string, to: string): Rule => ({ from, status: 301, to });
const propose = (rules: readonly Rule[], ...known: string[]) =>
  proposePatterns(rules, new Set(rules.map(({ from }) => from)), files, known.map(splitAddress));
const NEWS = ['2016/05/red-moon', '2017/11/long-night', '2018/01/first-snow', '2019/07/comet'].map((part) =>
  rule(`/news/${part}.html`, `/journal/${part.split('/')[2]}/`),
);

describe('proposed', () => {
  it('is what repeats parts of the address, as narrow as it can be, with what becomes of unknown ones', () => {
    expect(propose(NEWS)).toEqual([
      {
        text: '/news/:year(\\d{4})/:month(\\d{2})/:slug.html',
        status: 301,
        target: '/journal/:slug/',
        replaces: NEWS.map(({ from }) => from),
        unknown: { address: '/news/1907/07/zq7.html', to: '/journal/zq7/', isThere: false },
      },
    ]);
  });

  it('is a branch that leads to one place, or is gone', () => {
    const shop = ['/shop/a.php', '/shop/b.php', '/shop/old/c.php', '/shop/old/d.php'];
    expect(
      propose(shop.map((from) => ({ from, status: 410 }))).map(({ text, status, target, replaces }) => [
        text,
        status,
        target,
        replaces.length,
      ]),
    ).toEqual([['/shop/*', 410, undefined, 4]]);
    expect(
      propose(shop.map((from) => rule(from, '/visit/'))).map(({ text, target, unknown }) => [text, target, unknown]),
    ).toEqual([['/shop/*', '/visit/', { address: '/shop/zq7', to: '/visit/', isThere: true }]]);
  });
});

describe('not proposed', () => {
  it.each<[string, Rule[], string[]]>([
    ['where a known old address would be answered otherwise', NEWS, ['/news/2020/02/never-settled.html']],
    ['for a few', NEWS.slice(1), []],
    [
      'for what has nothing in common',
      [
        rule('/a/b.html', '/visit/'),
        rule('/c/d.html', '/visit/'),
        rule('/e/f.html', '/visit/'),
        rule('/g/h.html', '/visit/'),
      ],
      [],
    ],
    ['for a whole site', ['a', 'b', 'c', 'd', 'e'].map((name) => rule(`/${name}.html`, `/pages/${name}/`)), []],
  ])('%s', (_, rules, known) => expect(propose(rules, ...known)).toEqual([]));

  it('for rules that were made by themselves', () => {
    expect(proposePatterns(NEWS, new Set(), files, [])).toEqual([]);
  });
});

it('every known address is answered as before when one that is proposed is taken', () => {
  const segment = fc.constantFrom('news', 'shop', '2016', '2017', '05', 'a', 'b', 'c', 'visit');
  const from = fc
    .tuple(fc.array(segment, { minLength: 1, maxLength: 3 }), fc.constantFrom('', '/', '.html', '.php'))
    .map(([parts, ending]) => `/${parts.join('/')}${ending}`);
  const to = fc
    .tuple(fc.constantFrom('journal', 'visit', 'store'), fc.constantFrom('a', 'b', 'c', 'x'))
    .map((parts) => `/${parts.join('/')}/`);
  const echo = fc
    .tuple(fc.constantFrom('news', 'shop'), fc.integer({ min: 1, max: 40 }))
    .map(([branch, n]) => rule(`/${branch}/n${n}.html`, `/journal/n${n}/`));
  const rules = fc.uniqueArray(
    fc.oneof(
      { weight: 3, arbitrary: echo },
      fc.tuple(from, to).map(([a, b]) => rule(a, b)),
      from.map((a): Rule => ({ from: a, status: 410 })),
    ),
    { selector: ({ from: a }) => a, maxLength: 30 },
  );
  let proposed = 0;
  fc.assert(
    fc.property(rules, fc.array(from, { maxLength: 10 }), (all, known) => {
      const addresses = [...known, ...all.map(({ from: a }) => a)].map(splitAddress);
      const proposals = proposePatterns(all, new Set(all.map(({ from: a }) => a)), files, addresses);
      proposed += proposals.length;
      const then = indexRules(all);
      const answer = (address: ReturnType<typeof splitAddress>, index: typeof then) => {
        const found = decide(address, files, index);
        return found.kind === 'redirect' ? `${found.status} ${found.location}` : found.kind;
      };
      for (const { text, status, target, replaces } of proposals) {
        const now = indexRules([
          ...all.filter(({ from: a }) => !replaces.includes(a)),
          { from: text, status, isPattern: true, ...(target === undefined ? {} : { to: target }) },
        ]);
        for (const address of addresses)
          expect([text, formatAddress(address), answer(address, now)]).toEqual([
            text,
            formatAddress(address),
            answer(address, then),
          ]);
      }
    }),
    // Few of them lead to a proposal, and enough have to.
    { numRuns: 400 },
  );
  expect(proposed).toBeGreaterThan(10);
});
