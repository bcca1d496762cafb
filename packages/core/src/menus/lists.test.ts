/**
 * Lists of links in a page, whatever their markup. Sources: HTML standard, sections 4.3.4 (`nav`), 4.4 (lists), 4.9
 * (tables); HTML 4.01, section 16.3 (frames); WAI-ARIA 1.2, sections 5.4 (landmarks) and 6.6 (`aria-current`). How old
 * pages write menus is common practice, no source.
 */
import { describe, expect, it } from 'vitest';
import { parsePage } from '../html/index.ts';
import { findMenuAt, findMenus, type FoundItem, type MenuPlace } from './index.ts';

const parsed = (html: string) => parsePage(new TextEncoder().encode(html));
/** `Label to`, words in quotes, heads with a colon, what is below in brackets, the current one with a star. */
const shown = ({ label, to, form, newWindow, isCurrent, children }: FoundItem): string =>
  [
    form === 'words' ? `"${label}"` : form === 'head' ? `${label}:` : `${label} ${to}`,
    newWindow ? '^' : '',
    isCurrent ? '*' : '',
    children.length > 0 ? `(${children.map(shown).join(', ')})` : '',
  ].join('');
const menus = (body: string, address = '/p/') => findMenus(parsed(`<body>${body}`), address);
const list = (body: string, address?: string) => menus(body, address).map(({ items }) => items.map(shown).join(', '));
const A = '<a href="/a/">A</a>';
const B = '<a href="/b/">B</a>';
const C = '<a href="/c/">C</a>';

