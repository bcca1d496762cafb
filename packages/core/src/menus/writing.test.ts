/**
 * Menus written into pages in their own markup. Sources: HTML standard, sections 4.6.7.13 (`noopener`) and 13.1.2
 * (attributes, text); WAI-ARIA 1.2, section 6.6 (`aria-current`). Separators and marks are common practice, no source.
 */
import { describe, expect, it } from 'vitest';
import { formatAddress, resolveHref } from '../address/index.ts';
import { parsePage, splice } from '../html/index.ts';
import {
  isCurrentItem,
  editMenu,
  findMenus,
  withRemovedItems,
  type MenuItem,
  type MenuStyle,
  type WrittenItem,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
/** What a menu in a page reads once it is written so; the page around it is left out. */
function written(menu: string, items: readonly WrittenItem[], style: Partial<MenuStyle> = {}, address = '/p/'): string {
  const html = `<body><nav>${menu}</nav>`;
  const document = parsePage(bytes(html));
  const [place] = findMenus(document, address);
  if (!place) throw new Error('no menu');
  const edits = editMenu(document, place.items, items, {
    mark: undefined,
    opensBranch: false,
    leadsTo: (href, to) => {
      const meant = resolveHref(href, address);
      return (
        (meant.kind === 'inside' ? formatAddress(meant.address) : meant.kind === 'outside' ? meant.url : href) === to
      );
    },
    hrefTo: (to, like) => (like === undefined ? `?${to}` : to),
    ...style,
  });
  return new TextDecoder()
    .decode(splice(bytes(html), document.source, edits))
    .slice('<body><nav>'.length, -'</nav>'.length);
}
const item = (to: string, label: string, more: Partial<WrittenItem> = {}): WrittenItem => ({
  was: undefined,
  to,
  label,
  newWindow: false,
  isCurrent: false,
  children: [],
  ...more,
});
const own = (to: string, label: string, more: Partial<WrittenItem> = {}) =>
  item(to, label, { was: to === '' ? `~${label}` : to, ...more });
const A = own('/a/', 'A');
const B = own('/b/', 'B');
const C = own('/c/', 'C');
const NEW = item('/n/', 'New');

describe('items in a menu', () => {
  const UL =
    '<ul><li><a href="/a/">A</a></li>\n<li class=x><a href="/b/" id=b lang=cy>B</a></li>\n<li><a href="/c/">C</a></li></ul>';

  it.each<[string, readonly WrittenItem[], string]>([
    ['as they were keep every byte', [A, B, C], UL],
    ['less one lose it with the gap', [A, C], '<ul><li><a href="/a/">A</a></li>\n<li><a href="/c/">C</a></li></ul>'],
    [
      'less the last lose it',
      [A, B],
      '<ul><li><a href="/a/">A</a></li>\n<li class=x><a href="/b/" id=b lang=cy>B</a></li></ul>',
    ],
    ['less all are none', [], '<ul></ul>'],
    [
      'turned round keep their gaps',
      [C, B, A],
      '<ul><li><a href="/c/">C</a></li>\n<li class=x><a href="/b/" id=b lang=cy>B</a></li>\n<li><a href="/a/">A</a></li></ul>',
    ],
    [
      'that are new are like the plainest',
      [A, NEW, B, C],
      '<ul><li><a href="/a/">A</a></li>\n<li><a href="/n/">New</a></li>\n<li class=x><a href="/b/" id=b lang=cy>B</a></li>\n<li><a href="/c/">C</a></li></ul>',
    ],
    ['with another label', [own('/a/', 'Ah & <oh>', { was: '/a/' }), B, C], UL.replace('>A<', '>Ah &amp; &lt;oh><')],
    ['that lead elsewhere', [item('/z/', 'A', { was: '/a/' }), B, C], UL.replace('"/a/"', '"/z/"')],
    ['that lead nowhere now', [item('', 'A', { was: '/a/' }), B, C], UL.replace('"/a/"', '"#"')],
    [
      'that open a new window',
      [own('/a/', 'A', { newWindow: true }), B, C],
      UL.replace('<a href="/a/"', '<a target="_blank" rel="noopener" href="/a/"'),
    ],
  ])('%s', (_, items, expected) => expect(written(UL, items)).toBe(expected));

  it('do not take over what is another one’s: its identity, language and title', () => {
    const menu =
      '<ul><li><a href="/a/" id=a lang=cy hreflang=cy title=T rel=me accesskey=a>A</a></li><li><a href="/b/" id=b lang=cy hreflang=cy title=T rel=me accesskey=a>B</a></li></ul>';
    expect(written(menu, [A, B, NEW])).toBe(menu.replace('</ul>', '<li><a href="/n/">New</a></li></ul>'));
  });

  it('that opened a new window open none now', () => {
    expect(
      written('<ul><li><a href="/a/" target=_blank rel=noopener>A</a></li><li><a href="/b/">B</a></li></ul>', [A, B]),
    ).toBe('<ul><li><a href="/a/" rel=noopener>A</a></li><li><a href="/b/">B</a></li></ul>');
  });

  it('are chosen as a pattern without marks, lists and much markup', () => {
    const menu =
      '<ul><li class=on><a href="/a/" class=active>A</a></li><li><a href="/b/">B</a><ul><li><a href="/x/">X</a></li></ul></li><li class=y><a href="/c/">C</a></li></ul>';
    expect(written(menu, [A, own('/b/', 'B', { children: [own('/x/', 'X')] }), C, NEW])).toContain(
      '<li class=y><a href="/n/">New</a></li></ul>',
    );
  });

  it('are links side by side too, whose separators part as many as there are', () => {
    const line = '<a href="/a/">A</a> | <a href="/b/">B</a> | <a href="/c/">C</a>';
    expect(written(line, [A, C])).toBe('<a href="/a/">A</a> | <a href="/c/">C</a>');
    expect(written(line, [A, B, NEW, C])).toBe(
      '<a href="/a/">A</a> | <a href="/b/">B</a> | <a href="/n/">New</a> | <a href="/c/">C</a>',
    );
    expect(written(line, [C])).toBe('<a href="/c/">C</a>');
  });

  it('stay before the title or the picture they stood before', () => {
    const line = '<a href="/a/">A</a> <h4>More</h4> <a href="/b/">B</a> <a href="/c/">C</a>';
    expect(written(`<div>${line}</div>`, [own('/a/', 'A')], {}).startsWith('<div><a href="/a/">A</a>')).toBe(true);
    const pictures =
      '<ul><li><a href="/a/">A</a></li><img src=x><li><a href="/b/">B</a></li><li><a href="/c/">C</a></li></ul>';
    expect(written(pictures, [A, C])).toBe(
      '<ul><li><a href="/a/">A</a></li><img src=x><li><a href="/c/">C</a></li></ul>',
    );
    expect(written(pictures, [B, C])).toBe(
      '<ul><img src=x><li><a href="/b/">B</a></li><li><a href="/c/">C</a></li></ul>',
    );
    expect(written(pictures, [B, A])).toBe(
      '<ul><li><a href="/b/">B</a></li><li><a href="/a/">A</a></li><img src=x></ul>',
    );
  });

  it('have separators inside, but for the last or the first one', () => {
    const tail = '<ul><li><a href="/a/">A</a> |</li><li><a href="/b/">B</a> |</li><li><a href="/c/">C</a></li></ul>';
    expect(written(tail, [A, B])).toBe('<ul><li><a href="/a/">A</a> |</li><li><a href="/b/">B</a></li></ul>');
    expect(written(tail, [C, A])).toBe('<ul><li><a href="/c/">C</a> |</li><li><a href="/a/">A</a></li></ul>');
    const lead = '<ul><li><a href="/a/">A</a></li><li>| <a href="/b/">B</a></li><li>| <a href="/c/">C</a></li></ul>';
    expect(written(lead, [B, C])).toBe('<ul><li><a href="/b/">B</a></li><li>| <a href="/c/">C</a></li></ul>');
    expect(written(lead, [B, A])).toBe('<ul><li><a href="/b/">B</a></li><li>| <a href="/a/">A</a></li></ul>');
    // Where all have it, it is theirs.
    const all = '<ul><li>» <a href="/a/">A</a></li><li>» <a href="/b/">B</a></li></ul>';
    expect(written(all, [B, A])).toBe('<ul><li>» <a href="/b/">B</a></li><li>» <a href="/a/">A</a></li></ul>');
    const mixed = '<ul><li><a href="/a/">A</a> |</li><li><a href="/b/">B</a> *</li><li><a href="/c/">C</a></li></ul>';
    expect(written(mixed, [A, B])).toBe('<ul><li><a href="/a/">A</a> |</li><li><a href="/b/">B</a> *</li></ul>');
  });
});

describe('labels', () => {
  const relabelled = (inner: string, label: string, to = '/a/') =>
    written(`<ul><li>${inner}</li><li><a href="/b/">B</a></li><li><a href="/c/">C</a></li></ul>`, [
      item(to, 'New', { was: to === '' ? `~${label}` : to }),
      B,
      C,
    ])
      .replace(/<\/li><li><a href="\/b\/.*$/, '')
      .replace('<ul><li>', '');
  it.each([
    [
      'in the longest text',
      '<a href="/a/"><i>1</i> <b>Long one</b></a>',
      '1 Long one',
      '<a href="/a/"><i>1</i> <b>New</b></a>',
    ],
    ['not in a separator', '<a href="/a/">»»»»»» <b>A</b></a>', '»»»»»» A', '<a href="/a/">»»»»»» <b>New</b></a>'],
    ['of a picture', '<a href="/a/"><img alt=" Logo " src=x></a>', 'Logo', '<a href="/a/"><img alt="New" src=x></a>'],
    [
      'of a symbol',
      '<a href="/a/"><svg aria-label="Logo"></svg></a>',
      'Logo',
      '<a href="/a/"><svg aria-label="New"></svg></a>',
    ],
    ['of a link with nothing in it', '<a href="/a/"></a>', 'a', '<a href="/a/">New</a>'],
  ])('stand %s', (_, inner, label, expected) => expect(relabelled(inner, label)).toBe(expected));

  it('of words', () => expect(relabelled('<b>Here</b>', 'Here', '')).toBe('<b>New</b>'));
});

describe('words that become links, and links that become words', () => {
  const line = '<a href="/a/">A</a> | Here | <a href="/c/">C</a>';
  it('lead where they are told, written like the others', () => {
    expect(written(line, [A, item('/here/', 'Here', { was: '~Here' }), C])).toBe(
      '<a href="/a/">A</a> | <a href="/here/">Here</a> | <a href="/c/">C</a>',
    );
    expect(written(line, [A, item('/here/', 'Here', { was: '~Here', newWindow: true }), C])).toContain(
      '<a href="/here/" target="_blank" rel="noopener">Here</a>',
    );
    expect(
      written('<ul><li><a href="/a/">A</a></li><li><b>Here</b></li><li><a href="/c/">C</a></li></ul>', [
        A,
        item('/here/', 'Here', { was: '~Here' }),
        C,
      ]),
    ).toContain('<li><b><a href="/here/">Here</a></b></li>');
  });

  it('stay a button where they are one', () => {
    const menu = '<ul><li><a href="/a/">A</a></li><li><button>More</button></li><li><a href="/c/">C</a></li></ul>';
    expect(written(menu, [A, item('/m/', 'More', { was: '~More' }), C])).toContain('<li><button>More</button></li>');
  });

  it('are words on their own page, where that is how this menu marks it', () => {
    const mark = { kind: 'words', tag: 'b' } as const;
    const links = '<ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a></li></ul>';
    expect(written(links, [A, own('/b/', 'B', { isCurrent: true })], { mark })).toBe(
      '<ul><li><a href="/a/">A</a></li><li><b>B</b></li></ul>',
    );
    expect(written(links, [A, own('/b/', 'B', { isCurrent: true })], { mark: { kind: 'words' } })).toBe(
      '<ul><li><a href="/a/">A</a></li><li>B</li></ul>',
    );
    expect(written(line, [A, item('/p/', 'Here', { was: '~Here', isCurrent: true }), C], { mark })).toBe(line);
    expect(written(line, [A, item('', 'Here', { was: '~Here' }), C])).toBe(line);
    // A link to nothing is the page itself, and stays as it is.
    const empty = '<a href="/a/">A</a> | <a href="">Here</a> | <a href="/c/">C</a>';
    expect(written(empty, [A, item('/p/', 'Here', { was: '~Here', isCurrent: true }), C], { mark })).toBe(empty);
    expect(written(empty, [A, item('/q/', 'Here', { was: '~Here' }), C], { mark })).toBe(
      empty.replace('href=""', 'href="/q/"'),
    );
  });
});

describe('marks', () => {
  const current = own('/b/', 'B', { isCurrent: true });
  it.each<[string, MenuStyle['mark'], string, string]>([
    [
      'an attribute is given',
      { kind: 'attribute', name: 'aria-current', value: 'true' },
      '<li><a href="/b/">B</a></li>',
      '<li><a aria-current="true" href="/b/">B</a></li>',
    ],
    [
      'an attribute stays',
      { kind: 'attribute', name: 'aria-current', value: 'true' },
      '<li><a href="/b/" aria-current=page>B</a></li>',
      '<li><a href="/b/" aria-current=page>B</a></li>',
    ],
    [
      'a class of the link is given',
      { kind: 'class', name: 'on', on: 'link' },
      '<li><a href="/b/" class="x  y">B</a></li>',
      '<li><a href="/b/" class="x y on">B</a></li>',
    ],
    [
      'a class of the item is given',
      { kind: 'class', name: 'on', on: 'item' },
      '<li><a href="/b/">B</a></li>',
      '<li class="on"><a href="/b/">B</a></li>',
    ],
    [
      'a class stays',
      { kind: 'class', name: 'on', on: 'item' },
      '<li class="x on">B <a href="/b/">B</a></li>',
      '<li class="x on">B <a href="/b/">B</a></li>',
    ],
    ['nothing is given', undefined, '<li><a href="/b/">B</a></li>', '<li><a href="/b/">B</a></li>'],
  ])('%s', (_, mark, before, after) => {
    expect(written(`<ul><li><a href="/a/">A</a></li>${before}</ul>`, [A, current], { mark })).toBe(
      `<ul><li><a href="/a/">A</a></li>${after}</ul>`,
    );
  });

  it.each<[MenuStyle['mark'], string, string]>([
    [
      { kind: 'attribute', name: 'aria-current', value: 'page' },
      '<li><a href="/b/" aria-current="page">B</a></li>',
      '<li><a href="/b/">B</a></li>',
    ],
    [
      { kind: 'class', name: 'on', on: 'item' },
      '<li class="x on"><a href="/b/">B</a></li>',
      '<li class="x"><a href="/b/">B</a></li>',
    ],
    [
      { kind: 'class', name: 'on', on: 'link' },
      '<li><a class="on" href="/b/">B</a></li>',
      '<li><a href="/b/">B</a></li>',
    ],
  ])('%j is taken away', (mark, before, after) => {
    expect(written(`<ul><li><a href="/a/">A</a></li>${before}</ul>`, [A, B], { mark })).toBe(
      `<ul><li><a href="/a/">A</a></li>${after}</ul>`,
    );
  });

  it.each([
    ['/a/', '/a/', false, true],
    ['/a/', '/a/b/', false, false],
    ['/a/', '/a/b/', true, true],
    ['/', '/a/', true, false],
    ['/a/#b', '/a/', true, false],
    ['/b/', '/a/', true, false],
  ])('%s on %s, branches %s: %s', (itemAddress, page, branches, isCurrent) =>
    expect(isCurrentItem(itemAddress, page, branches)).toBe(isCurrent),
  );
});

describe('levels', () => {
  const NESTED =
    '<ul><li><a href="/a/">A</a><ul class=sub id=s><li><a href="/x/">X</a></li> <li><a href="/y/">Y</a></li></ul></li><li><a href="/b/">B</a></li></ul>';
  const X = own('/x/', 'X');
  const Y = own('/y/', 'Y');
  const a = (...children: WrittenItem[]) => own('/a/', 'A', { children });
  const b = (...children: WrittenItem[]) => own('/b/', 'B', { children });

  it('change on their own', () => {
    expect(written(NESTED, [a(X, Y), B])).toBe(NESTED);
    expect(written(NESTED, [a(Y, X), B])).toBe(
      NESTED.replace(
        '<li><a href="/x/">X</a></li> <li><a href="/y/">Y</a></li>',
        '<li><a href="/y/">Y</a></li> <li><a href="/x/">X</a></li>',
      ),
    );
    expect(written(NESTED, [a(), B])).toBe('<ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a></li></ul>');
  });

  it('are made like another one, without its identity', () => {
    expect(written(NESTED, [a(X, Y), b(NEW)])).toBe(
      NESTED.replace('>B</a>', '>B</a><ul class=sub><li><a href="/n/">New</a></li></ul>'),
    );
    expect(written('<ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a></li></ul>', [a(NEW), B])).toBe(
      '<ul><li><a href="/a/">A</a><ul><li><a href="/n/">New</a></li></ul></li><li><a href="/b/">B</a></li></ul>',
    );
  });

  it('give and take items with their markup where they are written alike', () => {
    const menu = NESTED.replace('<a href="/x/">', '<a href="/x/" title=T>');
    expect(written(menu, [a(Y), B, X])).toContain('<li><a href="/x/" title=T>X</a></li></ul>');
  });

  it('are the page’s own where the menu opens one branch at a time', () => {
    expect(written(NESTED, [a(NEW), B], { opensBranch: true })).toBe(NESTED);
    expect(written(NESTED, [B, a(NEW)], { opensBranch: true })).toContain(
      '<ul class=sub id=s><li><a href="/x/">X</a></li>',
    );
  });

  it('follow each other where the markup has none', () => {
    expect(written('<a href="/a/">A</a> | <a href="/b/">B</a>', [a(NEW), B])).toBe(
      '<a href="/a/">A</a> | <a href="/n/">New</a> | <a href="/b/">B</a>',
    );
  });
});

describe('removed items in a menu that is written anew', () => {
  const known = (label: string, more: Partial<MenuItem> = {}): MenuItem => ({
    target: { kind: 'address', address: `/${label}/` },
    label,
    newWindow: false,
    children: [],
    ...more,
  });
  const shape = (items: readonly MenuItem[]): string =>
    items
      .map(
        ({ label, removed, children }) =>
          `${label}${removed === undefined ? '' : '-'}${children.length > 0 ? `(${shape(children)})` : ''}`,
      )
      .join(' ');
  const gone = (label: string, removed: number, more: Partial<MenuItem> = {}) => known(label, { removed, ...more });

  it('stay among the neighbours they had', () => {
    const former = [known('a'), gone('x', 1), known('b'), gone('y', 2)];
    expect(shape(withRemovedItems(former, [known('a'), known('b')]))).toBe('a x- b y-');
    expect(shape(withRemovedItems(former, [known('b'), known('a'), known('n')]))).toBe('b y- a x- n');
    expect(shape(withRemovedItems(former, [known('n')]))).toMatch(/x-.*y-|n x- y-/);
  });

  it('are not doubled where they are known', () => {
    expect(shape(withRemovedItems([known('a'), gone('x', 1)], [gone('x', 1), known('a')]))).toBe('x- a');
    expect(shape(withRemovedItems([gone('x', 1)], [known('m', { children: [gone('x', 1)] })]))).toBe('m(x-)');
  });

  it('stay below the item they were below, or move up where that is gone', () => {
    const former = [known('a', { children: [known('c', { children: [gone('x', 1)] }), gone('y', 2)] }), known('b')];
    expect(shape(withRemovedItems(former, [known('a', { children: [known('c')] }), known('b')]))).toBe('a(c(x-) y-) b');
    expect(shape(withRemovedItems(former, [known('a'), known('b')]))).toBe('a(x- y-) b');
    expect(shape(withRemovedItems(former, [known('b')]))).toBe('x- y- b');
  });
});
