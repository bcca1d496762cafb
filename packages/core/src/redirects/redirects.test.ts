import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseAddress, splitAddress } from '../address/index.ts';
import { filterRulesOfHost, filterRulesOfSite } from './exchange/index.ts';
import { matchPattern, readPattern } from './pattern/index.ts';
import {
  decide,
  splitHost,
  indexRules,
  writeWithHost,
  parseRules,
  prove,
  serialiseRules,
  withQuery,
  type Rule,
} from './index.ts';

const files = new Set(['index.html', 'visit/index.html', 'about.html', 'caf\u00e9/index.html']);
const rules = indexRules([
  { from: '/old', status: 301, to: '/visit/' },
  { from: '/visit.php?id=3', status: 308, to: '/visit/?from=old#times' },
  { from: '/?p=12', status: 301, to: '/about.html' },
  { from: '/about.html', status: 301, to: '/visit/' },
  { from: '/shop/', status: 410 },
  { from: '/away', status: 302, to: 'https://elsewhere.example/x?y=1' },
  { from: '/chain', status: 301, to: '/old' },
  { from: '/round', status: 301, to: '/and-round' },
  { from: '/and-round', status: 301, to: '/round' },
  { from: '/nowhere', status: 301, to: '/not-there' },
]);
const ask = (path: string, query?: string) => {
  const answer = decide({ path, query }, files, rules);
  return answer.kind === 'redirect'
    ? `${answer.status} ${answer.location}`
    : answer.kind === 'file'
      ? answer.file
      : answer.kind;
};

describe('what a host answers', () => {
  it.each([
    ['a page', '/visit/', undefined, 'visit/index.html'],
    ['a page with letters beyond ASCII', '/caf%C3%A9/', undefined, 'caf\u00e9/index.html'],
    ['a page, whatever the query', '/', 'utm_source=x', 'index.html'],
    ['an old address that is home with a query', '/', 'p=12', '301 /about.html'],
    ['a live page, not the rule for its address', '/about.html', undefined, 'about.html'],
    ['an old address', '/old', undefined, '301 /visit/'],
    ['an old address, keeping the visitor’s query', '/old', 'a=1&b', '301 /visit/?a=1&b'],
    ['a target with a query and a part, keeping both', '/away', 'z', '302 https://elsewhere.example/x?y=1&z'],
    ['an exact query, which is used up', '/visit.php', 'id=3', '308 /visit/?from=old#times'],
    ['another query, which is another address', '/visit.php', 'id=4', 'missing'],
    ['letter case as it is', '/Old', undefined, 'missing'],
    ['gone', '/shop/', undefined, 'gone'],
    ['a folder without its slash', '/visit', 'q', '301 /visit/?q'],
    ['an encoded slash as no folder', '/visit%2Findex.html', undefined, 'missing'],
  ] as const)('%s', (_, path, query, expected) => expect(ask(path, query)).toBe(expected));

  it('puts a kept query before the part of the page', () => expect(withQuery('/x#part', 'q=1')).toBe('/x?q=1#part'));
});

describe('a proof', () => {
  const end = (path: string) => prove({ path, query: undefined }, files, rules);

  it.each([
    ['/old', 1, 'page'],
    ['/chain', 2, 'page'],
    ['/visit/', 0, 'page'],
    ['/shop/', 0, 'gone'],
    ['/none', 0, 'missing'],
    ['/nowhere', 1, 'missing'],
    ['/away', 1, 'outside'],
    ['/round', 2, 'loop'],
  ] as const)('of %s takes %i hops and ends at: %s', (path, hops, kind) => {
    const proof = end(path);
    expect(proof.end.kind).toBe(kind);
    expect(proof.hops.filter(({ location }) => location !== undefined)).toHaveLength(hops);
  });

  it('ends, whatever the rules are', () => {
    const address = fc.constantFrom('/a', '/b', '/c', '/d', '/e?x=1', '/e');
    const rule = fc.record({
      from: address,
      status: fc.constantFrom(301 as const, 302 as const, 410 as const),
      to: address,
    });
    fc.assert(
      fc.property(fc.array(rule, { maxLength: 12 }), address, (list, start) => {
        const [path = '/', query] = start.split('?');
        const proof = prove({ path, query }, new Set(['d']), indexRules(list));
        expect(proof.hops.length).toBeLessThanOrEqual(21);
      }),
    );
  });
});