describe('lists of links', () => {
  it.each<[string, string, string[]]>([
    ['a list', `<ul><li>${A}</li><li>${B}</li></ul>`, ['A /a/, B /b/']],
    ['an ordered one', `<ol><li>${A}</li><li>${B}</li></ol>`, ['A /a/, B /b/']],
    ['an old one', `<menu><li>${A}<li>${B}</menu><dir><li>${A}<li>${C}</dir>`, ['A /a/, B /b/', 'A /a/, C /c/']],
    ['one link alone', `<ul><li>${A}</li></ul>`, []],
    ['the same link twice', `<ul><li>${A}</li><li>${A}</li></ul>`, []],
    [
      'a list with another thing',
      `<ul><li>${A}</li><li>${B}</li><li>A sentence. With words.</li></ul>`,
      ['A /a/, B /b/'],
    ],
    [
      'a list with as many other things',
      `<ul><li>${A}</li><li>${B}</li><li>One. Two.</li><li>Three. Four.</li></ul>`,
      [],
    ],
    ['a list with gaps', `<ul><li>${A}</li><li> | </li><li></li><li>${B}</li></ul>`, ['A /a/, B /b/']],
    ['a list with a search', `<ul><li>${A}</li><li>${B}</li><li><input></li></ul>`, ['A /a/, B /b/']],
    ['words among links', `<ul><li>${A}</li><li>Here</li><li>${B}</li></ul>`, ['A /a/, "Here", B /b/']],
    ['as many words as links', `<ul><li>${A}</li><li>One</li><li>Two</li><li>${B}</li></ul>`, []],
    ['links side by side', `<div>${A} ${B}</div>`, ['A /a/, B /b/']],
    ['links between strokes', `<p>${A} | ${B} | ${C}</p>`, ['A /a/, B /b/, C /c/']],
    ['links below each other', `<p>${A}<br>${B}<br>${C}</p>`, ['A /a/, B /b/, C /c/']],
    ['links and pictures', `<p>${A}<img src=x>${B}</p>`, ['A /a/, B /b/']],
    ['links in brackets', `<p>[ ${A} ] [ ${B} ]</p>`, ['A /a/, B /b/']],
    ['links in a text', `<p>Go ${A} or ${B} as you like.</p>`, []],
    ['a text between strokes', `<p>${A} | Here | ${B}</p>`, ['A /a/, "Here", B /b/']],
    ['a text before links between strokes', `<p>Go on to: ${A} | ${B} | ${C}</p>`, ['A /a/, B /b/, C /c/']],
    ['a text before two links', `<p>You may go on to: ${A} | ${B}</p>`, []],
    ['boxes with a link each', `<div><div>${A}</div><div>${B}</div></div>`, ['A /a/, B /b/']],
    ['spans with a link each', `<div><span>${A}</span><b>${B}</b></div>`, ['A /a/, B /b/']],
    ['boxes of two kinds', `<div><p>${A}</p><p>${B}</p><div>${C}</div></div>`, ['A /a/, B /b/']],
    ['something else between', `<div><p>${A}</p><p>${B}</p><hr><p>${C}</p></div>`, ['A /a/, B /b/']],
    ['cells in a row', `<table><tr><td>${A}</td><td>${B}</td></tr></table>`, ['A /a/, B /b/']],
    ['cells below each other', `<table><tr><td>${A}</td></tr><tr><th>${B}</th></tr></table>`, ['A /a/, B /b/']],
    [
      'cells of texts',
      `<table><tr><td>${A}</td><td>Some words, and more.</td></tr><tr><td>${B}</td><td>And again, more.</td></tr></table>`,
      [],
    ],
    ['one term over one description', `<dl><dt>${A}<dd>${B}</dl>`, []],
    ['terms', `<dl><dt>${A}</dt><dt>${B}</dt></dl>`, ['A /a/, B /b/']],
    [
      'terms over descriptions',
      `<nav><dl><dt>One</dt><dd>${A}</dd><dt>Two</dt><dd>${B}</dd><dd>${C}</dd></dl></nav>`,
      ['One:(A /a/), Two:(B /b/, C /c/)'],
    ],
  ])('%s', (_, body, expected) => expect(list(body)).toEqual(expected));

  it.each<[string, string, string[]]>([
    ['a list below an item', `<ul><li>${A}<ul><li>${C}</ul><li>${B}</ul>`, ['A /a/(C /c/), B /b/']],
    ['a list below words', `<ul><li>More<ul><li>${C}<li>${A}</ul><li>${B}</ul>`, ['More:(C /c/, A /a/), B /b/']],
    [
      'a list below a button',
      `<ul><li><button>More</button><ul><li>${C}<li>${A}</ul><li>${B}</ul>`,
      ['More:(C /c/, A /a/), B /b/'],
    ],
    [
      'a list below a link to nowhere',
      `<ul><li><a href="#">More</a><ul><li>${C}<li>${A}</ul><li>${B}</ul>`,
      ['More:(C /c/, A /a/), B /b/'],
    ],
    [
      'a box below an item',
      `<ul><li>${A}<div><a href=x>X</a> <a href=y>Y</a></div><li>${B}</ul>`,
      ['A /a/(X /p/x, Y /p/y), B /b/'],
    ],
    ['a list below a title', `<ul><li><h2>More</h2><ul><li>${C}<li>${A}</ul><li>${B}</ul>`, ['C /c/, A /a/']],
    [
      'four levels',
      `<ul><li>${A}<ul><li><a href=1>1</a><ul><li><a href=2>2</a><ul><li><a href=3>3</a></ul></ul></ul><li>${B}</ul>`,
      ['A /a/(1 /p/1(2 /p/2(3 /p/3))), B /b/'],
    ],
    [
      'an index of five levels',
      `<ul><li>${A}<ul><li><a href=1>1</a><ul><li><a href=2>2</a><ul><li><a href=3>3</a><ul><li><a href=4>4</a></ul></ul></ul></ul><li>${B}</ul>`,
      [],
    ],
    [
      'two links before a list',
      `<ul><li>${A} ${B}<ul><li>${C}</ul><li><a href=d>D</a><li><a href=e>E</a></ul>`,
      ['D /p/d, E /p/e'],
    ],
    [
      'a link behind a list',
      `<ul><li>${A}<ul><li>${C}<li>${B}</ul><a href=x>X</a><li><a href=d>D</a><li><a href=e>E</a></ul>`,
      ['D /p/d, E /p/e'],
    ],
  ])('%s', (_, body, expected) => expect(list(body).slice(0, 1)).toEqual(expected));

  it('are no index: no more than four hundred items', () => {
    const many = (count: number) =>
      `<ul>${Array.from({ length: count }, (_, n) => `<li><a href="${n}">${n}</a>`).join('')}</ul>`;
    expect(menus(many(400))[0]?.items).toHaveLength(400);
    expect(menus(many(401))).toEqual([]);
  });

  it('are a hundred and fifty a page at most', () => {
    const lists = Array.from(
      { length: 151 },
      (_, n) => `<ul><li><a href="${n}">x</a><li><a href="b${n}">y</a></ul>`,
    ).join('');
    expect(menus(lists)).toHaveLength(150);
  });
});

