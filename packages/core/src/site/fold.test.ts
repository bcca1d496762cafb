/** What each decision makes of a draft. How decisions add up is this project’s own; no standard says it. */
import { describe, expect, it } from 'vitest';
import { keySetting } from '../head/index.ts';
import { type Decision } from './index.ts';
import { fold, top, undo, page, removal, backAgain, redirect, setting, head, text, differs } from './testing.ts';

describe('a decision', () => {
  const places = (...rows: unknown[]) => ({ places: rows });
  it.each<[string, Decision[], object]>([
    ['gives a title', [{ kind: 'title', page: 'a', title: 'A' }], { titles: [['a', 'A']] }],
    [
      'gives an address, and the one before is remembered',
      [
        { kind: 'address', page: 'a', addresses: { a: '/one/' } },
        { kind: 'address', page: 'a', addresses: { a: '/two/', b: '/two/b/' } },
        { kind: 'address', page: 'a', addresses: { a: '/three/' } },
      ],
      {
        addresses: [
          ['a', '/three/'],
          ['b', '/two/b/'],
        ],
        formerAddresses: [['a', ['/one/', '/two/']]],
      },
    ],
    [
      'gives a place, and addresses that follow',
      [{ kind: 'place', node: 'a', place: { parent: 'b', after: null }, addresses: { a: '/b/a/' } }],
      { ...places(['a', { parent: 'b', after: null }]), addresses: [['a', '/b/a/']] },
    ],
    [
      'adds a group',
      [{ kind: 'node-added', node: { kind: 'group', id: 'g', title: 'G' }, place: top }],
      { nodes: [['g', { kind: 'group', id: 'g', title: 'G' }]], ...places(['g', top]) },
    ],
    [
      'adds a page, which answers old addresses itself again',
      [redirect('/n/'), redirect('/o/'), { ...page('n'), unsettled: ['/n/'] } as Decision],
      {
        nodes: [
          ['n', { kind: 'page', id: 'n', hash: 'hash n', sizeBytes: 3, writtenAt: 'a/index.html', address: '/n/' }],
        ],
        addresses: [['n', '/n/']],
        ...places(['n', top]),
        redirects: [
          ['/o/', { from: '/o/', status: 301, target: { kind: 'url', url: 'https://lanternmoor.example/x/' } }],
        ],
        settledIn: [['/o/', 2]],
      },
    ],
    [
      'takes a source, with the title it had',
      [
        {
          kind: 'source',
          page: 'a',
          source: { hash: 'h', sizeBytes: 1, writtenAt: 'a.html', release: 2 },
          title: 'Then',
        },
      ],
      { sources: [['a', { hash: 'h', sizeBytes: 1, writtenAt: 'a.html', release: 2 }]], titles: [['a', 'Then']] },
    ],
    [
      'takes the file’s source again',
      [
        { kind: 'source', page: 'a', source: { hash: 'h', sizeBytes: 1, writtenAt: 'a.html', release: 2 } },
        { kind: 'source', page: 'a', source: undefined },
      ],
      {},
    ],
    ['takes out a node', [{ kind: 'node-removed', node: 'g' }], { removed: [['g', 1]] }],
    ['holds a page back', [{ kind: 'ready', page: 'a', ready: false }], { notReady: ['a'] }],
    [
      'lets it go out again',
      [
        { kind: 'ready', page: 'a', ready: false },
        { kind: 'ready', page: 'a', ready: true },
      ],
      {},
    ],
    ['leaves a page out of menus', [{ kind: 'in-menus', page: 'a', shown: false }], { hidden: ['a'] }],
    [
      'has it in menus again',
      [
        { kind: 'in-menus', page: 'a', shown: false },
        { kind: 'in-menus', page: 'a', shown: true },
      ],
      {},
    ],
    [
      'sets a style, and remembers those before but the one that is',
      [
        { kind: 'address-style', style: 'html' },
        { kind: 'address-style', style: 'slash' },
        { kind: 'address-style', style: 'html' },
      ] as unknown as Decision[],
      { style: 'html', formerStyles: ['imported', 'slash'] },
    ],
    [
      'adds a file',
      [{ kind: 'asset-added', path: 'a.png', hash: 'h', sizeBytes: 2 }],
      { assets: [['a.png', { hash: 'h', sizeBytes: 2 }]] },
    ],
    [
      'sets a menu, and the imported one again',
      [
        { kind: 'menu', menu: 'm', items: [], whereItDiffers: true },
        { kind: 'menu', menu: 'n', items: [], whereItDiffers: false },
        { kind: 'menu-removed', menu: 'm' },
      ],
      { menus: [['n', { items: [], whereItDiffers: false }]] },
    ],
    [
      'parts a listing, and makes it whole again',
      [
        { kind: 'listing', page: 'a', perPage: 10 },
        { kind: 'listing', page: 'b', perPage: 20 },
        { kind: 'listing-removed', page: 'a' },
      ],
      { listings: [['b', { perPage: 20 }]] },
    ],
    [
      'sets heads, a title being the page’s',
      [head(setting('title', { text: 'T' }), setting('description', { text: 'D' }))],
      { titles: [['a', 'T']], head: [[keySetting(setting('description', {})), setting('description', { text: 'D' })]] },
    ],
    [
      'keeps a setting that leaves out the page’s own, and a title of a branch',
      [
        head(
          setting('description', { own: 'drop' }),
          setting('title', { text: 'T', scope: { kind: 'branch', page: 'a' } }),
        ),
      ],
      {
        head: [
          [keySetting(setting('description', {})), setting('description', { own: 'drop' })],
          [
            keySetting(setting('title', { scope: { kind: 'branch', page: 'a' } })),
            setting('title', { text: 'T', scope: { kind: 'branch', page: 'a' } }),
          ],
        ],
      },
    ],
    [
      'takes back what was set',
      [
        head(setting('title', { text: 'T' }), setting('description', { text: 'D' })),
        head(setting('title', {}), setting('description', {})),
      ],
      {},
    ],
    [
      'sets icons, in place of all before',
      [
        { kind: 'icons', icons: [{ path: 'a.ico', hash: 'h', sizeBytes: 1, relation: 'icon', attributes: {} }] },
        { kind: 'icons', icons: [{ path: 'b.ico', hash: 'i', sizeBytes: 1, relation: 'icon', attributes: {} }] },
      ],
      { icons: [{ path: 'b.ico', hash: 'i', sizeBytes: 1, relation: 'icon', attributes: {} }] },
    ],
    [
      'settles many at once, and opens others',
      [
        redirect('/a'),
        redirect('/b'),
        {
          kind: 'redirects',
          redirects: [{ from: '/c', status: 410 }],
          removed: ['/a'],
          patterns: [{ id: 'p', pattern: { from: '/p/*' } }],
        } as unknown as Decision,
        { kind: 'redirect-removed', from: '/b' },
      ],
      { redirects: [['/c', { from: '/c', status: 410 }]], settledIn: [['/c', 3]], patterns: [['p', { from: '/p/*' }]] },
    ],
    [
      'moves the whole site, and remembers where it was',
      [
        { kind: 'base-path', path: '/museum' },
        { kind: 'base-path', path: '/old' },
        { kind: 'base-path', path: '/museum' },
      ],
      { basePath: '/museum', formerBasePaths: ['', '/old'] },
    ],
    [
      'says who may visit, and takes it back',
      [
        { kind: 'entry', place: null, entry: { kind: 'closed' } },
        { kind: 'entry', place: 'a', entry: { kind: 'closed' } },
        { kind: 'entry', place: null, entry: undefined },
      ] as unknown as Decision[],
      { entries: [['a', { kind: 'closed' }]] },
    ],
    ['says what is shown instead', [{ kind: 'shown-instead', page: 'a' }], { shownInstead: 'a' }],
    ['says the last day', [{ kind: 'last-day', day: '2027-03-31' }], { lastDay: '2027-03-31' }],
    ['that is undone says nothing', [{ kind: 'last-day', day: '2027-03-31' }, undo(1)], {}],
  ])('%s', (_, decisions, expected) => expect(differs(fold(...decisions))).toEqual(expected));

  it('of a newer export keeps what it has not, and what pages were called', () => {
    const kept = { kind: 'page', id: 'k', hash: 'h', sizeBytes: 1, writtenAt: 'k.html', address: '/k' } as const;
    const taken = (more: object): Decision => ({ kind: 'export-taken', import: 'i', former: {}, ...more }) as Decision;
    expect(differs(fold(taken({ former: { a: '/one/' }, kept: [kept] }), taken({ former: { a: '/two/' } })))).toEqual({
      nodes: [['k', kept]],
      addresses: [['k', '/k']],
      formerAddresses: [['a', ['/one/', '/two/']]],
      exportAddresses: [['a', ['/one/', '/two/']]],
    });
    // One that was renamed keeps its name, and one that is there again is no added one any more.
    const renamed: Decision = { kind: 'address', page: 'k', addresses: { k: '/new' } };
    expect(fold(renamed, taken({ kept: [kept] })).addresses.get('k')).toBe('/new');
    expect(fold(taken({ kept: [kept] }), taken({ again: ['k'] })).nodes.size).toBe(0);
    expect(fold(taken({ kept: [{ kind: 'group', id: 'g', title: 'G' }] })).addresses.size).toBe(0);
  });

  it('of a crawl adds addresses, and knows files as the last one found them', () => {
    const crawled = (from: object, files: object) => ({ kind: 'crawled', import: 'i', from, files }) as Decision;
    const draft = fold(
      crawled({ a: ['/one'] }, { '/f': 'f.png', '/g': 'g.png' }),
      crawled({ a: ['/two', '/one'] }, { '/f': 'h.png' }),
    );
    expect(differs(draft)).toEqual({ crawledFrom: [['a', ['/one', '/two']]], crawledFiles: [['/f', 'h.png']] });
  });

  it('that touches stands instead of the one like it, and can be taken back', () => {
    expect([...fold(text('x', 'one'), text('y', 'two'), text('x', 'three')).touches.keys()]).toEqual([2, 3]);
    expect([...fold(text('x', 'one'), text('y', 'two'), { kind: 'touch-removed', of: 1 }).touches.keys()]).toEqual([2]);
  });

  it('that copies a page copies what is decided for it alone, each touch with a number of its own', () => {
    const draft = fold(
      text('x', 'one'),
      text('y', 'two'),
      text('z', 'all', { kind: 'everywhere' }),
      text('x', 'b', { kind: 'page', page: 'b' }),
      head(setting('description', { text: 'D' }), setting('translates', { text: 'en' })),
      head(setting('description', { text: 'B', scope: { kind: 'page', page: 'b' } })),
      { ...page('c', { copyOf: 'a' }), title: 'Copy' } as Decision,
      text('x', 'later', { kind: 'page', page: 'b' }),
    );
    expect([...draft.touches].map(([seq, { scope }]) => [seq, 'page' in scope ? scope.page : '*'])).toEqual([
      [1, 'a'],
      [2, 'a'],
      [3, '*'],
      [7 + 1 / 3, 'c'],
      [7 + 2 / 3, 'c'],
      [8, 'b'],
    ]);
    const copied = [...draft.head.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === 'c');
    expect(copied.map(({ name, text: said }) => [name, said])).toEqual([['description', 'D']]);
    expect(draft.titles.get('c')).toBe('Copy');
    expect(fold(text('x', 'one'), page('c')).touches.size).toBe(1);
  });
});

