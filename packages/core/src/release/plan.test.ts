/** What a page has to be compiled with. All of it is this project's own. */
import { describe, expect, it } from 'vitest';
import type { FoundItem, MenuItem, SiteMenu } from '../menus/index.ts';
import { emptyDraft, type Decision, type Draft, type PageFile } from '../site/index.ts';
import { fold, page as addedPage, removal, text } from '../site/testing.ts';
import {
  compileAccess,
  readImportedItems,
  readImportedTarget,
  isInScope,
  isOfMenu,
  planMenus,
  planPage,
  findPublishedPath,
} from './index.ts';

const visit: PageFile = { id: 'visit', sourcePath: 'visit/index.html' };
const style = (to: string) => ({ kind: 'address-style', style: to }) as Decision;
const touch = (kind: string, scope: object, more: object = {}) =>
  ({ kind: 'touch', touch: { kind, scope, ...more } }) as unknown as Decision;
const own = { kind: 'page', page: 'visit' };
const branch = { kind: 'branch', page: 'visit' };
const everywhere = { kind: 'everywhere' };

describe('where a file is published', () => {
  it.each<[Decision[], string, string]>([
    [[], 'visit/index.html', 'visit/index.html'],
    [[], 'Visit.HTM', 'Visit.HTM'],
    [[{ kind: 'address', page: 'visit', addresses: { visit: '/come/' } }], 'visit/index.html', 'come/index.html'],
    [[style('html')], 'visit/index.html', 'visit.html'],
    [[style('slash')], 'visit.html', 'visit/index.html'],
    [[{ kind: 'base-path', path: '/m' }], 'visit/index.html', 'm/visit/index.html'],
  ])('%j %s: %s', (decisions, sourcePath, path) => {
    expect(findPublishedPath(fold(...decisions), { id: 'visit', sourcePath })).toBe(path);
  });
});

describe('a page’s plan', () => {
  const plan = (
    decisions: Decision[],
    page = visit,
    addressOf = (id: string) => (id === 'up' ? '/visit/' : undefined),
  ) => planPage(fold(...decisions), page, '/visit/', addressOf);

  it('has what is decided for it alone', () => {
    expect(
      plan([
        { kind: 'title', page: 'visit', title: 'V' },
        { kind: 'base-path', path: '/m' },
      ]),
    ).toEqual({
      id: 'visit',
      before: '/visit/',
      after: '/m/visit/',
      path: 'm/visit/index.html',
      title: 'V',
      isCopy: false,
      head: [],
      sectionsOut: [],
      touches: [],
    });
    const section = { name: 'Bus', nth: 0 };
    expect(plan([removal({ kind: 'section', page: 'visit', section })]).sectionsOut).toEqual([section]);
    expect(plan([addedPage('visit', { copyOf: 'x' })]).isCopy).toBe(true);
    expect(plan([addedPage('visit')]).isCopy).toBe(false);
    expect(
      plan([
        { kind: 'node-added', node: { kind: 'group', id: 'visit', title: 'G' }, place: { parent: null, after: null } },
      ]).isCopy,
    ).toBe(false);
  });

  it('has the touches it lies in the scope of, in their order', () => {
    const made = [
      text('a', '1', everywhere),
      text('b', '2', own),
      text('c', '3', { kind: 'page', page: 'x' }),
      text('d', '4', { kind: 'branch', page: 'up' }),
    ];
    expect(plan(made).touches.map((each) => (each.kind === 'text' ? each.to : ''))).toEqual(['1', '2', '4']);
  });

  it('has of those of which a page has one the nearest, and of two as near the later', () => {
    const css = (scope: object, said: string) => touch('css', scope, { css: said });
    const said = (...decisions: Decision[]) =>
      plan(decisions).touches.map((each) => (each.kind === 'css' ? each.css : each.kind));
    expect(said(css(own, 'own'), css(branch, 'branch'), css(everywhere, 'all'))).toEqual(['own']);
    expect(said(css(everywhere, 'all'), css(branch, 'branch'))).toEqual(['branch']);
    expect(said(css({ kind: 'branch', page: 'up' }, 'first'), css(branch, 'second'))).toEqual(['second']);
    expect(said(css(branch, 'second'), css({ kind: 'branch', page: 'up' }, 'first'))).toEqual(['first']);
    expect(said(css(everywhere, 'all'), touch('parts-out', own, { parts: ['side'] }))).toEqual(['all', 'parts-out']);
    expect(said(text('a', '1', everywhere), text('a', '2', own))).toEqual(['text', 'text']);
  });

  it.each<[object, string, boolean]>([
    [everywhere, '/x/', true],
    [own, '/anything/', true],
    [{ kind: 'page', page: 'other' }, '/visit/', false],
    [branch, '/anything/', true],
    [{ kind: 'branch', page: 'up' }, '/visit/bus/', true],
    [{ kind: 'branch', page: 'up' }, '/visitors/', false],
    [{ kind: 'branch', page: 'home' }, '/visit/', false],
    [{ kind: 'branch', page: 'never' }, '/visit/', false],
  ])('lies in %j at %s: %s', (scope, address, isIn) => {
    const addressOf = (id: string) => ({ up: '/visit/', home: '/' })[id];
    expect(isInScope(scope as never, 'visit', address, addressOf)).toBe(isIn);
  });
});

