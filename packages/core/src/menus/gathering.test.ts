/** The menus of a site out of the lists in its pages. Thresholds and kinds are this project's own, from common practice. */
import { describe, expect, it } from 'vitest';
import {
  walkItems,
  gatherMenus,
  isVariant,
  keyItem,
  gatherLists,
  plainTarget,
  settleWords,
  signItems,
  signTopItems,
  withMark,
  withPointedMenus,
  type FoundItem,
  type FoundMenu,
  type SiteMenu,
} from './index.ts';

const link = (to: string, more: Partial<FoundItem> = {}): FoundItem => ({
  to,
  label: to === '' ? 'head' : (to.split('/').at(-2) ?? to),
  newWindow: false,
  isCurrent: false,
  children: [],
  ...more,
});
const words = (label: string, more: Partial<FoundItem> = {}) => link('', { label, form: 'words', ...more });
const menu = (items: readonly FoundItem[], more: Partial<FoundMenu> = {}): FoundMenu => ({
  way: 'nav',
  items,
  mark: undefined,
  marksBranch: false,
  isBeside: true,
  ...more,
});
const links = (letters: string) => [...letters].map((letter) => link(`/${letter}/`, { label: letter }));
/** Pages numbered from 0, each with its menus. */
const gathered = (pages: readonly (readonly FoundMenu[])[], pagesInAll = pages.length) =>
  gatherMenus(gatherLists(pages.map((menus, n) => ({ page: `${n}.html`, menus }))), pagesInAll);
const times = <T>(count: number, each: (n: number) => T): T[] => Array.from({ length: count }, (_, n) => each(n));
const told = ({ menus }: { menus: readonly SiteMenu[] }) =>
  menus.map(({ items, pages }) => `${items.map(({ label }) => label).join('')} ${pages.length}`);