describe('home', () => {
  const home = (id: string, importedHome: { page: string; address: string } | undefined): Decision => ({
    kind: 'home',
    page: id,
    importedHome,
  });
  const front = { page: 'front', address: '/front/' };

  it('stands at the root, and what it was renamed to before leads to it', () => {
    const renamed: Decision = { kind: 'address', page: 'a', addresses: { a: '/alpha/' } };
    expect(differs(fold(renamed, home('a', front)))).toEqual({
      home: 'a',
      addresses: [
        ['a', '/'],
        ['front', '/front/'],
      ],
      formerAddresses: [['a', ['/alpha/']]],
    });
    expect(fold(renamed, home('a', front), home('b', front)).addresses.get('a')).toBe('/alpha/');
    expect(fold(home('a', front), home('b', front)).addresses.has('a')).toBe(false);
    expect(differs(fold(home('a', undefined)))).toEqual({ home: 'a', addresses: [['a', '/']] });
  });

  it('is handed over where it is removed, and is what it was when that is put back', () => {
    const gone = removal({ kind: 'nodes', nodes: ['a'] }, { home: { page: 'b', importedHome: front } });
    const handed = fold(home('a', front), gone);
    expect(handed.home).toBe('b');
    expect(handed.addresses.get('b')).toBe('/');
    const back = backAgain([{ of: 2 }], { home: { page: 'a', importedHome: front } });
    const again = fold(home('a', front), gone, back);
    expect(again.home).toBe('a');
    expect(new Map(again.addresses)).toEqual(new Map(fold(home('a', front)).addresses));
    expect(again.removals.size).toBe(0);
  });

  it('stays with whoever was chosen meanwhile, until it is put back as home', () => {
    const gone = removal({ kind: 'nodes', nodes: ['a', 'd'] }, { home: { page: 'b', importedHome: front } });
    const start = [home('a', front), gone, home('c', front)];
    expect(fold(...start, backAgain([{ of: 2 }])).home).toBe('c');
    const again = fold(...start, backAgain([{ of: 2 }], { home: { page: 'a', importedHome: front } }));
    expect(again.home).toBe('a');
    expect(again.addresses.get('c')).toBeUndefined();
    // Not with what comes back without it.
    expect(
      fold(...start, backAgain([{ of: 2, nodes: ['d'] }], { home: { page: 'a', importedHome: front } })).home,
    ).toBe('c');
  });

  it('is not taken back where the page that took over was renamed meanwhile', () => {
    const gone = removal({ kind: 'nodes', nodes: ['a'] }, { home: { page: 'b', importedHome: front } });
    const moved: Decision = { kind: 'address', page: 'front', addresses: { front: '/entrance/' } };
    const draft = fold(
      home('a', front),
      gone,
      moved,
      backAgain([{ of: 2 }], { home: { page: 'a', importedHome: front } }),
    );
    expect(draft.home).toBe('a');
    expect(draft.addresses.get('a')).toBe('/');
    expect(draft.addresses.has('b')).toBe(false);
  });
});