describe('an item', () => {
  const first = (inner: string, address?: string) =>
    list(`<ul><li>${inner}</li><li>${B}</li><li>${C}</li></ul>`, address)[0]?.replace(/, B \/b\/, C \/c\/$/, '');
  it.each<[string, string, string]>([
    ['a page of a folder, by its folder', '<a href="/a/index.html">A</a>', 'A /a/'],
    ['with query and element', '<a href="/a/index.html?x#y">A</a>', 'A /a/?x#y'],
    ['a place in the page', '<a href="#team">A</a>', 'A /p/#team'],
    ['another host', '<a href="https://fell.example/x">A</a>', 'A https://fell.example/x'],
    ['a mail', '<a href=" mailto:a@moor.example ">A</a>', 'A mailto:a@moor.example'],
    ['a telephone', '<a href="tel:123">A</a>', 'A tel:123'],
    ['nowhere', '<a href="#!">A</a>', 'A:'],
    ['a script', '<a href=" JavaScript:go() ">A</a>', 'A:'],
    ['itself', '<a href="">A</a>', '"A"'],
    ['in a new window', '<a href="/a/" target=_blank>A</a>', 'A /a/^'],
    ['in another window', '<a href="/a/" target=other>A</a>', 'A /a/'],
    ['a picture, by its words', '<a href="/a/"><img alt=" To  A "></a>', 'To A /a/'],
    ['a picture, by its label', '<a href="/a/"><svg aria-label="To A"></svg></a>', 'To A /a/'],
    ['a picture, by its title', '<a href="/a/" title="To A"><img></a>', 'To A /a/'],
    ['without words, by its address', '<a href="/deep/bus/?x#y"><img></a>', 'bus /deep/bus/?x#y'],
    ['of a few words beside', '<a href="/a/">A</a> (new today)', 'A /a/'],
    ['of many words beside', '<a href="/a/">A</a> and a good deal more to say of it', ''],
    ['of two links to one place', '<a href="/a/">A</a><a href="/a/">A longer one</a>', 'A longer one /a/'],
    ['of a long label', `<a href="/a/">${'a'.repeat(80)}</a>`, `${'a'.repeat(80)} /a/`],
    ['of too long a label', `<a href="/a/">${'a'.repeat(81)}</a>`, ''],
    ['words in bold', '<b>Here</b>', '"Here"'],
    ['words between separators', ' » Here « ', '"Here"'],
    ['a sentence', 'Here it is.', ''],
    ['seven words', 'one two three four five six seven', ''],
    ['six words', 'one two three four five six', '"one two three four five six"'],
    ['a button', '<button>Menu</button>', '"Menu"'],
    ['an unknown scheme', '<a href="news:x">A</a>', ''],
    ['no address at all', '<a>A</a>', '"A"'],
  ])('leads to %s', (_, inner, expected) => {
    const found = first(inner);
    expect(found === 'B /b/, C /c/' ? '' : found).toBe(expected);
  });

  it('is meant from the page’s base', () => {
    expect(
      findMenus(
        parsed('<base href="/x/"><body><ul><li><a href="a">A</a><li><a href="#b">B</a></ul>'),
        '/p/',
      )[0]?.items.map(shown),
    ).toEqual(['A /x/a', 'B /x/#b']);
  });

  it('knows where it stands: its holder, its link, what its words stand in', () => {
    const html = `<body><ul><li>${A}</li><li><b>Here</b></li><li>${B}</li></ul>`;
    const [menu] = findMenus(parsed(html), '/p/');
    expect(menu?.items.map(({ span }) => span && html.slice(span.start, span.end))).toEqual([
      `<li>${A}</li>`,
      '<li><b>Here</b></li>',
      `<li>${B}</li>`,
    ]);
    expect(
      menu?.items.map(({ holder, link, face, tag }) => [holder?.tagName, link?.tagName, face?.tagName, tag]),
    ).toEqual([
      ['li', 'a', 'a', undefined],
      ['li', undefined, 'li', 'b'],
      ['li', 'a', 'a', undefined],
    ]);
    const bare = `<body><p>${A} &middot; Here &middot; ${B}</p>`;
    const words = findMenus(parsed(bare), '/p/')[0]?.items[1]?.span;
    expect(words && bare.slice(words.start, words.end)).toBe('Here');
  });
});

