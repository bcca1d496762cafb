/** Removing, putting back and sweeping, step by step. Where things come to stand is this project’s own. */
import { describe, expect, it } from 'vitest';
import { type Decision, type Draft } from './index.ts';
import { fold, top, removal, backAgain, redirect, pattern, differs } from './testing.ts';

describe('what is removed', () => {
  const section = { name: 'Bus', nth: 1 };
  const item = (label: string, more: object = {}) => ({
    label,
    target: { kind: 'home' },
    newWindow: false,
    children: [],
    ...more,
  });

  it('is known by its removal, with all that was said of it', () => {
    expect(differs(fold(removal({ kind: 'nodes', nodes: ['a', 'b'] })))).toEqual({
      removed: [
        ['a', 1],
        ['b', 1],
      ],
      removals: [
        [
          1,
          {
            seq: 1,
            thing: { kind: 'nodes', nodes: ['a', 'b'] },
            atMs: 5,
            why: 'old',
            standIn: { kind: 'gone' },
            links: 'kept',
            left: ['a', 'b'],
            redirects: [],
            held: undefined,
          },
        ],
      ],
    });
  });

  it('stays with the removal that took it first', () => {
    const draft = fold(removal({ kind: 'nodes', nodes: ['a'] }), removal({ kind: 'nodes', nodes: ['a', 'b'] }));
    expect([...draft.removed]).toEqual([
      ['a', 1],
      ['b', 2],
    ]);
    expect(draft.removals.get(2)?.left).toEqual(['b']);
    const file = removal({ kind: 'file', path: 'a.pdf' });
    expect([...fold(file, file).removedFiles]).toEqual([['a.pdf', 1]]);
    const part = removal({ kind: 'section', page: 'a', section });
    expect(fold(part, part).removedSections.get('a')?.get('1 Bus')).toEqual({ section, removal: 1 });
  });

  it('comes back in parts', () => {
    const gone = removal({ kind: 'nodes', nodes: ['a', 'b', 'c'] });
    const part = fold(gone, backAgain([{ of: 1, nodes: ['b'] }]));
    expect([...part.removed.keys()]).toEqual(['a', 'c']);
    expect(part.removals.get(1)?.left).toEqual(['a', 'c']);
    expect(differs(fold(gone, backAgain([{ of: 1, nodes: ['b'] }]), backAgain([{ of: 1 }])))).toEqual({});
    expect(differs(fold(backAgain([{ of: 7 }])))).toEqual({});
  });

  it('comes back to places, addresses and old addresses said with it', () => {
    const draft = fold(
      removal({ kind: 'nodes', nodes: ['a'] }),
      redirect('/a/'),
      backAgain([{ of: 1 }], { places: [{ node: 'a', place: top }], addresses: { a: '/a-2/' }, unsettled: ['/a/'] }),
    );
    expect(differs(draft)).toEqual({ places: [['a', top]], addresses: [['a', '/a-2/']] });
  });

  it('may be sections, each by itself', () => {
    const other = { name: 'Bus', nth: 0 };
    const both = [
      removal({ kind: 'section', page: 'a', section }),
      removal({ kind: 'section', page: 'a', section: other }),
    ];
    expect([
      ...(fold(...both)
        .removedSections.get('a')
        ?.keys() ?? []),
    ]).toEqual(['1 Bus', '0 Bus']);
    expect([
      ...(fold(...both, backAgain([{ of: 1 }]))
        .removedSections.get('a')
        ?.keys() ?? []),
    ]).toEqual(['0 Bus']);
    expect(differs(fold(...both, backAgain([{ of: 1 }, { of: 2 }])))).toEqual({});
  });

  it('may be a file, which the removal that has it puts back', () => {
    const file = removal({ kind: 'file', path: 'a.pdf' });
    expect(differs(fold(file, backAgain([{ of: 1 }])))).toEqual({});
    expect([...fold(file, file, backAgain([{ of: 2 }])).removedFiles]).toEqual([['a.pdf', 1]]);
  });

  it('may be redirects, which come back as they were unless they are settled otherwise', () => {
    const gone = removal({ kind: 'redirects', froms: ['/a', '/b', '/never'], patterns: ['p', 'never'] });
    const start = [redirect('/a'), redirect('/b'), redirect('/c'), pattern('p'), pattern('q')];
    const away = fold(...start, gone);
    expect([...away.redirects.keys()]).toEqual(['/c']);
    expect([...away.settledIn.keys()]).toEqual(['/c']);
    expect([...away.patterns.keys()]).toEqual(['q']);
    expect([...away.removedPatterns]).toEqual([['p', { pattern: { from: '/p/*', status: 301 }, removal: 6 }]]);
    expect(away.removals.get(6)?.redirects.map(({ redirect: { from }, settledIn }) => [from, settledIn])).toEqual([
      ['/a', 1],
      ['/b', 2],
    ]);
    const back = fold(...start, gone, redirect('/b', '/other/'), backAgain([{ of: 6 }]));
    expect([...back.settledIn]).toEqual([
      ['/c', 3],
      ['/b', 7],
      ['/a', 1],
    ]);
    expect(back.redirects.get('/b')).toMatchObject({ target: { url: 'https://lanternmoor.example/other/' } });
    // A pattern comes back to its place before the other one.
    expect([...back.patterns.keys()]).toEqual(['p', 'q']);
    expect(back.removedPatterns.size).toBe(0);
  });

  it('puts back the patterns of its own removal alone', () => {
    const draft = fold(
      pattern('p'),
      pattern('q'),
      removal({ kind: 'redirects', froms: [], patterns: ['p'] }),
      removal({ kind: 'redirects', froms: [], patterns: ['q'] }),
      backAgain([{ of: 4 }]),
    );
    expect([...draft.patterns.keys()]).toEqual(['q']);
    expect([...draft.removedPatterns.keys()]).toEqual(['p']);
  });

  it('may be an item of a menu, which keeps its place in it', () => {
    const items = [item('One', { removed: 1, children: [item('Below', { removed: 9 })] }), item('Two')] as never[];
    const gone = removal({ kind: 'menu-item', menu: 'm', label: 'One' }, { menu: { items, whereItDiffers: false } });
    const away = fold(gone);
    // A removal that never was does not take its item with it.
    expect(away.menus.get('m')?.items).toEqual([item('One', { removed: 1, children: [item('Below')] }), item('Two')]);
    expect(away.removals.get(1)?.left).toEqual([]);
    // It was the imported menu, and is again.
    expect(differs(fold(gone, backAgain([{ of: 1 }])))).toEqual({});
  });

  it('leaves a menu as it is that was decided before or after', () => {
    const items = [item('One', { removed: 2 }), item('Two')] as never[];
    const decided: Decision = {
      kind: 'menu',
      menu: 'm',
      items: [item('One'), item('Two')] as never[],
      whereItDiffers: false,
    };
    const gone = removal({ kind: 'menu-item', menu: 'm', label: 'One' }, { menu: { items, whereItDiffers: false } });
    expect(fold(decided, gone, backAgain([{ of: 2 }])).menus.get('m')?.items).toEqual([item('One'), item('Two')]);
    const first = removal(
      { kind: 'menu-item', menu: 'm', label: 'One' },
      { menu: { items: [item('One', { removed: 1 })] as never[], whereItDiffers: false } },
    );
    const other: Decision = {
      kind: 'menu',
      menu: 'm',
      items: [item('One', { removed: 1 }), item('New')] as never[],
      whereItDiffers: false,
    };
    expect(fold(first, other, backAgain([{ of: 1 }])).menus.get('m')?.items).toEqual([item('One'), item('New')]);
    const wherever = removal(
      { kind: 'menu-item', menu: 'm', label: 'One' },
      { menu: { items: [item('One', { removed: 1 })] as never[], whereItDiffers: true } },
    );
    expect(fold(wherever, backAgain([{ of: 1 }])).menus.get('m')).toEqual({
      items: [item('One')],
      whereItDiffers: true,
    });
    expect(differs(fold(first, { kind: 'menu-removed', menu: 'm' }, backAgain([{ of: 1 }])))).toEqual({});
    expect(fold(removal({ kind: 'menu-item', menu: 'm', label: 'One' })).menus.size).toBe(0);
  });

  it('is out of its menu for good once it is swept', () => {
    const items = [item('Above', { children: [item('One', { removed: 1 })] }), item('Two')] as never[];
    const gone = removal({ kind: 'menu-item', menu: 'm', label: 'One' }, { menu: { items, whereItDiffers: false } });
    const swept: Decision = { kind: 'swept', of: [1], redirects: [], stood: {} };
    expect(fold(gone, swept).menus.get('m')?.items).toEqual([item('Above'), item('Two')]);
    expect(fold(gone, swept).removals.size).toBe(0);
  });

  it('is swept with where its addresses lead, unless they are settled', () => {
    const swept: Decision = {
      kind: 'swept',
      of: [1, 9],
      redirects: [
        { from: '/a/', status: 410 },
        { from: '/b/', status: 410 },
      ],
      stood: { a: '/a/' },
    };
    const draft = fold(removal({ kind: 'nodes', nodes: ['a'] }), redirect('/b/'), swept);
    expect([...draft.settledIn]).toEqual([
      ['/b/', 2],
      ['/a/', 3],
    ]);
    expect([...draft.stood]).toEqual([['a', '/a/']]);
    expect([...draft.removed]).toEqual([['a', 1]]);
    const patterns = fold(pattern('p'), pattern('q'), removal({ kind: 'redirects', froms: [], patterns: ['p'] }), {
      ...swept,
      of: [3],
      redirects: [],
    });
    expect(patterns.removedPatterns.size).toBe(0);
    expect([...patterns.patterns.keys()]).toEqual(['q']);
  });

  it('is held and freed by its number', () => {
    const gone = [removal({ kind: 'nodes', nodes: ['a'] }), removal({ kind: 'file', path: 'x' })];
    const held: Decision = { kind: 'removals-held', of: [1, 8], reason: 'asked for' };
    expect(fold(...gone, held).removals.get(1)?.held).toEqual({ reason: 'asked for', seq: 3 });
    expect(fold(...gone, held).removals.get(2)?.held).toBeUndefined();
    expect(fold(...gone, held, { kind: 'removals-freed', of: [1] }).removals.get(1)?.held).toBeUndefined();
  });
});

