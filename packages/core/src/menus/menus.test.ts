import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parsePage, splice } from '../html/index.ts';
import { formatAddress, relativiseReference, resolveHref } from '../address/index.ts';
import {
  walkItems,
  gatherMenus,
  isCurrentItem,
  keyItem,
  gatherLists,
  editMenu,
  findMenus,
  signItems,
  type FoundItem,
  type MenuStyle,
  type WrittenItem,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (html: string, address: string) => findMenus(parsePage(bytes(html)), address);
const demo = (path: string) => readFileSync(new URL(`../../../../demo/lanternmoor/site/${path}`, import.meta.url));

function written(
  html: string,
  address: string,
  items: (WrittenItem | string)[],
  style: Partial<MenuStyle> = {},
): string {
  const document = parsePage(bytes(html));
  const [place] = findMenus(document, address);
  if (!place) throw new Error('no menu');
  const all = [...walkItems(place.items)];
  const full = items.map((item): WrittenItem => {
    if (typeof item !== 'string') return item;
    const own = all.find(({ label }) => label === item);
    if (!own) throw new Error(`no item ${item}`);
    const asIs = ({ to, label, newWindow, isCurrent, children }: FoundItem): WrittenItem => ({
      was: keyItem({ to, label }),
      to,
      label,
      newWindow,
      isCurrent,
      children: children.map(asIs),
    });
    return { ...asIs(own), isCurrent: own.isCurrent || isCurrentItem(own.to, address, place.marksBranch) };
  });
  const leadsTo = (href: string, to: string) => {
    const meant = resolveHref(href, address);
    return (
      (meant.kind === 'inside' ? formatAddress(meant.address) : meant.kind === 'outside' ? meant.url : href) === to
    );
  };
  const edits = editMenu(document, place.items, full, {
    mark: place.mark ?? { kind: 'attribute', name: 'aria-current', value: 'page' },
    opensBranch: false,
    leadsTo,
    hrefTo: (to, like) =>
      like !== undefined && !like.startsWith('/') && to.startsWith('/') ? relativiseReference(address, to) : to,
    ...style,
  });
  return new TextDecoder().decode(splice(bytes(html), document.source, edits));
}
const fresh = (label: string, to: string, more: Partial<WrittenItem> = {}): WrittenItem => ({
  was: undefined,
  to,
  label,
  newWindow: false,
  isCurrent: false,
  children: [],
  ...more,
});

const NAV =
  '<body><header><nav><ul><li><a href="/">Home</a></li><li><a href="/visit/" aria-current="page">Visit</a></li><li class="lang"><a href="/cy/" lang="cy" hreflang="cy">Cymraeg</a></li></ul></nav></header><main><ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a></li></ul></main></body>';

describe('a menu in a page', () => {
  it('is a list of links beside the content, with its current item', () => {
    const [menu, ...more] = read(NAV, '/visit/');
    expect(more).toEqual([]);
    expect(menu?.way).toBe('header > nav > ul');
    expect(menu?.items.map(({ to, label, isCurrent }) => `${label} ${to}${isCurrent ? ' *' : ''}`)).toEqual([
      'Home /',
      'Visit /visit/ *',
      'Cymraeg /cy/',
    ]);
    expect(menu?.mark).toEqual({ kind: 'attribute', name: 'aria-current', value: 'page' });
    expect(menu?.marksBranch).toBe(false);
    expect(read(NAV, '/visit/groups/')[0]?.marksBranch).toBe(true);
  });

  it('may be links side by side, marked by a class, relative, nested', () => {
    const [side] = read(
      '<body><nav><a href="a.html">A</a> | <a href="b.html" class="tab is-active">B</a> | <a href="c.html" class="tab">C</a></nav><main>x</main></body>',
      '/x/b.html',
    );
    expect(side?.items.map(({ to }) => to)).toEqual(['/x/a.html', '/x/b.html', '/x/c.html']);
    expect(side?.mark).toEqual({ kind: 'class', name: 'is-active', on: 'link' });
    const [nested] = read(
      '<body><nav><ul><li><a href="/a/">A</a><ul><li><a href="/a/1/">1</a></li></ul></li><li class="current"><a href="/b/">B</a></li></ul></nav><main>x</main></body>',
      '/b/',
    );
    expect(nested?.items[0]?.children.map(({ label }) => label)).toEqual(['1']);
    expect(nested?.mark).toEqual({ kind: 'class', name: 'current', on: 'item' });
    expect(signItems(nested?.items ?? [])).toBe('/a/(/a/1/) /b/');
  });

  it('is not what a page happens to list: that takes other pages with the same list', () => {
    const page = (n: number, list: string) => ({
      page: `p${n}.html`,
      menus: read(`<body><p>text</p><ul>${list}</ul></body>`, `/p${n}.html`),
    });
    const lists = (of: (n: number) => string) =>
      gatherMenus(gatherLists([0, 1, 2, 3].map((n) => page(n, of(n)))), 4).menus;
    expect(lists((n) => `<li><a href="a${n}">a</a><li><a href="b${n}">b</a>`)).toEqual([]);
    expect(lists(() => '<li><a href="a">a</a><li><a href="b">b</a>')).toHaveLength(1);
  });
});

describe('the menus of a site', () => {
  it('are those that stand alike on many pages; a page that differs is pointed out', () => {
    const list = (...to: string[]) =>
      `<body><nav><ul>${to.map((each) => `<li><a href="${each}">${each}</a></li>`).join('')}</ul></nav><main>x</main></body>`;
    const pages = [
      ...Array.from({ length: 6 }, (_, n) => ({
        page: `p${n}`,
        menus: read(list('/', '/a/', '/b/', '/c/'), `/p${n}/`),
      })),
      { page: 'odd', menus: read(list('/', '/a/', '/c/', '/d/'), '/odd/') },
      { page: 'own', menus: read(list('/x/', '/y/'), '/own/') },
    ];
    const { menus } = gatherMenus(gatherLists(pages), pages.length);
    expect(menus.map(({ id, pages: on }) => `${id}: ${on.length}`)).toEqual(['nav > ul /: 6']);
    expect(menus[0]?.differing).toEqual([{ page: 'odd', missing: ['/b/'], extra: ['/d/'] }]);
  });

  it('of the demo are one for each language', () => {
    const paths = [
      'visit/index.html',
      'visit/groups/index.html',
      'about/index.html',
      'learn/index.html',
      'cy/index.html',
      'cy/ymweld/index.html',
      'cy/ymweld/cyrraedd/index.html',
      'cy/dysgu/index.html',
      'cy/amdanom/index.html',
    ];
    const { menus } = gatherMenus(
      gatherLists(
        paths.map((path) => ({
          page: path,
          menus: findMenus(parsePage(demo(path)), `/${path.replace('index.html', '')}`),
        })),
      ),
      paths.length,
    );
    expect(menus.map(({ items }) => items[0]?.label).sort()).toEqual(['Hafan', 'Home']);
    expect(
      menus.every(({ mark, marksBranch }) => mark?.kind === 'attribute' && mark.name === 'aria-current' && marksBranch),
    ).toBe(true);
  });
});

describe('an edited menu', () => {
  it('keeps the markup of items that stay, in their new order', () => {
    expect(written(NAV, '/visit/', ['Cymraeg', 'Home', 'Visit'])).toBe(
      NAV.replace(
        '<li><a href="/">Home</a></li><li><a href="/visit/" aria-current="page">Visit</a></li><li class="lang"><a href="/cy/" lang="cy" hreflang="cy">Cymraeg</a></li>',
        '<li class="lang"><a href="/cy/" lang="cy" hreflang="cy">Cymraeg</a></li><li><a href="/">Home</a></li><li><a href="/visit/" aria-current="page">Visit</a></li>',
      ),
    );
  });

  it('gives new items the markup of their neighbours, marked on their own page, text staying text', () => {
    const out = written(NAV, '/journal/', ['Home', fresh('News & <more>', '/journal/', { isCurrent: true })]);
    expect(out).toContain(
      '<li><a href="/">Home</a></li><li><a aria-current="page" href="/journal/">News &amp; &lt;more></a></li></ul>',
    );
    expect(written(NAV, '/visit/', [fresh('Out', 'https://a.test/', { newWindow: true })])).toContain(
      '<li><a target="_blank" rel="noopener" href="https://a.test/">Out</a></li>',
    );
  });

  it('takes another label without losing what stands beside the words', () => {
    const html =
      '<body><nav><ul><li><a href="/a/"><svg></svg> <span>Old name</span></a></li><li><a href="/b/">B</a></li></ul></nav><main>x</main></body>';
    expect(written(html, '/', [fresh('New name', '/a/', { was: '/a/' }), 'B'])).toContain(
      '<a href="/a/"><svg></svg> <span>New name</span></a>',
    );
  });

  it('moves and renames bare words between separators that are written as character references', () => {
    const html =
      '<body><center>Home &middot; <a href="/a/">A&amp;B</a> &nbsp;&#183;&nbsp; <a href="/c/">C</a></center><p>x</p></body>';
    expect(written(html, '/', ['A&B', 'C', 'Home'])).toContain(
      '<center><a href="/a/">A&amp;B</a> &nbsp;&#183;&nbsp; <a href="/c/">C</a> &middot; Home</center>',
    );
    const [menu] = read(html, '/');
    const was = keyItem(menu?.items[0] ?? { to: '', label: '' });
    expect(written(html, '/', [fresh('Front', '', { was }), 'A&B', 'C'])).toContain('<center>Front &middot; <a');
  });

  it('takes another label without losing hard spaces around the old one', () => {
    const html =
      '<body><nav><ul><li><a href="/a/">&nbsp;Old &amp; name&nbsp;</a></li><li><a href="/b/">B</a></li></ul></nav></body>';
    expect(written(html, '/', [fresh('New', '/a/', { was: '/a/' }), 'B'])).toContain(
      '<a href="/a/">&nbsp;New&nbsp;</a>',
    );
  });

  it('nests, and loses its lists again', () => {
    const html =
      '<body><nav><ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a><ul class="sub"><li><a href="/b/1/">1</a></li></ul></li></ul></nav><main>x</main></body>';
    const deeper = written(html, '/', [
      fresh('A', '/a/', { was: '/a/', children: [fresh('New', '/a/n/')] }),
      fresh('B', '/b/', { was: '/b/' }),
    ]);
    expect(deeper).toContain(
      '<li><a href="/a/">A</a><ul class="sub"><li><a href="/a/n/">New</a></li></ul></li><li><a href="/b/">B</a></li></ul></nav>',
    );
  });

  it('reads back as it was written, whatever it holds (property)', () => {
    const label = fc
      .string({ minLength: 1, maxLength: 12 })
      .map((each) => each.replace(/[\s\0]+/g, ' ').trim())
      .filter((each) => each !== '');
    const item = fc.record({ label, slug: fc.stringMatching(/^[a-z]{1,5}$/) });
    fc.assert(
      fc.property(fc.uniqueArray(item, { minLength: 2, maxLength: 6, selector: ({ slug }) => slug }), (items) => {
        const [menu] = read(
          written(
            NAV,
            '/none/',
            items.map(({ label: each, slug }) => fresh(each, `/${slug}/`)),
          ),
          '/none/',
        );
        expect(menu?.items.map(({ label: each, to }) => [each, to])).toEqual(
          items.map(({ label: each, slug }) => [each, `/${slug}/`]),
        );
      }),
    );
  });
});
