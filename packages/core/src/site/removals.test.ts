/** Laws of removing and putting back. They are ours; nothing outside says where a page belongs. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeOrder, placeAmong } from '../placing/index.ts';
import { compileRules } from '../release/index.ts';
import {
  findDraftAddress,
  reckonDraftRows,
  foldDecisions,
  reckonKeptUntilMs,
  findLinksToRemoved,
  NOTICE_DAYS,
  reckonStandingRows,
  findStandIn,
  type Decision,
  type PageFile,
  type RecordedDecision,
} from './index.ts';

const record = (decisions: readonly Decision[]): RecordedDecision[] =>
  decisions.map((decision, i) => ({ seq: i + 1, decision }));
const pages: readonly PageFile[] = [
  'index',
  'a/index',
  'a/b/index',
  'a/c/index',
  'a/c/x/index',
  'd/index',
  'd/e/index',
  'f/index',
].map((path) => ({ id: path.replace(/\/?index$/, '') || 'home', sourcePath: `${path}.html` }));
const ids = pages.map(({ id }) => id);
const byId = new Map(pages.map((page) => [page.id, page]));
const removed = (nodes: readonly string[], more: Partial<Extract<Decision, { kind: 'removed' }>> = {}): Decision => ({
  kind: 'removed',
  thing: { kind: 'nodes', nodes },
  atMs: 0,
  why: '',
  standIn: { kind: 'none' },
  links: 'kept',
  ...more,
});
const putBack = (of: number, nodes?: readonly string[]): Decision => ({
  kind: 'put-back',
  things: [{ of, ...(nodes ? { nodes } : {}) }],
  places: [],
  addresses: {},
  unsettled: [],
});
const order = (decisions: readonly Decision[]) =>
  reckonStandingRows(foldDecisions(record(decisions)), pages).map(
    ({ page, depth, parent }) => `${'  '.repeat(depth)}${page.id} < ${parent ?? ''}`,
  );
const TODAY = '2026-11-26';

describe('removing and putting back', () => {
  const node = fc.constantFrom(...ids.filter((id) => id !== 'home'));
  const place = fc
    .record({ node, place: fc.record({ parent: fc.option(node), after: fc.option(node) }) })
    .map(({ node: id, place: at }): Decision => ({ kind: 'place', node: id, place: at, addresses: {} }));
  const rename = fc
    .record({ node, to: fc.constantFrom('/one/', '/two/', '/a/three/', '/d/four/') })
    .map(({ node: id, to }): Decision => ({ kind: 'address', page: id, addresses: { [id]: to } }));
  const title = node.map((id): Decision => ({ kind: 'title', page: id, title: 'Other' }));
  const home = node.map((id): Decision => ({
    kind: 'home',
    page: id,
    importedHome: { page: 'home', address: '/front/' },
  }));
  const redirect = fc.constantFrom('/o', '/p', '/q').map((from): Decision => ({
    kind: 'redirect',
    redirect: { from, status: 301, target: { kind: 'page', page: 'f' } },
  }));
  const menu = fc.subarray(ids).map((some): Decision => ({
    kind: 'menu',
    menu: 'm',
    whereItDiffers: false,
    items: some.map((page) => ({ target: { kind: 'page', page }, label: page, newWindow: false, children: [] })),
  }));
  const change = fc.oneof(place, rename, title, home, redirect, menu);
  const standIn = fc.oneof(
    node.map((page) => ({ kind: 'page' as const, page })),
    fc.constantFrom({ kind: 'home' } as const, { kind: 'gone' } as const, { kind: 'none' } as const),
  );

  it('with nothing between is as if nothing had been: the whole draft, whatever came before (property)', () => {
    const thing = fc.oneof(
      fc
        .record({
          nodes: fc.subarray(
            ids.filter((id) => id !== 'home'),
            { minLength: 1 },
          ),
          standIn,
        })
        .map(({ nodes, standIn: stands }) => removed(nodes, { standIn: stands, links: 'unlinked' })),
      fc
        .record({ page: node })
        .map(({ page }) => removed([], { thing: { kind: 'section', page, section: { name: 'S', nth: 0 } } })),
      fc.constant(removed([], { thing: { kind: 'file', path: 'x.pdf' } })),
      fc
        .subarray(['/o', '/p', '/q'])
        .map((froms) => removed([], { thing: { kind: 'redirects', froms, patterns: [] } })),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 8 }), thing, (before, removal) => {
        const was = foldDecisions(record(before));
        const is = foldDecisions(record([...before, removal, putBack(before.length + 1)]));
        expect(is).toEqual(was);
        // The rules a host gets, in their very order.
        expect(JSON.stringify(compileRules(is, byId, TODAY))).toBe(JSON.stringify(compileRules(was, byId, TODAY)));
      }),
    );
  });

  it('of a home page gives the role back, unless somebody chose another one meanwhile (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(home, rename), { maxLength: 5 }),
        node,
        fc.array(fc.oneof(title, redirect), { maxLength: 3 }),
        (before, next, between) => {
          const was = foldDecisions(record(before));
          const own = was.home ?? 'home';
          fc.pre(next !== own);
          const choice = { page: next, importedHome: { page: 'home', address: '/front/' } };
          const back: Decision = {
            ...(putBack(before.length + 1) as Extract<Decision, { kind: 'put-back' }>),
            home: { page: own, importedHome: { page: 'home', address: '/front/' } },
          };
          const is = foldDecisions(record([...before, removed([own], { home: choice }), ...between, back]));
          expect(is.home).toBe(was.home);
          expect([...is.addresses]).toEqual(expect.arrayContaining([...was.addresses]));
          expect(is.addresses.size).toBe(was.addresses.size);
          // Taken back with undo, it comes to the same.
          expect(
            foldDecisions(
              record([...before, removed([own], { home: choice }), { kind: 'undo', of: before.length + 1 }]),
            ),
          ).toEqual(was);
        },
      ),
    );
  });

  it('of several neighbours, in any order, gives the order they had (property)', () => {
    const gone = fc.uniqueArray(node, { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(
        fc.array(place, { maxLength: 6 }),
        gone.chain((nodes) => fc.tuple(fc.constant(nodes), fc.shuffledSubarray(nodes, { minLength: nodes.length }))),
        (before, [nodes, back]) => {
          const removals = nodes.map((id) => removed([id]));
          const puts = back.map((id) => putBack(before.length + 1 + nodes.indexOf(id)));
          expect(order([...before, ...removals, ...puts])).toEqual(order(before));
        },
      ),
    );
  });

  it('leaves a well-formed tree and everybody’s order, however moves, renames, removals and put-backs interleave (property)', () => {
    const act = fc.oneof(
      place,
      rename,
      fc.uniqueArray(node, { minLength: 1, maxLength: 4 }).map((nodes) => removed(nodes)),
      fc.nat({ max: 12 }).map((of) => putBack(of + 1)),
      fc.nat({ max: 12 }).map((of): Decision => ({ kind: 'undo', of: of + 1 })),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 16 }), (decisions) => {
        const draft = foldDecisions(record(decisions));
        const [whole, standing] = [reckonDraftRows(draft, pages), reckonStandingRows(draft, pages)];
        expect(whole.map(({ page }) => page.id).sort()).toEqual([...ids].sort());
        expect(standing.map(({ page }) => page.id)).toEqual(
          whole.map(({ page }) => page.id).filter((id) => !draft.removed.has(id)),
        );
        const depths = new Map<string, number>();
        standing.forEach(({ page, parent, depth }, index) => {
          if (parent === null) expect(depth).toBe(0);
          else expect(depth).toBe((depths.get(parent) ?? NaN) + 1);
          if (index > 0) expect(depth).toBeLessThanOrEqual((standing[index - 1]?.depth ?? 0) + 1);
          depths.set(page.id, depth);
        });
        // Every node that is out belongs to one removal, which knows it is still out.
        for (const [id, seq] of draft.removed) expect(draft.removals.get(seq)?.left).toContain(id);
        for (const { seq, left } of draft.removals.values())
          for (const id of left) expect(draft.removed.get(id)).toBe(seq);
      }),
    );
  });

  it('brings back one child below the nearest that stands, and the rest around it', () => {
    const gone = removed(['a', 'a/b', 'a/c', 'a/c/x']);
    expect(order([gone, putBack(1, ['a/c/x'])])).toContain('a/c/x < ');
    expect(order([gone, putBack(1, ['a/c/x']), putBack(1, ['a'])])).toContain('  a/c/x < a');
    expect(order([gone, putBack(1, ['a/c/x']), putBack(1, ['a']), putBack(1)])).toEqual(order([]));
  });

  it('goes along where something above it moves', () => {
    const moved: Decision = {
      kind: 'place',
      node: 'a',
      place: { parent: 'd', after: 'd/e' },
      addresses: { a: '/d/a/', 'a/b': '/d/a/b/' },
    };
    const rows = order([removed(['a/b']), moved, putBack(1)]);
    expect(rows).toContain('    a/b < a');
  });

  it('keeps neighbours in their places after it was swept', () => {
    const places: Decision[] = [{ kind: 'place', node: 'f', place: { parent: 'a', after: 'a/b' }, addresses: {} }];
    const swept: Decision = { kind: 'swept', of: [2], redirects: [], stood: { 'a/b': '/a/b/' } };
    const draft = foldDecisions(record([...places, removed(['a/b']), swept]));
    const rest = pages.filter(({ id }) => id !== 'a/b');
    expect(reckonStandingRows(draft, rest).map(({ page }) => page.id)).toEqual([
      'home',
      'a',
      'f',
      'a/c',
      'a/c/x',
      'd',
      'd/e',
    ]);
    expect(foldDecisions(record([...places, removed(['a/b']), swept, putBack(2)])).removed.has('a/b')).toBe(true);
  });
});

describe('a place among neighbours', () => {
  it.each([
    ['nothing changed', 'abc', 'b', 'ac', 'abc'],
    ['the one before is gone', 'abcd', 'c', 'ad', 'acd'],
    ['all before are gone', 'abcd', 'c', 'd', 'cd'],
    ['all are gone, others came', 'abc', 'b', 'xy', 'xyb'],
    ['the others changed places', 'abcd', 'b', 'dca', 'dcab'],
    ['others came between', 'abc', 'b', 'axc', 'abxc'],
  ])('%s', (_, former, what, present, expected) => {
    const at = former.indexOf(what);
    const list = [...present];
    list.splice(placeAmong([...former.slice(0, at)], [...former.slice(at + 1)], list), 0, what);
    expect(list.join('')).toBe(expected);
  });

  it('loses nobody, leaves those present as they are, and gives back what was merely taken out (property)', () => {
    const members = fc.uniqueArray(fc.nat({ max: 20 }), { maxLength: 10 });
    fc.assert(
      fc.property(members, members, (former, next) => {
        const merged = mergeOrder(former, next);
        expect([...merged].sort()).toEqual([...new Set([...former, ...next])].sort());
        expect(merged.filter((member) => next.includes(member))).toEqual(next);
      }),
    );
    fc.assert(
      fc.property(
        members.chain((all) => fc.tuple(fc.constant(all), fc.subarray(all))),
        ([all, some]) => {
          expect(mergeOrder(all, some)).toEqual(all);
        },
      ),
    );
  });
});

describe('what stands in', () => {
  const toPage = (page: string) => ({ standIn: { kind: 'page', page } as const });

  it('leads on while it is removed itself, and to nobody in a circle', () => {
    const draft = foldDecisions(record([removed(['a'], toPage('d')), removed(['d'], toPage('f'))]));
    const removal = draft.removals.get(1);
    expect(removal && findStandIn(draft, removal)).toEqual({ kind: 'page', page: 'f' });
    expect(compileRules(draft, byId, TODAY).rules).toEqual([
      { from: '/a/', status: 301, to: '/f/' },
      { from: '/d/', status: 301, to: '/f/' },
    ]);
    const circle = foldDecisions(record([removed(['a'], toPage('d')), removed(['d'], toPage('a'))]));
    expect(compileRules(circle, byId, TODAY).rules).toEqual([]);
  });

  it('answers for every address the page had, and gives way to a page that stands there now', () => {
    const renamed: Decision = { kind: 'address', page: 'a', addresses: { a: '/alpha/' } };
    const other: Decision = { kind: 'address', page: 'd', addresses: { d: '/alpha/' } };
    const draft = foldDecisions(record([renamed, removed(['a'], { standIn: { kind: 'gone' } }), other]));
    const { rules } = compileRules(draft, byId, TODAY);
    expect(rules).toContainEqual({ from: '/a/', status: 410 });
    expect(rules.some(({ from }) => from === '/alpha/')).toBe(false);
    const page = byId.get('d');
    expect(page && findDraftAddress(draft, page)).toBe('/alpha/');
  });

  it('takes links along, or takes them away', () => {
    const draft = foldDecisions(
      record([removed(['a'], { ...toPage('f'), links: 'lead-on' }), removed(['d'], { links: 'unlinked' })]),
    );
    const { leadOn, unlinked } = findLinksToRemoved(draft, byId);
    expect([...leadOn]).toEqual([
      ['/a/', '/f/'],
      ['/a/index.html', '/f/'],
      ['/a', '/f/'],
    ]);
    expect([...unlinked]).toEqual(['/d/', '/d/index.html', '/d']);
  });
});

describe('how long something is kept', () => {
  const DAY_MS = 86_400_000;
  it.each([
    [{ keptDays: 30, setAtMs: undefined }, undefined, 30],
    [{ keptDays: 0, setAtMs: undefined }, undefined, undefined],
    [{ keptDays: 30, setAtMs: undefined }, { reason: 'asked for', seq: 2 }, undefined],
    // A limit set on day 20 that was over by then leaves a week, and one of two days its two days.
    [{ keptDays: 14, setAtMs: 20 * DAY_MS }, undefined, 20 + NOTICE_DAYS],
    [{ keptDays: 2, setAtMs: 20 * DAY_MS }, undefined, 22],
    [{ keptDays: 40, setAtMs: 20 * DAY_MS }, undefined, 40],
  ])('%j, held %j: %s days', (rule, held, days) => {
    expect(reckonKeptUntilMs({ atMs: 0, held }, rule)).toBe(days === undefined ? undefined : days * DAY_MS);
  });
});
