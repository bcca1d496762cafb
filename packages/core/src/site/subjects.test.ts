/** Which decisions speak of the same thing. What that is, is this project's own. */
import { describe, expect, it } from 'vitest';
import { findConflict, listSubjects, type Decision } from './index.ts';
import { backAgain, head, page, pattern, recorded, redirect, removal, setting, text, top, undo } from './testing.ts';

const subjects = (decision: Decision, before: Decision[] = []) => listSubjects(decision, recorded(before));
const of = (more: object) => more as unknown as Decision;

describe('what a decision is about', () => {
  it.each<[Decision, string[]]>([
    [{ kind: 'title', page: 'a', title: 'A' }, ['title a']],
    [{ kind: 'home', page: 'a', importedHome: undefined }, ['home', 'address a']],
    [{ kind: 'address', page: 'a', addresses: { a: '/x/', b: '/x/b/' } }, ['address a', 'address b']],
    [{ kind: 'place', node: 'a', place: top, addresses: { b: '/x/' } }, ['place a', 'address b']],
    [page('n'), []],
    [{ kind: 'source', page: 'a', source: undefined }, ['source a']],
    [{ kind: 'node-removed', node: 'g' }, ['node g']],
    [{ kind: 'ready', page: 'a', ready: true }, ['ready a']],
    [{ kind: 'in-menus', page: 'a', shown: true }, ['in-menus a']],
    [{ kind: 'address-style', style: 'html' } as Decision, ['style']],
    [{ kind: 'asset-added', path: 'a.png', hash: 'h', sizeBytes: 1 }, ['file a.png']],
    [{ kind: 'menu', menu: 'm', items: [], whereItDiffers: true }, ['menu m']],
    [{ kind: 'menu-removed', menu: 'm' }, ['menu m']],
    [{ kind: 'listing', page: 'a', perPage: 3 }, ['listing a']],
    [{ kind: 'listing-removed', page: 'a' }, ['listing a']],
    [{ kind: 'export-taken', import: 'i', former: {} }, ['*']],
    [{ kind: 'crawled', import: 'i', from: {}, files: {} }, ['*']],
    [
      head(setting('title', { text: 'T' }), setting('description', { text: 'D' })),
      ['title a', 'head page a description'],
    ],
    [head(setting('title', { text: 'T', scope: { kind: 'everywhere' } })), ['head everywhere title']],
    [{ kind: 'icons', icons: [] }, ['icons']],
    [redirect('/a'), ['redirect /a']],
    [
      of({ kind: 'redirects', redirects: [{ from: '/a' }], removed: ['/b'], patterns: [{ id: 'p' }] }),
      ['redirect /a', 'redirect /b', 'pattern p'],
    ],
    [of({ kind: 'redirects', redirects: [], removed: [] }), []],
    [{ kind: 'redirect-removed', from: '/a' }, ['redirect /a']],
    [pattern('p'), ['pattern p']],
    [{ kind: 'pattern-removed', id: 'p' }, ['pattern p']],
    [{ kind: 'patterns-ordered', ids: ['p', 'q'] }, ['patterns', 'pattern p', 'pattern q']],
    [{ kind: 'base-path', path: '/m' }, ['base-path']],
    [removal({ kind: 'nodes', nodes: ['a', 'b'] }), ['node a', 'node b']],
    [removal({ kind: 'nodes', nodes: ['a'] }, { home: { page: 'b', importedHome: undefined } }), ['home', 'node a']],
    [removal({ kind: 'section', page: 'a', section: { name: 'B', nth: 0 } }), ['section a {"name":"B","nth":0}']],
    [removal({ kind: 'file', path: 'x' }), ['file x']],
    [removal({ kind: 'menu-item', menu: 'm', label: 'M' }, { menu: { items: [], whereItDiffers: false } }), ['menu m']],
    [removal({ kind: 'menu-item', menu: 'm', label: 'M' }), []],
    [removal({ kind: 'redirects', froms: ['/a'], patterns: ['p'] }), ['redirect /a', 'pattern p']],
    [backAgain([{ of: 1 }, { of: 2 }], { addresses: { a: '/x/' } }), ['removal 1', 'removal 2', 'address a']],
    [backAgain([{ of: 1 }], { home: { page: 'a', importedHome: undefined } }), ['removal 1', 'home']],
    [{ kind: 'removals-held', of: [1], reason: 'x' }, ['removal 1']],
    [{ kind: 'removals-freed', of: [1, 2] }, ['removal 1', 'removal 2']],
    [{ kind: 'swept', of: [1], redirects: [{ from: '/a', status: 410 }], stood: {} }, ['removal 1', 'redirect /a']],
    [of({ kind: 'entry', place: null, entry: undefined }), ['entry ']],
    [of({ kind: 'entry', place: 'a', entry: undefined }), ['entry a']],
    [{ kind: 'shown-instead', page: 'a' }, ['shown-instead']],
    [{ kind: 'last-day', day: undefined }, ['last-day']],
    [undo(7), ['step 7']],
  ])('%j', (decision, expected) => expect(subjects(decision)).toEqual(expected));

  it('is the place a touch stands in, whatever it says there', () => {
    expect(subjects(text('x', 'one'))).toEqual(subjects(text('x', 'two')));
    expect(subjects(text('x', 'one'))).not.toEqual(subjects(text('y', 'one')));
    const link = (more: object) =>
      of({ kind: 'touch', touch: { kind: 'link', scope: { kind: 'everywhere' }, ...more } });
    expect(subjects(link({ place: { mark: 'x' } }))).toEqual(['touch ["link",{"kind":"everywhere"},{"mark":"x"}]']);
    expect(subjects(link({}))).toEqual(['touch ["link",{"kind":"everywhere"},null]']);
  });

  it('is what it takes back, and that of what that took back', () => {
    const title: Decision = { kind: 'title', page: 'a', title: 'A' };
    expect(subjects(undo(1), [title])).toEqual(['step 1', 'title a']);
    expect(subjects(undo(2), [title, undo(1)])).toEqual(['step 2', 'step 1', 'title a']);
    expect(subjects(undo(1), [removal({ kind: 'file', path: 'x' })])).toEqual(['step 1', 'file x', 'removal 1']);
    expect(subjects({ kind: 'touch-removed', of: 1 }, [text('x', 'one')])).toEqual([
      'touch 1',
      ...subjects(text('x', 'one')),
    ]);
  });
});

describe('a decision made on what somebody had not seen', () => {
  const meets = (decision: Decision, ...since: Decision[]) =>
    findConflict(decision, recorded(since), recorded(since))?.seq;

  it('meets the first that speaks of the same', () => {
    expect(meets(redirect('/a'), redirect('/b'), redirect('/a'), redirect('/a'))).toBe(2);
    expect(meets(redirect('/a'), redirect('/b'))).toBeUndefined();
    expect(meets(redirect('/a'))).toBeUndefined();
  });

  it('meets what concerns everything, and so does that', () => {
    const taken: Decision = { kind: 'export-taken', import: 'i', former: {} };
    expect(meets(redirect('/a'), redirect('/b'), taken)).toBe(2);
    expect(meets(taken, redirect('/b'))).toBe(1);
    expect(meets(page('n'), page('o'))).toBeUndefined();
  });

  it('meets a step taken back by what that step was', () => {
    expect(meets(redirect('/a'), redirect('/a'), undo(1))).toBe(1);
    expect(meets(undo(1), redirect('/a'))).toBe(1);
  });
});