describe('rules in a file', () => {
  const rule: fc.Arbitrary<Rule> = fc.oneof(
    fc.record({
      from: fc.string(),
      status: fc.constantFrom(301 as const, 302 as const, 307 as const, 308 as const),
      to: fc.string(),
    }),
    fc.record({ from: fc.string(), status: fc.constant(410 as const) }),
  );

  it('read back as they were written, in one order whatever order they came in', () => {
    fc.assert(
      fc.property(fc.uniqueArray(rule, { selector: ({ from }) => from }), (list) => {
        const text = serialiseRules(list);
        expect(serialiseRules([...list].reverse())).toBe(text);
        expect(indexRules(parseRules(text))).toEqual(indexRules(list));
      }),
    );
  });

  it.each(['{}', '["/a",204,"/b"]', '["/a",301]', 'nonsense'])('are refused: %s', (line) =>
    expect(() => parseRules(line)).toThrow(SyntaxError),
  );
});

describe('patterns and less strict rules', () => {
  const rules: Rule[] = [
    { from: '/old.html', status: 301, to: '/new/' },
    { from: '/About/', status: 301, to: '/about-us/', ignoreCase: true, anySlash: true },
    { from: '/search', status: 302, to: '/find/', dropsQuery: true },
    { from: '/news/:year/:slug.html', status: 301, to: '/journal/:slug/', isPattern: true },
    { from: '/news/*', status: 410, isPattern: true },
    { from: '/?p=:id', status: 308, to: '/post/:id/', isPattern: true },
    { from: '/Shop/*', status: 301, to: '/', isPattern: true, ignoreCase: true },
    { from: '/*', status: 302, to: 'https://elsewhere.example/:0', isPattern: true },
  ];
  const index = indexRules(rules);
  const files = new Set(['index.html', 'news/2016/live.html', 'folder/index.html']);
  const answer = (text: string) => {
    const parsed = parseAddress(text);
    if (!parsed.ok) throw new Error(text);
    const found = decide(parsed.address, files, index);
    return found.kind === 'redirect' ? `${found.status} ${found.location}` : found.kind;
  };

  it.each([
    ['/old.html', '301 /new/'],
    ['/news/2016/mercury.html', '301 /journal/mercury/'],
    ['/news/2016/mercury.html?x=1', '301 /journal/mercury/?x=1'],
    ['/news/anything', 'gone'],
    // A live page always wins, and a folder without its slash is one.
    ['/news/2016/live.html', 'file'],
    ['/folder', '301 /folder/'],
    // A pattern with a query goes before the page at its path; what it held is in the target, so the query goes.
    ['/?p=7', '308 /post/7/'],
    ['/?q=7', 'file'],
    ['/ABOUT', '301 /about-us/'],
    ['/about/?a=b', '301 /about-us/?a=b'],
    ['/search?q=moon', '302 /find/'],
    ['/SHOP/mugs', '301 /'],
    ['/x/y', '302 https://elsewhere.example/x/y'],
  ])('%s is answered with %s', (asked, expected) => {
    expect(answer(asked)).toBe(expected);
  });

  it('are kept and read again as they were, patterns in their order', () => {
    const again = parseRules(serialiseRules(rules));
    expect(again.filter(({ isPattern }) => isPattern)).toEqual(rules.filter(({ isPattern }) => isPattern));
    expect(again.find(({ from }) => from === '/About/')).toEqual(rules[1]);
    for (const text of ['["/a",301]\n', '["/a",301,"/b",["isMagic"]]\n', '["/a",301,"/b",[],1]\n'])
      expect(() => parseRules(text)).toThrow(SyntaxError);
    expect(() => indexRules([{ from: '/(', status: 410, isPattern: true }])).toThrow(SyntaxError);
  });

  it('find by their first segment what trying one after another finds', () => {
    const segment = fc.constantFrom('a', 'b', 'A', ':x', '*', 'c-:y');
    const written = fc
      .array(segment, { minLength: 1, maxLength: 3 })
      .map((segments) => `/${segments.join('/')}`)
      .filter((text) => readPattern(text).ok);
    fc.assert(
      fc.property(
        fc.uniqueArray(written, { maxLength: 8 }),
        fc.array(fc.constantFrom('a', 'b', 'A', 'c-1'), { minLength: 1, maxLength: 3 }),
        fc.boolean(),
        (texts, path, ignoreCase) => {
          const all = indexRules(
            texts.map((from): Rule => ({
              from,
              status: 410,
              isPattern: true,
              ...(ignoreCase ? { ignoreCase: true } : {}),
            })),
          );
          const address = { path: `/${path.join('/')}`, query: undefined };
          const firstOne = texts.find((text) => {
            const reading = readPattern(text, { ignoreCase });
            return reading.ok && matchPattern(reading.pattern, address);
          });
          expect(all.pattern(address, false)?.rule.from).toBe(firstOne);
        },
      ),
    );
  });
});

