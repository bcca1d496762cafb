/** Pages as they are published: everything decided spliced in, in the order in which it is heard. This project's own. */
import { describe, expect, it } from 'vitest';
import { listAnchors, parsePage, type Edit } from '../html/index.ts';
import { findMenus } from '../menus/index.ts';
import type { Touch } from '../touches/index.ts';
import {
  compileSpan,
  compilePage,
  compileStyle,
  stripBase,
  mapMovesUnder,
  placeUnderBase,
  type MenuPlan,
  type PagePlan,
  type PlannedItem,
  type SharedPlan,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const plan = (more: Partial<PagePlan> = {}): PagePlan => ({
  id: 'p',
  before: '/visit/',
  after: '/visit/',
  path: 'visit/index.html',
  title: undefined,
  isCopy: false,
  touches: [],
  sectionsOut: [],
  head: [],
  ...more,
});
const shared = (more: Partial<SharedPlan> = {}): SharedPlan => ({
  basePath: '',
  moves: new Map(),
  unlinked: new Set(),
  pageAddresses: new Map([['bus', '/bus/']]),
  menus: [],
  ...more,
});
const compiled = (
  html: string,
  more: Partial<PagePlan> = {},
  all: Partial<SharedPlan> = {},
  extra?: () => readonly Edit[],
) => new TextDecoder().decode(compilePage(plan(more), shared(all), bytes(html), extra).bytes);
const own = { kind: 'page', page: 'p' } as const;
const place = (html: string, mark: string, what = 'element') => {
  const found = [...listAnchors(parsePage(bytes(html)))].find(
    ({ anchor }) => anchor.what === what && anchor.mark.startsWith(mark),
  );
  if (!found) throw new Error(`nothing is marked ${mark}`);
  return found.anchor;
};

describe('a page as it is published', () => {
  it('is its source where nothing was decided, byte for byte', () => {
    const source = bytes('<a href="../bus/">Bus</a>');
    expect(compilePage(plan(), shared(), source)).toEqual({
      path: 'visit/index.html',
      bytes: source,
      encoding: 'utf-8',
    });
    expect(compilePage(plan(), shared(), source).bytes).toBe(source);
  });

  it('leads to pages, home, files and elsewhere, the site’s path included', () => {
    const html = '<body><a href="/x/">X</a>';
    const to = (target: object) =>
      compiled(
        html,
        { touches: [{ kind: 'link', scope: own, place: place(html, '/x/'), target } as Touch] },
        { basePath: '/m', pageAddresses: new Map([['bus', '/m/bus/']]) },
      );
    expect(to({ kind: 'page', page: 'bus' })).toBe('<body><a href="/m/bus/">X</a>');
    expect(to({ kind: 'home' })).toBe('<body><a href="/m/">X</a>');
    expect(to({ kind: 'file', address: '/a.pdf' })).toBe('<body><a href="/m/a.pdf">X</a>');
    expect(to({ kind: 'url', url: 'https://fell.example/' })).toBe('<body><a href="https://fell.example/">X</a>');
    // Where that is gone, the link follows as it is.
    expect(to({ kind: 'page', page: 'gone' })).toBe('<body><a href="/m/x/">X</a>');
  });

  it('hears the last word first', () => {
    const html = '<body><p>One</p>';
    const text = (to: string): Touch => ({ kind: 'text', scope: own, to, place: place(html, 'One', 'text') });
    expect(compiled(html, { touches: [text('Two'), text('Three')] })).toBe('<body><p>Three</p>');
    const link = '<body><a href="/x/">X</a>';
    const leads = (url: string, newWindow?: boolean) =>
      ({ kind: 'link', scope: own, place: place(link, '/x/'), target: { kind: 'url', url }, newWindow }) as Touch;
    expect(compiled(link, { touches: [leads('/a/', true), leads('/b/')] })).toBe(
      '<body><a target="_blank" rel="noopener" href="/b/">X</a>',
    );
  });

  it('shows other pictures, under the site’s path', () => {
    const swap = { kind: 'picture', scope: own, from: '/a.png', to: '/b.png' } as Touch;
    expect(compiled('<img src="../a.png"><img src="/c.png">', { touches: [swap] })).toBe(
      '<img src="../b.png"><img src="/c.png">',
    );
    expect(
      compiled('<img src="/a.png"><img src="/c.png">', { touches: [swap], after: '/m/visit/' }, { basePath: '/m' }),
    ).toBe('<img src="/m/b.png"><img src="/m/c.png">');
  });

  it('makes words of links to what is removed, but not of those that somebody made lead elsewhere', () => {
    const html = '<body><a href="/gone/">G</a><a href="/gone/?x">H</a>';
    const unlinked = { unlinked: new Set(['/gone/']) };
    expect(compiled(html, {}, unlinked)).toBe('<body>GH');
    const elsewhere = {
      kind: 'link',
      scope: own,
      place: place(html, '/gone/ '),
      target: { kind: 'page', page: 'bus' },
    } as Touch;
    expect(compiled(html, { touches: [elsewhere] }, unlinked)).toBe('<body><a href="/bus/">G</a>H');
    const opened = { kind: 'link', scope: own, place: place(html, '/gone/ '), newWindow: true } as Touch;
    expect(compiled(html, { touches: [opened] }, unlinked)).toBe('<body>GH');
  });

  it('has the title that was set, unless its head holds it', () => {
    expect(compiled('<title>Old</title>', { title: 'New' })).toBe('<title>New</title>');
    const head = [{ name: 'title', text: 'New · Moor' }] as unknown as PagePlan['head'];
    expect(compiled('<title>Old</title>', { title: 'New', head })).toContain('New · Moor');
    const description = [{ name: 'description', text: 'D' }] as unknown as PagePlan['head'];
    expect(compiled('<title>Old</title>', { title: 'New', head: description })).toContain('<title>New</title>');
  });

  it('takes along what stands in a part that is left out', () => {
    const html = '<body><header><a href="/old/">O</a></header><main><a href="/old/">O</a></main>';
    const out = { kind: 'parts-out', scope: own, parts: ['header'] } as unknown as Touch;
    expect(compiled(html, { touches: [out] }, { moves: new Map([['/old/', '/new/']]) })).toBe(
      '<body><main><a href="/new/">O</a></main>',
    );
  });

  it('has its sections in their order, with what is edited in them, and without those that are removed', () => {
    const html = '<main><h2>A</h2><a href="/old/">x</a><h2>B</h2><p>b</p><h2>C</h2></main>';
    const order = (...names: string[]) =>
      ({ kind: 'sections', scope: own, order: names.map((name) => ({ name, nth: 0 })) }) as Touch;
    const moves = { moves: new Map([['/old/', '/new/']]) };
    expect(compiled(html, { touches: [order('B', 'A')] }, moves)).toBe(
      '<main><h2>B</h2><p>b</p><h2>C</h2><h2>A</h2><a href="/new/">x</a></main>',
    );
    expect(compiled(html, { touches: [order('B', 'A'), order('C', 'A')] }, moves)).toBe(
      '<main><h2>C</h2><h2>A</h2><a href="/new/">x</a><h2>B</h2><p>b</p></main>',
    );
    expect(compiled(html, { sectionsOut: [{ name: 'A', nth: 0 }] }, moves)).toBe(
      '<main><h2>B</h2><p>b</p><h2>C</h2></main>',
    );
  });

  it('gives way to further edits only where nothing else was decided', () => {
    const extra = () => [
      { start: 0, end: 0, text: '<!-- x -->' },
      { start: 7, end: 10, text: 'no' },
    ];
    expect(compiled('<title>Old</title>', { title: 'New' }, {}, extra)).toBe('<!-- x --><title>New</title>');
  });
});

describe('a span of a page as it is published', () => {
  const HTML = '<body><header>H</header><main><h2>A</h2><a href="/old/">x</a><h2>B</h2></main>';
  const span = (part: string, more: Partial<PagePlan> = {}, all: Partial<SharedPlan> = {}) => {
    const start = HTML.indexOf(part);
    return compileSpan(plan(more), shared({ moves: new Map([['/old/', '/new/']]), ...all }), parsePage(bytes(HTML)), {
      start,
      end: start + part.length,
    });
  };

  it('has the edits that lie in it, and no others', () => {
    expect(span('<a href="/old/">x</a>')).toBe('<a href="/new/">x</a>');
    expect(span('<h2>A</h2><a href="/old/">x</a><h2>B</h2>')).toBe('<h2>A</h2><a href="/new/">x</a><h2>B</h2>');
    expect(span('<h2>B</h2>')).toBe('<h2>B</h2>');
    // An edit that reaches beyond it is none of its own.
    expect(span('d/">x')).toBe('d/">x');
  });

  it('is gone with the part it stood in', () => {
    const out = { kind: 'parts-out', scope: own, parts: ['header'] } as unknown as Touch;
    expect(span('H', { touches: [out] })).toBeUndefined();
    expect(span('<header>H</header>', { touches: [out] })).toBe('');
    expect(span('<h2>A</h2>', { touches: [out] })).toBe('<h2>A</h2>');
  });
});

describe('menus as they are published', () => {
  const NAV =
    '<body><nav><ul><li><a href="/bus/">Bus</a></li><li><a href="../car/index.html">Car</a></li></ul></nav><main>x</main>';
  const item = (to: string, label: string, more: Partial<PlannedItem> = {}): PlannedItem => ({
    was: undefined,
    to,
    label,
    newWindow: false,
    children: [],
    ...more,
  });
  const menu = (html: string, items: readonly PlannedItem[], more: Partial<MenuPlan> = {}): MenuPlan => {
    const [found] = findMenus(parsePage(bytes(html)), '/visit/');
    if (!found) throw new Error('no menu');
    return {
      menu: 'm',
      ways: [found.way],
      found: found.items,
      others: [],
      opensBranch: false,
      whereItDiffers: false,
      items,
      mark: undefined,
      marksBranch: false,
      ...more,
    };
  };
  const written = (
    items: readonly PlannedItem[],
    more: Partial<MenuPlan> = {},
    page: Partial<PagePlan> = {},
    all: Partial<SharedPlan> = {},
    html = NAV,
  ) =>
    compiled(html, page, { menus: [menu(html, items, more)], ...all }).replace(
      /^<body><nav><ul>|<\/ul><\/nav><main>x<\/main>$/g,
      '',
    );

  const BUS = item('/bus/', 'Bus', { was: '/bus/' });
  const CAR = item('/car/', 'Car', { was: '/car/' });

  it('keep the bytes of items that lead where they led, however it is spelled', () => {
    expect(written([BUS, CAR])).toBe('<li><a href="/bus/">Bus</a></li><li><a href="../car/index.html">Car</a></li>');
    expect(written([CAR, BUS])).toBe('<li><a href="../car/index.html">Car</a></li><li><a href="/bus/">Bus</a></li>');
  });

  it('lead to where pages are today, the way each link was written', () => {
    const moved = {
      moves: new Map([
        ['/bus/', '/coach/'],
        ['/car/index.html', '/drive/'],
      ]),
    };
    expect(
      written([item('/coach/', 'Bus', { was: '/bus/' }), item('/drive/', 'Car', { was: '/car/' })], {}, {}, moved),
    ).toBe('<li><a href="/coach/">Bus</a></li><li><a href="../drive/">Car</a></li>');
    expect(written([item('/rail/', 'Bus', { was: '/bus/' }), item('/ship/', 'Car', { was: '/car/' })])).toBe(
      '<li><a href="/rail/">Bus</a></li><li><a href="../ship/">Car</a></li>',
    );
    expect(written([item('https://fell.example/', 'Bus', { was: '/bus/' }), CAR])).toBe(
      '<li><a href="https://fell.example/">Bus</a></li><li><a href="../car/index.html">Car</a></li>',
    );
  });

  it('mark the item of the page one is on, and of the branch', () => {
    const mark = { kind: 'class', name: 'on', on: 'link' } as const;
    const here = [item('/visit/', 'Bus', { was: '/bus/' }), CAR];
    expect(written(here, { mark })).toContain('class="on"');
    expect(written(here, { mark }, { after: '/visit/deep/' })).not.toContain('class="on"');
    expect(written(here, { mark, marksBranch: true }, { after: '/visit/deep/' })).toContain('class="on"');
    expect(
      written([item('https://fell.example/', 'Bus', { was: '/bus/' }), CAR], { mark, marksBranch: true }),
    ).not.toContain('class="on"');
  });

  it('are left as they are on pages that have another list', () => {
    const other = '<body><nav><ul><li><a href="/x/">X</a></li><li><a href="/y/">Y</a></li></ul></nav><main>x</main>';
    expect(compiled(other, {}, { menus: [menu(NAV, [CAR])] })).toBe(other);
  });
});

describe('a style sheet as it is published', () => {
  const style = (css: string, base: string, swaps: [string, string][] = []) =>
    new TextDecoder().decode(compileStyle(bytes(css), '/css/a.css', base, new Map(swaps)));
  it.each<[string, string, [string, string][], string]>([
    ['a{b:url(/x.png)}', '/m', [], 'a{b:url(/m/x.png)}'],
    ['a{b:url(//fell.example/x.png)}', '/m', [], 'a{b:url(//fell.example/x.png)}'],
    ['a{b:url(x.png)}', '/m', [], 'a{b:url(x.png)}'],
    ['a{b:url(../x.png)}', '', [['/x.png', '/y/z.png']], 'a{b:url(../y/z.png)}'],
    ['a{b:url( /x.png )}', '', [['/x.png', '/y.png']], 'a{b:url(/y.png)}'],
    ['a{b:url(/x.png)}', '/m', [['/x.png', '/y.png']], 'a{b:url(/m/y.png)}'],
    ['a{b:url(/w.png)}', '', [['/x.png', '/y.png']], 'a{b:url(/w.png)}'],
    ['a{b:url(https://fell.example/x.png)}', '', [['/x.png', '/y.png']], 'a{b:url(https://fell.example/x.png)}'],
  ])('%s under %j with %j', (css, base, swaps, expected) => expect(style(css, base, swaps)).toBe(expected));

  it('is its source where nothing is to be changed', () => {
    const source = bytes('a{b:url(/x.png)}');
    expect(compileStyle(source, '/a.css', '', new Map())).toBe(source);
  });
});

it.each([
  ['', 'a/b.html', 'a/b.html'],
  ['/m', 'a/b.html', 'm/a/b.html'],
  ['/m/n', 'a', 'm/n/a'],
])('under %j %s is published as %s, and found there', (base, path, published) => {
  expect(placeUnderBase(base, path)).toBe(published);
  expect(stripBase(base, published)).toBe(path);
});

it('what is not under a path is not inside it', () => {
  expect(stripBase('/m', 'mn/a')).toBeUndefined();
  expect(stripBase('/m', 'm')).toBeUndefined();
});

it.each([
  ['', '/old/', '/new/'],
  ['', '/x/', undefined],
  ['/m', '/old/', '/m/new/'],
  ['/m', '/x/', '/m/x/'],
  ['/m', '/#', '/m/front/'],
  ['/m', '/x/#', undefined],
])('under %j a link to %s leads to %s', (base, path, to) => {
  expect(
    mapMovesUnder(
      base,
      new Map([
        ['/old/', '/new/'],
        ['/#', '/front/'],
      ]),
    )(path),
  ).toBe(to);
});
