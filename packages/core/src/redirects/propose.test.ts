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

describe('proposed patterns', () => {
  const said = (rules: readonly Rule[], ...known: string[]) =>
    propose(rules, ...known).map(({ text, target, unknown: { address, to } }) => [text, target, address, to]);
  const numbers = (names: readonly string[]) => names.map((name) => rule(`/shop/item/${name}.html`, `/store/${name}/`));

  it('take only numbers where all of them are, and a year twice under two names', () => {
    expect(said(numbers(['12', '7', '905', '31337']))).toEqual([
      ['/shop/item/:id(\\d+).html', '/store/:id/', '/shop/item/90713.html', '/store/90713/'],
    ]);
    expect(said(numbers(['12', '7', '905', 'abc']))).toEqual([
      ['/shop/item/:slug.html', '/store/:slug/', '/shop/item/zq7.html', '/store/zq7/'],
    ]);
    const years = ['2016/2017', '2011/2012', '2013/2018', '2014/2019'].map((both) =>
      rule(`/a/${both.replace('/', '/b/')}.html`, `/x/${both}/`),
    );
    expect(said(years)).toEqual([
      ['/a/:year(\\d{4})/b/:year3(\\d{4}).html', '/x/:year/:year3/', '/a/1907/b/1907.html', '/x/1907/1907/'],
    ]);
  });

  it('keep the first part, letters that mean something, and the ending of the target', () => {
    expect(
      said(
        ['2016/a', '2017/b', '2018/c', '2019/d'].map((part) => rule(`/news/${part}/`, `/news/${part.slice(5)}.html`)),
      ),
    ).toEqual([['/news/:year(\\d{4})/:slug/', '/news/:slug.html', '/news/1907/zq7/', '/news/zq7.html']]);
    expect(said(['a', 'b', 'c', 'd'].map((name) => rule(`/x(1)/${name}`, `/y:z/${name}`)))).toEqual([
      ['/x\\(1\\)/:slug', '/y\\:z/:slug', '/x(1)/zq7', '/y:z/zq7'],
    ]);
  });

  const branch = (folder: string, count: number) =>
    Array.from({ length: count }, (_, n) => rule(`${folder}p${n}.html`, '/visit/'));
  const texts = (rules: readonly Rule[], ...known: string[]) =>
    propose(rules, ...known).map(({ text, replaces }) => [text, replaces.length]);

  it('stand by how many rules go for them, the narrower first, then by their letters', () => {
    expect(
      texts([...branch('/bb/', 4), ...branch('/aa/', 4), ...branch('/warehouse/', 4), ...branch('/b/', 5)]),
    ).toEqual([
      ['/b/*', 5],
      ['/warehouse/*', 4],
      ['/aa/*', 4],
      ['/bb/*', 4],
    ]);
  });

  it('say each rule once: the widest that holds, else what is below it', () => {
    const rules = [...branch('/old/', 3), ...branch('/old/deep/', 4)];
    expect(texts(rules)).toEqual([['/old/*', 7]]);
    expect(texts(rules, '/old/unknown')).toEqual([['/old/deep/*', 4]]);
    expect(texts(branch('/old/deep/', 4))).toEqual([['/old/deep/*', 4]]);
    expect(texts([...branch('/old/', 3), ...branch('/old/deep/', 3)], '/old/unknown')).toEqual([]);
  });

  it.each<[string, (rule: Rule) => Rule]>([
    ['a query', (each) => ({ ...each, from: `${each.from}?a=b` })],
    ['another host', (each) => ({ ...each, from: `//old.example${each.from}` })],
    ['a query that is dropped', (each) => ({ ...each, dropsQuery: true })],
    ['letter case that does not count', (each) => ({ ...each, ignoreCase: true })],
    ['a slash that does not count', (each) => ({ ...each, anySlash: true })],
  ])('leave rules with %s alone', (_, change) => {
    expect(texts(branch('/old/', 5))).toEqual([['/old/*', 5]]);
    expect(texts(branch('/old/', 5).map(change))).toEqual([]);
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
