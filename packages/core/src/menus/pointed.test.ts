import { describe, expect, it } from 'vitest';
import { parsePage } from '../html/index.ts';
import { gatherMenus, gatherLists, findMenuAt, findMenus, withPointedMenus, type SiteMenus } from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const document = (body: string) => parsePage(bytes(`<!DOCTYPE html><title>x</title><body>${body}`));
const at = (body: string, before: string) => {
  const page = document(body);
  return findMenuAt(page, '/a.html', page.source.text.indexOf(before));
};
const labels = (place: ReturnType<typeof findMenuAt>) => place?.items.map(({ label }) => label);

/** A list in the content, which no page says is there for the way. */
const CONTENT = (items: string) => `<main><h1>Rooms</h1><div class="links">${items}</div><p>Words.</p></main>`;
const LINKS = '<a href="b.html">North</a> &middot; <a href="c.html">South</a> &middot; <a href="d.html">West</a>';

describe('the list of links around a place', () => {
  it('is found wherever it stands, in the content too', () => {
    expect(labels(at(CONTENT(LINKS), '<a href="c.html"'))).toEqual(['North', 'South', 'West']);
    expect(findMenus(document(CONTENT(LINKS)), '/a.html')).toEqual([]);
  });

  it('is the whole of a list with lists in it', () => {
    const nested =
      '<ul><li><a href="b.html">North</a><ul><li><a href="e.html">Hall</a></li><li><a href="f.html">Yard</a></li></ul></li><li><a href="c.html">South</a></li></ul>';
    const place = at(`<main><h1>Rooms</h1>${nested}</main>`, '<a href="f.html"');
    expect(labels(place)).toEqual(['North', 'South']);
    expect(place?.items[0]?.children.map(({ label }) => label)).toEqual(['Hall', 'Yard']);
  });

  it('is none around a link in a text', () => {
    expect(at('<main><p>A long way <a href="b.html">north</a> of here, they say.</p></main>', '<a href="b.html"')).toBe(
      undefined,
    );
  });

  it('is known from any tag inside a link', () => {
    const bold = LINKS.replace('South', '<b>South</b>');
    expect(labels(at(CONTENT(bold), '<b>South'))).toEqual(['North', 'South', 'West']);
  });
});

describe('lists that go on from one another', () => {
  const START = '<a href="/x/">Works</a> &gt; <a href="/x/2/">Second</a>';
  const lists = (ends: readonly string[]) =>
    gatherLists(
      ends.map((end, n) => ({
        page: `p${n}.html`,
        menus: findMenus(document(`<div id="path">${START}${end}</div>`), `/p${n}.html`),
      })),
    );
  const guides = ' &gt; <a href="/x/2/guides/">Guides</a>';
  const tools = ' &gt; <a href="/x/2/tools/">Tools</a>';

  it('are a trail, however many pages have the beginning alone', () => {
    const { menus, apart } = gatherMenus(lists(['', '', '', '', guides, guides, guides, tools, tools, tools]), 10);
    expect(menus).toEqual([]);
    expect(apart).toMatchObject([{ kind: 'trail', pages: 10 }]);
  });

  it('are a menu where one only has an item more', () => {
    expect(gatherMenus(lists(['', '', '', '', '', guides]), 6).menus).toHaveLength(1);
  });
});

describe('a menu that was pointed at', () => {
  const pages = (bodies: readonly string[]) => bodies.map((body, n) => ({ path: `p${n}.html`, body: CONTENT(body) }));
  const NOTHING: SiteMenus = { menus: [], apart: [] };
  const place = at(CONTENT(LINKS), '<a href="c.html"');
  const pointed = { way: place?.way ?? '', items: place?.items ?? [] };
  const found = (bodies: readonly string[], known = NOTHING) => {
    const lists = gatherLists(
      pages(bodies).map(({ path, body }) => ({
        page: path,
        menus: findMenus(document(body), `/${path}`, new Set([pointed.way])).filter(({ way }) => way === pointed.way),
      })),
    );
    return withPointedMenus(known, [pointed], lists);
  };

  it('is on all pages that have it, and differs on those that have it almost', () => {
    const more = `${LINKS} &middot; <a href="e.html">East</a>`;
    const { menus } = found([LINKS, LINKS, more, '<a href="x.html">One</a> <a href="y.html">Two</a>', 'no links']);
    expect(menus).toHaveLength(1);
    expect(menus[0]).toMatchObject({
      isPointed: true,
      pages: ['p0.html', 'p1.html'],
      differing: [{ page: 'p2.html', missing: [], extra: ['East'] }],
    });
    expect(menus[0]?.items.map(({ label }) => label)).toEqual(['North', 'South', 'West']);
  });

  it('takes the form most pages have of it by now', () => {
    const now = `${LINKS} &middot; <a href="e.html">East</a>`;
    const { menus } = found([now, now, LINKS]);
    expect(menus[0]?.items.map(({ label }) => label)).toEqual(['North', 'South', 'West', 'East']);
    expect(menus[0]?.differing).toEqual([{ page: 'p2.html', missing: ['East'], extra: [] }]);
  });

  it('is told once, and not at all where no page has it', () => {
    const known = found([LINKS, LINKS]);
    expect(found([LINKS, LINKS], known).menus).toHaveLength(1);
    expect(found(['no links']).menus).toEqual([]);
  });

  it('leaves what was found by itself as it is', () => {
    const nav = (n: number) => ({
      page: `p${n}.html`,
      menus: findMenus(document(`<nav>${LINKS}</nav>`), `/p${n}.html`),
    });
    const known = gatherMenus(gatherLists([0, 1, 2].map(nav)), 3);
    expect(found([LINKS], known).menus.slice(0, 1)).toEqual(known.menus);
  });
});