describe('which lists are told', () => {
  const UL = `<ul><li>${A}<li>${B}</ul>`;
  const ways = (body: string) => menus(body).map(({ way, isBeside }) => `${way}${isBeside ? ' beside' : ''}`);

  it.each<[string, string[]]>([
    [`<nav>${UL}</nav>`, ['nav > ul beside']],
    [`<div role=navigation>${UL}</div>`, ['div > ul beside']],
    [`<div role=banner>${UL}</div>`, ['div > ul beside']],
    [`<div role=main>${UL}</div>`, []],
    [`<header>${UL}</header>`, ['header > ul beside']],
    [`<footer>${UL}</footer>`, ['footer > ul beside']],
    [`<aside>${UL}</aside>`, ['aside > ul beside']],
    [`<div class="x main-menu y">${UL}</div>`, ['div.x > ul beside']],
    [`<div id=left_nav>${UL}</div>`, ['div#left_nav > ul beside']],
    [`<div class=menus>${UL}</div>`, ['div.menus > ul']],
    [`<div title=menu>${UL}</div>`, ['div > ul']],
    [`<ul class=breadcrumb><li>${A}<li>${B}</ul>`, ['ul.breadcrumb beside']],
    [UL, ['ul']],
    [`${A} ${B}`, ['body']],
    [`<main>${UL}</main>`, []],
    [`<main><nav>${UL}</nav></main>`, ['main > nav > ul beside']],
    [`<main><div role=navigation>${UL}</div></main>`, ['main > div > ul beside']],
    [`<main><header>${UL}</header></main>`, []],
    [`<main>x</main>${UL}`, ['ul']],
    [`<article><p>x</p></article>${UL}`, ['ul']],
  ])('%s', (body, expected) => expect(ways(body)).toEqual(expected));

  it('are told once: what stands in an item is part of it', () => {
    expect(list(`<table><tr><td>${A}</td><td>${B}</td></tr></table>`)).toHaveLength(1);
    expect(list(`<ul><li>${A}<ul><li><a href=x>X</a><li><a href=y>Y</a></ul></li><li>${B}</li></ul>`)).toHaveLength(1);
  });

  it('are those of links to nowhere only where they are for the way', () => {
    const heads = '<ul><li><a href="#">A</a><li><a href="#!">B</a></ul>';
    expect(ways(heads)).toEqual([]);
    expect(ways(`<nav>${heads}</nav>`)).toEqual(['nav > ul beside']);
  });

  it('are those somebody pointed at, wherever they stand', () => {
    const document = parsed(`<body><main>${UL}<div>${UL}</div></main>`);
    expect(findMenus(document, '/p/', new Set(['main > div > ul'])).map(({ way }) => way)).toEqual(['main > div > ul']);
  });

  it('open in another frame, all of them in the same', () => {
    const frame = (html: string) => findMenus(parsed(html), '/p/').map(({ opensFrame }) => opensFrame);
    const in_ = (target: string) => `<a href=/${target} target=${target}>${target}</a>`;
    expect(frame(`<body><p><a href=a target=main>A</a> <a href=b target=main>B</a>`)).toEqual([true]);
    expect(frame(`<head><base target=main></head><body><p>${A} ${B}`)).toEqual([true]);
    expect(frame(`<body><p>${in_('one')} ${in_('two')}`)).toEqual([undefined]);
    expect(frame(`<body><p><a href=a target=_blank>A</a> <a href=b target=_blank>B</a>`)).toEqual([undefined]);
    expect(frame(`<body><p>${A} ${B}`)).toEqual([undefined]);
  });
});