describe('a menu of a site', () => {
  it('is a list on at least three pages, or on all of a smaller site', () => {
    expect(told(gathered(times(3, () => [menu(links('ab'))])))).toEqual(['ab 3']);
    expect(
      told(
        gathered(
          times(2, () => [menu(links('ab'))]),
          9,
        ),
      ),
    ).toEqual([]);
    expect(
      told(
        gathered(
          times(2, () => [menu(links('ab'))]),
          2,
        ),
      ),
    ).toEqual(['ab 2']);
    expect(told(gathered([[menu(links('ab'))]], 1))).toEqual(['ab 1']);
    expect(told(gathered([[menu(links('ab'))]], 2))).toEqual([]);
  });

  it('is on a tenth of the pages that have anything in its place', () => {
    const place = (few: number) => [
      ...times(few, () => [menu(links('xy'))]),
      ...times(40 - few, () => [menu(links('ab'))]),
    ];
    expect(told(gathered(place(3)))).toEqual(['ab 37']);
    expect(told(gathered(place(4)))).toEqual(['ab 36', 'xy 4']);
  });

  it('that no page says is for the way is on a fiftieth of the whole site, and of three pages', () => {
    const plain = (pages: number, all: number) =>
      told(
        gathered(
          times(pages, () => [menu(links('ab'), { isBeside: false })]),
          all,
        ),
      );
    expect(plain(3, 150)).toEqual(['ab 3']);
    expect(plain(3, 151)).toEqual([]);
    expect(plain(2, 2)).toEqual([]);
  });

  it('may be on one page, where its links open in another frame', () => {
    expect(told(gathered([[menu(links('ab'), { opensFrame: true })]], 99))).toEqual(['ab 1']);
  });

  it('is told from the one on most pages down, each with an id of its own', () => {
    const pages = [
      ...times(3, () => [menu(links('ax'))]),
      ...times(4, () => [menu(links('ab'))]),
      ...times(3, () => [menu(links('cd'), { way: 'footer' })]),
    ];
    expect(gathered(pages).menus.map(({ id, pages: on }) => `${id}: ${on.length}`)).toEqual([
      'nav /a/: 4',
      'nav /a/ +: 3',
      'footer /c/: 3',
    ]);
    expect(gathered(times(3, () => [menu([words('Start'), ...links('ab')])])).menus[0]?.id).toBe('nav Start');
  });

  it('has pages with almost the same list, with what differs', () => {
    const { menus } = gathered([...times(5, () => [menu(links('abcd'))]), [menu(links('abx'))], [menu(links('wxyz'))]]);
    expect(menus[0]?.differing).toEqual([]);
    const near = gathered([...times(5, () => [menu(links('abcd'))]), [menu(links('abcx'))]]).menus;
    expect(near[0]?.differing).toEqual([{ page: '5.html', missing: ['d'], extra: ['x'] }]);
  });

  it('has its variants with the menu that is most alike', () => {
    const { menus } = gathered([
      ...times(4, () => [menu(links('abcd'))]),
      ...times(3, () => [menu(links('abyz'))]),
      [menu(links('abyw'))],
    ]);
    expect(menus.map(({ differing }) => differing.map(({ page }) => page))).toEqual([[], ['7.html']]);
  });

  it.each([
    ['abcd', 'abcd', true],
    ['ab', 'abcd', true],
    ['abx', 'abcd', false],
    ['abcx', 'abcd', true],
    ['xy', 'abcd', false],
    ['', '', false],
  ])('%s is a variant of %s: %s', (list, of, isIt) => expect(isVariant(links(list), links(of))).toBe(isIt));

  it('knows how its current item is marked from whatever page shows it', () => {
    const mark = { kind: 'class', name: 'on', on: 'item' } as const;
    const { menus } = gathered([
      [menu(links('ab'))],
      [menu(links('ab'), { mark })],
      [menu(links('ab'), { marksBranch: true })],
    ]);
    expect(menus[0]).toMatchObject({ mark, marksBranch: true, opensBranch: false, ways: ['nav'] });
    const other = { kind: 'class', name: 'here', on: 'link' } as const;
    expect(withMark(menu([], { mark }), menu([], { mark: other, opensFrame: true }))).toEqual({
      ...menu([], { mark }),
      opensFrame: true,
    });
    expect(withMark(menu([], { isBeside: false }), menu([], { isBeside: false, mark: other }))).toMatchObject({
      isBeside: false,
      mark: other,
    });
    expect(withMark(menu([], { opensFrame: true }), menu([]))).toMatchObject({ opensFrame: true });
  });

  it('stands in several places on pages of several designs, and is two where a page has it twice', () => {
    const top = menu(links('ab'));
    const side = menu(links('ab'), { way: 'aside', marksBranch: true });
    const one = gathered([...times(4, () => [top]), ...times(3, () => [side])]).menus;
    expect(one).toHaveLength(1);
    expect(one[0]).toMatchObject({ way: 'nav', ways: ['nav', 'aside'], marksBranch: true });
    expect(one[0]?.pages).toHaveLength(7);
    expect(gathered(times(3, () => [top, side])).menus.map(({ ways }) => ways)).toEqual([['nav'], ['aside']]);
  });

  it('opens the branch one is in, where only what is below its first level differs', () => {
    const open = (at: number) =>
      menu(links('abc').map((item, n) => (n === at ? { ...item, children: [link(`/x${at}/`)] } : item)));
    const { menus } = gathered([[open(0)], [open(1)], [open(2)], [open(0)]]);
    expect(menus).toHaveLength(1);
    expect(menus[0]).toMatchObject({ opensBranch: true, items: links('abc'), differing: [] });
    expect(menus[0]?.pages).toHaveLength(4);
    // Where most pages have one and the same, the others differ from it.
    const steady = gathered([[open(0)], [open(0)], [open(0)], [open(1)]]).menus;
    expect(steady[0]).toMatchObject({ opensBranch: false });
    expect(gathered(times(4, () => [open(0)])).menus[0]).toMatchObject({ opensBranch: false });
  });

  it('has the words of a page for its link where they are that page’s own', () => {
    const own = (n: number) =>
      menu(
        links('012').map((item, at) =>
          at === n ? words(String(n), { tag: 'b' }) : { ...item, to: `/${item.label}.html` },
        ),
      );
    const { menus } = gathered([[own(0)], [own(1)], [own(2)]]);
    expect(menus).toHaveLength(1);
    expect(menus[0]?.mark).toEqual({ kind: 'words', tag: 'b' });
    expect(menus[0]?.items.map(({ to, form, tag }) => [to, form, tag])).toEqual(
      ['/0.html', '/1.html', '/2.html'].map((to) => [to, undefined, undefined]),
    );
    // Words that lead to another page on others are no mark.
    const elsewhere = gathered([[own(1)], [own(0)], [own(2)]]).menus;
    expect(elsewhere.every(({ mark }) => mark === undefined || mark.kind !== 'words')).toBe(true);
  });

  it('keeps heads, and words that lead nowhere anywhere', () => {
    const { menus } = gathered(
      times(3, () => [
        menu([
          link('', { label: 'More', form: 'head', isCurrent: true, children: links('x') }),
          ...links('ab'),
          words('Say'),
        ]),
      ]),
    );
    expect(menus[0]?.items.map(({ label, form, isCurrent }) => [label, form, isCurrent])).toEqual([
      ['More', 'head', false],
      ['a', undefined, false],
      ['b', undefined, false],
      ['Say', 'words', false],
    ]);
  });
});