describe('patterns', () => {
  const ordered = (...ids: string[]): Decision => ({ kind: 'patterns-ordered', ids });
  const idsOf = (draft: Draft) => [...draft.patterns.keys()];

  it('are tried in the order they were made, or said', () => {
    const three = [pattern('p'), pattern('q'), pattern('r')];
    expect(idsOf(fold(...three))).toEqual(['p', 'q', 'r']);
    expect(idsOf(fold(...three, ordered('r', 'p', 'q')))).toEqual(['r', 'p', 'q']);
    // Those not named stand before those that are; what is not there is passed over.
    expect(idsOf(fold(...three, ordered('r', 'never', 'p')))).toEqual(['q', 'r', 'p']);
    expect(idsOf(fold(...three, pattern('q', '/other/*')))).toEqual(['p', 'q', 'r']);
    expect(fold(...three, pattern('q', '/other/*')).patterns.get('q')).toMatchObject({ from: '/other/*' });
  });

  it('are gone with all memory of their place', () => {
    expect(idsOf(fold(pattern('p'), pattern('q'), { kind: 'pattern-removed', id: 'p' }, pattern('p')))).toEqual([
      'q',
      'p',
    ]);
    const parted = fold(
      pattern('p'),
      pattern('q'),
      { kind: 'pattern-removed', id: 'p' },
      pattern('p'),
      ordered('q', 'p'),
    );
    expect(idsOf(parted)).toEqual(['q', 'p']);
  });
});