describe('old domains', () => {
  const index = indexRules([
    { from: '//old.example/shop.php', status: 301, to: '/visit/' },
    { from: '/shop.php', status: 301, to: '/about.html' },
    { from: '//old.example/?p=1', status: 410 },
    { from: '//old.example/news/:slug', status: 308, to: '/:slug/', isPattern: true },
    { from: '/:any/x', status: 302, to: '/', isPattern: true },
  ]);
  const answer = (address: string) => {
    const a = decide(splitAddress(address), files, index);
    return a.kind === 'redirect' ? `${a.status} ${a.location}` : a.kind;
  };

  it.each([
    ['a rule of its own, not the site’s', '//old.example/shop.php?id=3', '301 /visit/?id=3'],
    ['the site’s, not that of the old domain', '/shop.php', '301 /about.html'],
    ['its own query', '//old.example/?p=1', 'gone'],
    ['a pattern of its own', '//old.example/news/moon', '308 /moon/'],
    ['no pattern of the site', '//old.example/a/x', '301 /a/x'],
    ['no page of the site', '//old.example/about.html', '301 /about.html'],
    ['another old domain', '//older.example/shop.php', '301 /shop.php'],
  ])('%s', (_, address, expected) => expect(answer(address)).toBe(expected));

  it('without a rule it leads to the same address here, and from there on', () => {
    expect(prove(splitAddress('//older.example/shop.php'), files, index)).toMatchObject({
      end: { kind: 'page', address: '/about.html' },
      hops: [{ status: 301 }, { status: 301 }, { status: 200 }],
    });
    expect(splitHost('//old.example')).toEqual({ host: 'old.example', address: '/' });
    expect(splitHost(writeWithHost('old.example', '/a?b'))).toEqual({ host: 'old.example', address: '/a?b' });
  });

  it('is exported as if it were a site of its own', () => {
    const rules: Rule[] = [
      { from: '//old.example/a', status: 301, to: '/b' },
      { from: '/c', status: 301, to: '/d' },
      { from: '//old.example/gone', status: 410 },
      { from: '//other.example/a', status: 301, to: '/e' },
    ];
    const exported = filterRulesOfHost(rules, 'old.example', 'https://new.example');
    const ask = (path: string) => {
      const a = decide(splitAddress(path), new Set(), indexRules(exported));
      return a.kind === 'redirect' ? a.location : a.kind;
    };
    expect(['/a', '/a?x', '/gone', '/anything/else?y=1'].map(ask)).toEqual([
      'https://new.example/b',
      'https://new.example/b?x',
      'gone',
      'https://new.example/anything/else?y=1',
    ]);
    expect(filterRulesOfSite(rules)).toEqual([{ from: '/c', status: 301, to: '/d' }]);
  });
});