const found = (to: string, label: string, more: Partial<FoundItem> = {}): FoundItem => ({
  to,
  label,
  newWindow: false,
  isCurrent: false,
  children: [],
  ...more,
});
const menu = (id: string, items: readonly FoundItem[], more: Partial<SiteMenu> = {}): SiteMenu => ({
  id,
  way: 'nav > ul',
  ways: ['nav > ul'],
  items,
  mark: undefined,
  marksBranch: false,
  opensBranch: false,
  pages: [],
  differing: [],
  ...more,
});
const item = (target: object, more: object = {}): MenuItem =>
  ({ target, label: 'L', newWindow: false, children: [], ...more }) as MenuItem;
const toPage = (page: string, more: object = {}) => ({ kind: 'page', page, ...more });

describe('an imported item', () => {
  const pageAt = (path: string) => ({ '/': 'front', '/visit/': 'visit', '/index.html': 'front' })[path];
  it.each([
    ['', { kind: 'none' }],
    ['https://fell.example/', { kind: 'url', url: 'https://fell.example/' }],
    ['mailto:a@moor.example', { kind: 'url', url: 'mailto:a@moor.example' }],
    ['/', { kind: 'home' }],
    ['/index.html', { kind: 'home' }],
    ['/#bus', { kind: 'page', page: 'front', fragment: 'bus' }],
    ['/visit/', { kind: 'page', page: 'visit' }],
    ['/visit/#bus', { kind: 'page', page: 'visit', fragment: 'bus' }],
    ['/visit/#', { kind: 'page', page: 'visit' }],
    ['/visit/?a', { kind: 'address', address: '/visit/?a' }],
    ['/never/', { kind: 'address', address: '/never/' }],
  ])('that leads to %s means %j', (to, target) => expect(readImportedTarget(to, pageAt)).toEqual(target));

  it('keeps its words, what is below it, and what it was', () => {
    const list = [found('/visit/', 'Visit', { newWindow: true, children: [found('', 'More')] })];
    expect(readImportedItems({ items: list }, pageAt)).toEqual([
      {
        target: toPage('visit'),
        was: '/visit/',
        label: 'Visit',
        newWindow: true,
        children: [{ target: { kind: 'none' }, was: '~More', label: 'More', newWindow: false, children: [] }],
      },
    ]);
  });
});

