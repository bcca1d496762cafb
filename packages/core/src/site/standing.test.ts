/** Where pages are, what a change touches, and steps back and forward. All of it is this project’s own. */
import { describe, expect, it } from 'vitest';
import {
  findAffected,
  findDraftAddress,
  reckonDraftRows,
  emptyDraft,
  isAdded,
  isOut,
  reckonKeptUntilMs,
  labelTitle,
  findCommonEnding,
  findLinksToRemoved,
  findMovedAddresses,
  findPlainAddress,
  findReleasedAddress,
  readReleased,
  findSiteAddress,
  listSpellings,
  findStandInAddress,
  findStandIn,
  findStepsAvailable,
  reckonTreeRows,
  withRemoved,
  findWrittenFrom,
  type Decision,
  type Draft,
} from './index.ts';
import { recorded, fold, top, undo, page, removal, setting, head, text } from './testing.ts';

describe('addresses of a page', () => {
  const a = { id: 'a', sourcePath: 'a/index.html' };

  it('are its file’s, or those it was given, in the style and under the path of the site', () => {
    expect(findDraftAddress(emptyDraft, a)).toBe('/a/');
    const draft = fold(
      { kind: 'address', page: 'a', addresses: { a: '/alpha/' } },
      { kind: 'address-style', style: 'html' } as Decision,
      { kind: 'base-path', path: '/museum' },
    );
    expect([findPlainAddress(draft, a), findSiteAddress(draft, a), findDraftAddress(draft, a)]).toEqual([
      '/alpha/',
      '/alpha.html',
      '/museum/alpha.html',
    ]);
  });

  it('that links were written from are those of its file, or of the one it was made of', () => {
    expect(findWrittenFrom(a)).toBe('/a/');
    expect(findWrittenFrom({ ...a, writtenAt: 'b.html' })).toBe('/b.html');
  });

  it('of a release are where it had the page, and none where it had not', () => {
    const released = readReleased(
      fold(page('n'), { kind: 'ready', page: 'c', ready: false }, { kind: 'base-path', path: '/m' }),
    );
    expect(findReleasedAddress(released, a, false)).toBe('/m/a/');
    expect(findReleasedAddress(released, { id: 'n', sourcePath: 'x.html' }, true)).toBe('/m/n/');
    expect(findReleasedAddress(released, { id: 'later', sourcePath: 'x.html' }, true)).toBeUndefined();
    expect(findReleasedAddress(released, { id: 'c', sourcePath: 'c.html' }, false)).toBeUndefined();
  });

  it('are asked of added and removed pages', () => {
    const draft = fold(page('n'), removal({ kind: 'nodes', nodes: ['a'] }));
    expect([isAdded(draft, 'n'), isAdded(draft, 'a'), isOut(draft, 'a'), isOut(draft, 'n')]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect(withRemoved(draft).removed.size).toBe(0);
    const files = fold(removal({ kind: 'file', path: 'x' }));
    expect(withRemoved(files).removedFiles.size).toBe(0);
    expect(withRemoved(emptyDraft)).toBe(emptyDraft);
  });
});

describe('what a change touches', () => {
  const between = (before: Decision[], after: Decision[]) => {
    const affected = findAffected(fold(...before), fold(...before, ...after));
    return Object.fromEntries(
      Object.entries(affected)
        .map(([key, value]) => [key, value instanceof Set ? [...value].sort() : value])
        .filter(([, value]) => (Array.isArray(value) ? value.length > 0 : value === true)),
    );
  };
  it.each<[string, Decision[], Decision[], object]>([
    ['nothing', [{ kind: 'title', page: 'a', title: 'A' }], [{ kind: 'title', page: 'a', title: 'A' }], {}],
    ['a title', [], [{ kind: 'title', page: 'a', title: 'A' }], { pages: ['a'] }],
    ['a title taken away', [head(setting('title', { text: 'T' }))], [head(setting('title', {}))], { pages: ['a'] }],
    ['an address', [], [{ kind: 'address', page: 'a', addresses: { a: '/x/' } }], { pages: ['a'], moved: ['a'] }],
    [
      'a page held back',
      [],
      [{ kind: 'ready', page: 'a', ready: false }],
      { pages: ['a'], moved: ['a'], shown: ['a'] },
    ],
    [
      'a page let go',
      [{ kind: 'ready', page: 'a', ready: false }],
      [{ kind: 'ready', page: 'a', ready: true }],
      { pages: ['a'], moved: ['a'], shown: ['a'] },
    ],
    ['a page left out of menus', [], [{ kind: 'in-menus', page: 'a', shown: false }], { shown: ['a'] }],
    ['a page that comes', [], [page('n')], { pages: ['n'], moved: ['n'] }],
    [
      'a source',
      [],
      [{ kind: 'source', page: 'a', source: { hash: 'h', sizeBytes: 1, writtenAt: 'a', release: 1 } }],
      { pages: ['a'] },
    ],
    ['a listing', [], [{ kind: 'listing', page: 'a', perPage: 3 }], { pages: ['a'] }],
    ['a section', [], [removal({ kind: 'section', page: 'a', section: { name: 'B', nth: 0 } })], { pages: ['a'] }],
    ['a file', [], [removal({ kind: 'file', path: 'x.pdf' })], { files: ['x.pdf'] }],
    ['a page that goes', [], [removal({ kind: 'nodes', nodes: ['a'] })], { pages: ['a'], moved: ['a'] }],
    ['a touch', [], [text('x', 'y')], { touches: [1] }],
    ['a head', [], [head(setting('description', { text: 'D' }))], { head: true }],
    [
      'icons',
      [],
      [{ kind: 'icons', icons: [{ path: 'a', hash: 'h', sizeBytes: 1, relation: 'icon', attributes: {} }] }],
      { head: true },
    ],
    ['no icons in place of none', [], [{ kind: 'icons', icons: [] }], {}],
    ['a menu', [], [{ kind: 'menu', menu: 'm', items: [], whereItDiffers: false }], { menus: ['m'] }],
  ])('is that of %s', (_, before, after, expected) => expect(between(before, after)).toEqual(expected));

  it('is what links to removed things, where they are led elsewhere', () => {
    const standIn = { kind: 'page', page: 's' } as const;
    const gone = removal({ kind: 'nodes', nodes: ['a'] }, { standIn, links: 'lead-on' });
    const moved: Decision = { kind: 'address', page: 's', addresses: { s: '/t/' } };
    expect(between([gone], [moved])).toEqual({ pages: ['a', 's'], moved: ['a', 's'] });
    expect(between([{ ...gone, links: 'kept' } as Decision], [moved])).toEqual({ pages: ['s'], moved: ['s'] });
    expect(between([gone], [{ kind: 'title', page: 's', title: 'S' }])).toEqual({ pages: ['s'] });
    // The one that stands in goes, and another one does.
    const next = removal({ kind: 'nodes', nodes: ['s'] }, { standIn: { kind: 'home' } });
    expect(between([gone], [next])).toEqual({ pages: ['a', 's'], moved: ['a', 's'] });
    const file = removal({ kind: 'file', path: 'x.pdf' }, { standIn, links: 'lead-on' });
    expect(between([file], [moved])).toEqual({ pages: ['s'], moved: ['s'], files: ['x.pdf'] });
    expect(
      between([removal({ kind: 'nodes', nodes: ['a'] }, { standIn: { kind: 'home' }, links: 'lead-on' })], [moved]),
    ).toEqual({ pages: ['s'], moved: ['s'] });
  });
});

describe('links to what moved or is removed', () => {
  const pages = new Map(
    ['', 'a', 'b', 's'].map((id) => [
      id || 'front',
      { id: id || 'front', sourcePath: `${id === '' ? '' : `${id}/`}index.html` },
    ]),
  );
  const moved = (draft: Draft) => [...findMovedAddresses(draft, pages.values())];

  it('follow pages that stand, whatever way they spell it', () => {
    const draft = fold({ kind: 'address', page: 'a', addresses: { a: '/x/', b: '/b/' } });
    expect(moved(draft)).toEqual([
      ['/a/', '/x/'],
      ['/a/index.html', '/x/'],
      ['/a', '/x/'],
    ]);
    expect(
      moved(fold({ kind: 'address', page: 'a', addresses: { a: '/x/' } }, removal({ kind: 'nodes', nodes: ['a'] }))),
    ).toEqual([]);
    expect(moved(fold(page('a', { address: '/x/' })))).toEqual([]);
    expect(listSpellings('a/start.html')).toEqual(['/a/start.html']);
  });

  it('lead to what stands in, or to nowhere', () => {
    const lead = (more: object) => {
      const { leadOn, unlinked } = findLinksToRemoved(
        fold(removal({ kind: 'nodes', nodes: ['a', 'gone'] }, more)),
        pages,
      );
      return [[...new Set(leadOn.values())], [...unlinked]];
    };
    expect(lead({ links: 'kept', standIn: { kind: 'home' } })).toEqual([[], []]);
    expect(lead({ links: 'lead-on', standIn: { kind: 'home' } })).toEqual([['/'], []]);
    expect(lead({ links: 'lead-on', standIn: { kind: 'page', page: 's' } })).toEqual([['/s/'], []]);
    expect(lead({ links: 'lead-on', standIn: { kind: 'gone' } })).toEqual([[], []]);
    expect(lead({ links: 'unlinked', standIn: { kind: 'home' } })).toEqual([[], ['/a/', '/a/index.html', '/a']]);
    const file = findLinksToRemoved(fold(removal({ kind: 'file', path: 'x y.pdf' }, { links: 'unlinked' })), pages);
    expect([...file.unlinked]).toEqual(['/x%20y.pdf']);
    // What was added here, no imported link means.
    const added = fold(page('b'), removal({ kind: 'nodes', nodes: ['b'] }, { links: 'unlinked' }));
    expect(findLinksToRemoved(added, pages).unlinked.size).toBe(0);
  });

  it('lead nowhere where the page that stands in is held back', () => {
    const standIn = { kind: 'page', page: 's' } as const;
    const held = fold(removal({ kind: 'nodes', nodes: ['a'] }, { standIn }), {
      kind: 'ready',
      page: 's',
      ready: false,
    });
    expect(findStandInAddress(held, { standIn }, pages)).toBeUndefined();
    expect(findStandInAddress(emptyDraft, { standIn }, pages)).toBe('/s/');
    expect(findStandInAddress(emptyDraft, { standIn: { kind: 'page', page: 'never' } }, pages)).toBeUndefined();
  });

  it('lead nowhere where what stood in was taken out before removals were kept', () => {
    const standIn = { kind: 'page', page: 's' } as const;
    expect(findStandIn(fold({ kind: 'node-removed', node: 's' }), { standIn })).toEqual({ kind: 'none' });
    expect(
      findStandIn(fold(removal({ kind: 'nodes', nodes: ['s'] }, { standIn: { kind: 'home' } })), { standIn }),
    ).toEqual({ kind: 'home' });
  });
});

describe('steps', () => {
  const title = (said: string): Decision => ({ kind: 'title', page: 'a', title: said });
  const fact: Decision = { kind: 'crawled', import: 'i', from: {}, files: {} };
  it.each<[string, Decision[], number | undefined, number | undefined]>([
    ['nothing', [], undefined, undefined],
    ['one decision', [title('a')], 1, undefined],
    ['one taken back', [title('a'), undo(1)], undefined, 2],
    ['two taken back', [title('a'), title('b'), undo(2), undo(1)], undefined, 4],
    ['one made again', [title('a'), title('b'), undo(2), undo(1), undo(4)], 1, 3],
    ['a new one, which ends the way forward', [title('a'), undo(1), title('b')], 3, undefined],
    ['a fact, which is no step', [title('a'), fact], 1, undefined],
    ['a fact after one taken back', [title('a'), undo(1), fact], undefined, 2],
    ['an earlier one taken back', [title('a'), title('b'), undo(1)], 2, 3],
  ])('after %s', (_, decisions, back, forward) => {
    expect(findStepsAvailable(recorded(decisions))).toEqual({ undo: back, redo: forward });
  });
});

describe('the tree', () => {
  const row = (address: string | undefined, id = address ?? 'none') => ({ id, address });
  const order = (...rows: ReturnType<typeof row>[]) => reckonTreeRows(rows).map(({ page: { id } }) => id);

  it('goes by segments, what has no address last', () => {
    expect(
      order(row('/b/'), row(undefined, 'g'), row('/a-b/'), row('/a/c/'), row('/a/'), row('/'), row(undefined, 'h')),
    ).toEqual(['/', '/a/', '/a/c/', '/a-b/', '/b/', 'g', 'h']);
  });

  it('puts last what stands behind somebody who is not there', () => {
    const rows = reckonTreeRows([row('/a/'), row('/b/'), row('/c/')], [['/a/', { parent: null, after: 'gone' }]]);
    expect(rows.map(({ page: { id } }) => id)).toEqual(['/b/', '/c/', '/a/']);
  });

  it('passes over places below what is not there, or below oneself', () => {
    const rows = reckonTreeRows(
      [row('/a/'), row('/a/b/'), row('/c/')],
      [
        ['/c/', { parent: 'gone', after: null }],
        ['gone', { parent: null, after: null }],
        ['/a/', { parent: '/a/b/', after: null }],
        ['/a/', { parent: '/a/', after: null }],
      ],
    );
    expect(rows.map(({ page: { id }, depth }) => `${id} ${depth}`)).toEqual(['/a/ 0', '/a/b/ 1', '/c/ 0']);
  });

  it('of a draft has its pages, groups and outside links, and places of pages that are deleted', () => {
    const draft = fold({ kind: 'node-added', node: { kind: 'group', id: 'g', title: 'G' }, place: top }, page('n'), {
      kind: 'swept',
      of: [],
      redirects: [],
      stood: { gone: '/c/', link: '', a: '/elsewhere/' },
    });
    const rows = reckonDraftRows(draft, [
      { id: 'a', sourcePath: 'a/index.html' },
      { id: 'n', sourcePath: 'a/index.html' },
    ]);
    expect(rows.map(({ page: { id, address, file } }) => [id, address, file !== undefined])).toEqual([
      ['n', '/n/', true],
      ['g', undefined, false],
      ['a', '/a/', true],
      ['gone', '/c/', false],
      ['link', undefined, false],
    ]);
  });
});

describe('what all titles end in', () => {
  it.each([
    [['A - Moor', 'B - Moor'], ' - Moor'],
    [['A – Moor', 'B – Moor', 'C', 'D', 'E', 'F'], ' – Moor'],
    [['A – Moor', 'B – Moor', 'C', 'D', 'E', 'F', 'G'], undefined],
    [['A | Moor', 'B'], undefined],
    [['A — x — Moor', 'B — y — Moor'], ' — Moor'],
    [['A-Moor', 'B-Moor'], undefined],
    [['A: Moor', 'B: Moor'], undefined],
    [['A : Moor', 'B : Moor'], ' : Moor'],
    [['A » Moor', 'B » Moor'], ' » Moor'],
    [['A / Moor', 'B « Moor', 'C « Moor'], ' « Moor'],
    [['A · Moor', 'B • Fell', 'C • Fell', 'D · Moor', 'E · Moor'], ' · Moor'],
    [[], undefined],
  ])('%j: %s', (titles, ending) => expect(findCommonEnding(titles)).toBe(ending));

  it('is what a label has not', () => {
    expect(labelTitle('Bus · Moor', [' · Rhos', ' · Moor'])).toBe('Bus');
    expect(labelTitle(' · Moor', [' · Moor'])).toBe(' · Moor');
    expect(labelTitle('Moor · Bus', [' · Moor'])).toBe('Moor · Bus');
  });
});

it('is kept without end where it is held or nobody said how long', () => {
  expect(reckonKeptUntilMs({ atMs: 9, held: undefined }, { keptDays: 1, setAtMs: undefined })).toBe(
    9 + 24 * 60 * 60 * 1000,
  );
});