describe('how the item of the page is marked', () => {
  const marked = (body: string, address = '/b/') =>
    menus(`<nav>${body}</nav><main>x</main>`, address).map(({ mark, marksBranch, items }) => [
      mark,
      marksBranch,
      items.find(({ isCurrent }) => isCurrent)?.label,
    ]);
  const ul = (second: string, first = `<li>${A}`) => `<ul>${first}${second}<li>${C}</ul>`;

  it.each<[string, string, ReturnType<typeof marked>[0]]>([
    [
      'by aria-current',
      ul('<li><a href="/b/" aria-current="page">B</a>'),
      [{ kind: 'attribute', name: 'aria-current', value: 'page' }, false, 'B'],
    ],
    [
      'by a class of the link',
      ul('<li><a href="/b/" class="x active">B</a>'),
      [{ kind: 'class', name: 'active', on: 'link' }, false, 'B'],
    ],
    [
      'by a class of the item',
      ul(`<li class="current-item y">${B}`),
      [{ kind: 'class', name: 'current-item', on: 'item' }, false, 'B'],
    ],
    ['by is-current', ul(`<li class=is-current>${B}`), [{ kind: 'class', name: 'is-current', on: 'item' }, false, 'B']],
    [
      'by nav-selected',
      ul(`<li class=nav-selected>${B}`),
      [{ kind: 'class', name: 'nav-selected', on: 'item' }, false, 'B'],
    ],
    ['by here', ul(`<li class=here>${B}`), [{ kind: 'class', name: 'here', on: 'item' }, false, 'B']],
    ['by no other class', ul(`<li class=wide>${B}`), [undefined, false, undefined]],
    ['by no part of a word', ul(`<li class=interactive>${B}`), [undefined, false, undefined]],
    ['by no class of several', ul(`<li class=active>${B}`, `<li class=active>${A}`), [undefined, false, undefined]],
    ['by nothing', ul(`<li>${B}`), [undefined, false, undefined]],
  ])('%s', (_, body, expected) => expect(marked(body)).toEqual([expected]));

  it('stands for its branch where the page lies below it', () => {
    const body = ul('<li><a href="/b/" aria-current="true">B</a>');
    expect(marked(body, '/b/deep/')[0]?.[1]).toBe(true);
    expect(marked(body, '/elsewhere/')[0]?.[1]).toBe(false);
    expect(marked(ul('<li><a href="#" class=active>B</a>'), '/b/deep/')[0]?.[1]).toBe(false);
  });
});

describe('the list around a place', () => {
  const around = (body: string, before: string): string | undefined => {
    const html = `<body>${body}`;
    const place: MenuPlace | undefined = findMenuAt(parsed(html), '/p/', html.indexOf(before));
    return place?.items.map(shown).join(', ');
  };

  it('is the whole of a list in which it stands below an item', () => {
    const body = `<main><ul><li>${A}<ul><li><a href=x>X</a><li><a href=y>Y</a></ul><li>${B}</ul></main>`;
    expect(around(body, '<a href=y')).toBe('A /a/(X /p/x, Y /p/y), B /b/');
    expect(around(body, '<a href="/b/"')).toBe('A /a/(X /p/x, Y /p/y), B /b/');
  });

  it('is the nearest where a wider one stands around others', () => {
    const body = `<div><p>${A} ${B}</p><ul><li><a href=x>X</a><li><a href=y>Y</a></ul></div>`;
    expect(around(body, '<a href=x')).toBe('X /p/x, Y /p/y');
    expect(around(body, A)).toBe('A /a/, B /b/');
  });

  it('is none where no tag begins, or no links stand side by side', () => {
    expect(around(`<ul><li>${A}<li>${B}</ul>`, 'href')).toBeUndefined();
    expect(around(`<p>${A}</p>`, '<a')).toBeUndefined();
  });
});