describe('menus that are written', () => {
  const addresses = new Map([
    ['visit', '/visit/'],
    ['bus', '/bus/'],
  ]);
  const pageAt = (path: string) => ({ '/visit/': 'visit', '/bus/': 'bus', '/held/': 'held' })[path];
  const planned = (draft: Draft, ...menus: SiteMenu[]) => planMenus(draft, menus, addresses, pageAt);
  const decided = (items: readonly MenuItem[], more: object = {}): Decision => ({
    kind: 'menu',
    menu: 'm',
    items,
    whereItDiffers: false,
    ...more,
  });
  const list = [found('/visit/', 'Visit'), found('/bus/', 'Bus')];

  it('are none while menus are as they were imported', () => {
    expect(planned(emptyDraft, menu('m', list))).toEqual([]);
  });

  it('are those with a page that is held back, left out or removed', () => {
    const held = menu('m', [...list, found('/held/', 'Held', { children: [found('/bus/', 'Below')] })]);
    expect(planned(emptyDraft, held).map(({ items }) => items.map(({ label }) => label))).toEqual([['Visit', 'Bus']]);
    const hidden = fold({ kind: 'in-menus', page: 'bus', shown: false });
    expect(planned(hidden, menu('m', list))[0]?.items.map(({ label }) => label)).toEqual(['Visit']);
    // What stands below an item whose page is removed moves up.
    const gone = fold(removal({ kind: 'nodes', nodes: ['held'] }));
    expect(planned(gone, held)[0]?.items.map(({ label }) => label)).toEqual(['Visit', 'Bus', 'Below']);
  });

  it('say where each item leads today', () => {
    const items = [
      item({ kind: 'home' }, { was: '/index.html', newWindow: true }),
      item(toPage('visit', { fragment: 'bus' }), { children: [item({ kind: 'none' }), item(toPage('held'))] }),
      item({ kind: 'url', url: 'https://fell.example/' }),
      item({ kind: 'address', address: '/x?y' }),
      item({ kind: 'none' }, { removed: 2 }),
    ];
    const [plan] = planned(
      fold({ kind: 'base-path', path: '/m' }, removal({ kind: 'file', path: 'x' }), decided(items)),
      menu('m', list),
    );
    expect(plan?.items).toEqual([
      { was: '/', to: '/m/', label: 'L', newWindow: true, children: [] },
      {
        was: undefined,
        to: '/visit/#bus',
        label: 'L',
        newWindow: false,
        children: [{ was: undefined, to: '', label: 'L', newWindow: false, children: [] }],
      },
      { was: undefined, to: 'https://fell.example/', label: 'L', newWindow: false, children: [] },
      { was: undefined, to: '/m/x?y', label: 'L', newWindow: false, children: [] },
    ]);
  });

  it('are known by where they stand, beside others in the same place', () => {
    const other = menu('o', [found('/x/', 'X')]);
    const elsewhere = menu('p', [found('/y/', 'Y')], { ways: ['footer > ul'] });
    const [plan] = planned(
      fold(decided([], { whereItDiffers: true })),
      menu('m', list, { isPointed: true, opensBranch: true, marksBranch: true }),
      other,
      elsewhere,
    );
    expect(plan).toMatchObject({
      menu: 'm',
      ways: ['nav > ul'],
      others: ['/x/'],
      whereItDiffers: true,
      isPointed: true,
      opensBranch: true,
      marksBranch: true,
      found: list,
    });
    expect(planned(fold(decided([])), menu('m', list))[0]).not.toHaveProperty('isPointed');
  });

  it('are those of a page whose links are the same, in their place', () => {
    const [plan] = planned(fold(decided([])), menu('m', list), menu('o', [found('/visit/', 'V'), found('/x/', 'X')]));
    const isIt = (items: readonly FoundItem[], more: object = {}, way = 'nav > ul') =>
      plan && isOfMenu({ ...plan, ...more }, { way, items });
    expect(isIt(list)).toBe(true);
    expect(isIt(list, {}, 'footer > ul')).toBe(false);
    expect(isIt([...list, found('/x/', 'X')])).toBe(false);
    expect(isIt([...list, found('/x/', 'X')], { whereItDiffers: true })).toBe(true);
    expect(isIt([found('/visit/', 'V'), found('/x/', 'X')], { whereItDiffers: true })).toBe(false);
    expect(isIt([found('/y/', 'Y')], { whereItDiffers: true })).toBe(false);
    // The item of the page one is on is often its words alone.
    expect(isIt([found('', 'Visit', { form: 'words' }), found('/bus/', 'Bus')])).toBe(true);
    const below = [found('/visit/', 'Visit', { children: [found('/y/', 'Y')] }), found('/bus/', 'Bus')];
    expect(isIt(below)).toBe(false);
    expect(isIt(below, { opensBranch: true })).toBe(true);
  });
});

describe('who may visit', () => {
  const pages = new Map([visit, { id: 'a', sourcePath: 'a/index.html' }].map((page) => [page.id, page]));
  const files = (path: string) => [`${path}.css`, 'a.css'];
  const said = (place: string | null, kind: string) => ({ kind: 'entry', place, entry: { kind } }) as Decision;

  it('is said by branches, in the order of their addresses', () => {
    expect(
      compileAccess(
        fold(said('visit', 'nobody'), said('a', 'everyone'), said(null, 'nobody'), said('never', 'nobody')),
        pages,
        files,
      ),
    ).toEqual({
      rules: [
        { branch: '/', entry: { kind: 'nobody' } },
        { branch: '/a/', entry: { kind: 'everyone' } },
        { branch: '/visit/', entry: { kind: 'nobody' } },
      ],
    });
  });

  it('has a page shown instead with its files, where that is there, and a last day', () => {
    const shown: Decision = { kind: 'shown-instead', page: 'visit' };
    expect(compileAccess(fold(shown, { kind: 'last-day', day: '2027-01-01' }), pages, files)).toEqual({
      rules: [],
      instead: { page: 'visit/index.html', files: ['a.css', 'visit/index.html.css'] },
      lastDay: '2027-01-01',
    });
    expect(compileAccess(fold(shown, { kind: 'ready', page: 'visit', ready: false }), pages, files)).toEqual({
      rules: [],
    });
    expect(compileAccess(fold(shown, removal({ kind: 'nodes', nodes: ['visit'] })), pages, files)).toEqual({
      rules: [],
    });
    expect(compileAccess(fold({ kind: 'shown-instead', page: 'never' }), pages, files)).toEqual({ rules: [] });
  });
});