describe('what is kept apart from menus', () => {
  const steps = (n: number) => menu([link(`/${n - 1}/`, { label: 'Before' }), link(`/${n + 1}/`, { label: 'Next' })]);

  it('are steps: the same words that lead elsewhere on each page', () => {
    const { menus, apart } = gathered(times(5, (n) => [steps(n)]));
    expect(menus).toEqual([]);
    expect(apart).toEqual([{ kind: 'steps', way: 'nav', pages: 5, labels: ['Before', 'Next'] }]);
    expect(gathered(times(2, (n) => [steps(n)])).apart).toEqual([]);
  });

  it('are trails: all begin alike and each goes on to another end', () => {
    const trail = (n: number) => menu([link('/', { label: 'Home' }), link(`/${n}/`, { label: `Page ${n}` })]);
    const { menus, apart } = gathered(times(5, (n) => [trail(n)]));
    expect(menus).toEqual([]);
    expect(apart).toMatchObject([{ kind: 'trail', pages: 5 }]);
  });

  it('show no more than six of their words', () => {
    const long = (n: number) =>
      menu([link('/'), ...times(8, (at) => link(`/${at === 7 ? n : `s${at}`}/`, { label: `L${at}` }))]);
    expect(gathered(times(4, (n) => [long(n)])).apart[0]?.labels).toHaveLength(6);
  });
});

describe('menus that were pointed at', () => {
  const lists = (pages: readonly FoundMenu[]) =>
    gatherLists(pages.map((each, n) => ({ page: `${n}.html`, menus: [each] })));
  const none = { menus: [], apart: [] };

  it('are on all pages that have them, in the form most have', () => {
    const all = lists([
      menu(links('abc')),
      menu(links('abc')),
      menu(links('abd')),
      menu(links('xyz')),
      menu(links('abc'), { way: 'aside' }),
    ]);
    const { menus } = withPointedMenus(none, [{ way: 'nav', items: links('abd') }], all);
    expect(menus).toHaveLength(1);
    expect(menus[0]).toMatchObject({
      id: 'nav /a/',
      way: 'nav',
      isPointed: true,
      opensBranch: false,
      pages: ['0.html', '1.html'],
      differing: [{ page: '2.html', missing: ['c'], extra: ['d'] }],
    });
  });

  it('are not told twice, nor where no page has them', () => {
    const found = gathered(times(3, () => [menu(links('abc'))]));
    expect(
      withPointedMenus(found, [{ way: 'nav', items: links('abc') }], lists([menu(links('abc'))])).menus,
    ).toHaveLength(1);
    expect(withPointedMenus(none, [{ way: 'nav', items: links('abc') }], lists([menu(links('xyz'))])).menus).toEqual(
      [],
    );
    expect(
      withPointedMenus(found, [{ way: 'nav', items: links('xyz') }], lists([menu(links('xyz'))])).menus.map(
        ({ id }) => id,
      ),
    ).toEqual(['nav /a/', 'nav /x/']);
  });
});

describe('items', () => {
  it('are told apart by where they lead, or by their words', () => {
    expect([keyItem(link('/a/')), keyItem(words('Here'))]).toEqual(['/a/', '~Here']);
    const nested = [link('/a/', { children: [link('/b/'), words('Here')] }), link('/c/')];
    expect(signItems(nested)).toBe('/a/(/b/ ~Here) /c/');
    expect(signTopItems(nested)).toBe('/a/ /c/');
    expect([...walkItems(nested)].map(keyItem)).toEqual(['/a/', '/b/', '~Here', '/c/']);
  });

  it.each([
    ['/a/index.html', '/a/'],
    ['/a/INDEX.htm?x', '/a/?x'],
    ['/index.html#y', '/#y'],
    ['/a/index.htmls', '/a/index.htmls'],
    ['/a/myindex.html', '/a/myindex.html'],
    ['/a?b/index.html', '/a?b/index.html'],
    ['https://fell.example/index.html', 'https://fell.example/index.html'],
  ])('%s is plainly %s', (to, plain) => expect(plainTarget(to)).toBe(plain));

  it('that are words lead where their like lead, at each level', () => {
    const known = [
      link('/a/', { label: 'A', children: [link('/x/', { label: 'X' })] }),
      words('C'),
      link('', { label: 'D', form: 'head' }),
    ];
    const settled = settleWords(
      [
        words('A', { children: [words('X')] }),
        words('B'),
        words('C'),
        words('D'),
        link('/a/', { label: 'A', children: [words('X')] }),
      ],
      known,
    );
    expect(signItems(settled)).toBe('/a/(/x/) ~B ~C ~D /a/(/x/)');
  });
});
