/**
 * Touches as edits of a page. Sources: HTML standard, sections 4.6.7.13 (`noopener`), 4.8.7 (`object`), 4.2.5.4
 * (`charset`), 4.2.3 (`base`); RFC 3986, section 5.2 (references). What a touch means is this project's own.
 */
import { describe, expect, it } from 'vitest';
import { listAnchors, parsePage, findSections, splice, type Anchor } from '../html/index.ts';
import {
  resolveLed,
  arrangeSections,
  arrangeEdits,
  replacesEarlier,
  listSwaps,
  editTouch,
  identifyTouch,
  type LinkTarget,
  type Touch,
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const parsed = (html: string) => parsePage(bytes(html));
const page = { id: 'p', before: '/visit/', after: '/come/here/' };
const own = { kind: 'page', page: 'p' } as const;
const everywhere = { kind: 'everywhere' } as const;
const hrefOf = (target: LinkTarget) =>
  target.kind === 'page'
    ? target.page === 'gone'
      ? undefined
      : `/${target.page}/`
    : target.kind === 'file'
      ? target.address === '/never'
        ? undefined
        : target.address
      : target.kind === 'home'
        ? '/'
        : target.url;
const outcome = (html: string, touch: object) => editTouch(parsed(html), touch as Touch, page, hrefOf);
const edited = (html: string, touch: object) => {
  const document = parsed(html);
  return new TextDecoder().decode(
    splice(bytes(html), document.source, editTouch(document, touch as Touch, page, hrefOf).edits),
  );
};
function anchorOf(html: string, mark: string, what: Anchor['what'] = 'element'): Anchor {
  const found = [...listAnchors(parsed(html))].find(
    ({ anchor }) => anchor.what === what && anchor.mark.startsWith(mark),
  );
  if (!found) throw new Error(`nothing is marked ${mark}`);
  return found.anchor;
}

describe('a text', () => {
  const touch = (html: string, mark: string, to: string, scope: object = own) => ({
    kind: 'text',
    scope,
    to,
    place: anchorOf(html, mark, 'text'),
  });

  it.each([
    ['<p>  One\n</p>', 'One', ' Two & <b> ', '<p>  Two &amp; &lt;b>\n</p>'],
    ['<p>One</p>', 'One', 'Two', '<p>Two</p>'],
    ['<p>One<b>x</b></p>', 'One', '', '<p><b>x</b></p>'],
  ])('%s', (html, mark, to, expected) => expect(edited(html, touch(html, mark, to))).toBe(expected));

  it('tells how many places it means, and that something else stands there', () => {
    const twice = '<body><p>One</p><p>One</p>';
    expect(outcome(twice, touch(twice, 'One', 'Two', everywhere)).places).toBe(2);
    expect(outcome(twice, touch(twice, 'One', 'Two'))).toMatchObject({ places: 1, changed: false });
    expect(outcome('<body><p>Three</p>', touch(twice, 'One', 'Two'))).toMatchObject({
      places: 0,
      changed: true,
      edits: [],
    });
    expect(outcome('<body><p>Three</p>', touch(twice, 'One', 'Two', everywhere))).toMatchObject({
      places: 0,
      changed: false,
    });
    expect(outcome('<body><p>Three</p>', touch(twice, 'One', 'Two', { kind: 'page', page: 'q' })).changed).toBe(false);
  });
});

describe('attributes', () => {
  it('are set where the element is', () => {
    const html = '<body><img src=a.png><img src=b.png>';
    const { attributes, places } = outcome(html, {
      kind: 'attributes',
      scope: own,
      place: anchorOf(html, 'a.png'),
      set: { alt: 'A' },
    });
    expect(attributes.map(({ element, values }) => [element.tagName, values])).toEqual([['img', { alt: 'A' }]]);
    expect(places).toBe(1);
  });
});

describe('a link', () => {
  const written = (html: string, more: object, mark = '') => {
    const place = anchorOf(html, mark === '' ? (/href="?([^">]*)/.exec(html)?.[1] ?? '') : mark);
    return outcome(html, { kind: 'link', scope: own, place, ...more }).attributes.map(({ values }) => values);
  };
  const toPage = { target: { kind: 'page', page: 'bus' } };

  it.each([
    ['<a href="../x/">', toPage, { href: '../../bus/' }],
    ['<a href="/x/">', toPage, { href: '/bus/' }],
    ['<a href="\\x/">', toPage, { href: '/bus/' }],
    ['<a href="https://fell.example/">', toPage, { href: '/bus/' }],
    ['<base href="/a/"><a href="../x/">', toPage, { href: '/bus/' }],
    ['<a href="../x/">', { target: { kind: 'page', page: 'bus', fragment: 'stops' } }, { href: '../../bus/#stops' }],
    ['<a href="../x/">', { target: { kind: 'home' } }, { href: '../../' }],
    ['<a href="../x/">', { target: { kind: 'file', address: '/a.pdf' } }, { href: '../../a.pdf' }],
    ['<a href="../x/">', { target: { kind: 'url', url: 'https://fell.example/' } }, { href: 'https://fell.example/' }],
    ['<a href="../x/">', { target: { kind: 'page', page: 'gone' } }, {}],
    ['<a href="../x/">', {}, {}],
    ['<a href="../x/">', { newWindow: true }, { target: '_blank', rel: 'noopener' }],
    [
      '<a href="../x/" rel="me  noopener external">',
      { newWindow: true },
      { target: '_blank', rel: 'me external noopener' },
    ],
    ['<a href="../x/" rel="noopener me">', { newWindow: false }, { target: null, rel: 'me' }],
    [
      '<a href="../x/" rel="noopener">',
      { ...toPage, newWindow: false },
      { href: '../../bus/', target: null, rel: null },
    ],
  ])('%s with %j', (html, more, values) => expect(written(html, more)).toEqual([values]));

  it('of a page without its address is written from the root', () => {
    const html = '<body><a name=x>Bus</a>';
    expect(written(html, toPage, 'Bus')).toEqual([{ href: '/bus/' }]);
  });

  it('is known on other pages by its words and where it leads, however they spell it', () => {
    const made = '<body><a href="../about/">About us</a>';
    const touch = { kind: 'link', scope: everywhere, place: anchorOf(made, '../about/'), leads: '/about', ...toPage };
    const places = (html: string, scope: object = everywhere) => outcome(html, { ...touch, scope }).places;
    expect(places('<body><a href="/about/index.html">About us</a><a href="/about">About <b>us</b></a>')).toBe(2);
    expect(
      places('<body><a href="/about/">About</a><a href="/abouts/">About us</a><a>About us</a><area href="/about/">'),
    ).toBe(0);
    expect(places('<body><a href="/about/">About us</a>', { kind: 'page', page: 'q' })).toBe(1);
    // On its own page it is the one place.
    expect(places(made, own)).toBe(1);
    expect(outcome('<body><a href="/about/">About us</a>', { ...touch, scope: own }).changed).toBe(true);
  });

  it.each([
    ['../about/index.html', '/about'],
    ['/about/INDEX.HTM?a#b', '/about?a#b'],
    ['/index.html', '/'],
    ['/', '/'],
    ['/about/', '/about'],
    ['/my-index.html', '/my-index.html'],
    ['https://fell.example/', 'https://fell.example/'],
    ['javascript:void(0)', undefined],
  ])('%s leads to %s', (href, led) => expect(resolveLed(href, '/visit/', undefined)).toBe(led));
});

describe('a picture', () => {
  const swap = (more: object = {}) => ({
    kind: 'picture',
    scope: everywhere,
    from: '/logo.png',
    to: '/new.png',
    alt: 'New',
    size: { widthPx: 200, heightPx: 100 },
    ...more,
  });
  const sets = (html: string, more: object = {}) => outcome(html, swap(more)).attributes.map(({ values }) => values);

  it.each([
    ['<img src="../logo.png" width=64 height=40>', {}, [{ alt: 'New', height: '32' }]],
    ['<img src="../logo.png" width=33 height=40>', {}, [{ alt: 'New', height: '17' }]],
    ['<img src="/logo.png" height=40>', {}, [{ alt: 'New' }]],
    ['<img src="/logo.png" width=64>', {}, [{ alt: 'New' }]],
    ['<img src="/logo.png" width=64 height=40>', { size: undefined, alt: undefined }, [{}]],
    ['<base href="/a/"><img src="../logo.png">', {}, [{ alt: 'New' }]],
    ['<img src="/other.png"><img alt=x><input src="/logo.png">', {}, []],
    ['<img src="https://fell.example/logo.png">', {}, []],
  ])('%s', (html, more, expected) => expect(sets(html, more)).toEqual(expected));

  it('is counted wherever the page refers to it', () => {
    const html =
      '<img src="/logo.png" srcset="/logo.png 1x, /other.png 2x"><p style="background:url(../logo.png)"><a href="/logo.png">x</a>';
    expect(outcome(html, swap()).places).toBe(4);
    expect(outcome('<img src="/other.png">', swap()).places).toBe(0);
  });

  it('goes on where it was shown instead of another one', () => {
    const chain = [
      swap({ from: '/a', to: '/b' }),
      text('x'),
      swap({ from: '/b', to: '/c' }),
      swap({ from: '/x', to: '/y' }),
    ];
    expect([...listSwaps(chain as Touch[])]).toEqual([
      ['/a', '/c'],
      ['/b', '/c'],
      ['/x', '/y'],
    ]);
  });
});

const text = (to: string) => ({
  kind: 'text',
  scope: own,
  to,
  place: { tag: 'p', what: 'text', mark: to, nth: 0, under: '', way: '' },
});
const SECTIONS =
  '<main>\n<h2>Bus</h2>\n<p>Ten</p>\r\n  <h2>Car</h2>\n<p>Park</p>\n<h3>Fee</h3><p>Two</p>\n<h2>Foot</h2>\n</main>';

describe('what is written into a page', () => {
  it.each([
    [
      'rules of its own, at the end of its head',
      '<head><title>x</title></head>',
      { kind: 'css', css: ' p{} ' },
      '<head><title>x</title><style>\np{}\n</style>\n</head>',
    ],
    ['no rules', '<head></head>', { kind: 'css', css: ' ' }, '<head></head>'],
    [
      'nothing of parts left out',
      '<header>H</header><main>x</main><footer>F</footer>',
      { kind: 'parts-out', parts: ['header', 'foot'] },
      '<main>x</main>',
    ],
    [
      'a section before all',
      '<main><h2>Bus</h2></main>',
      { kind: 'section', html: '<p>New</p>' },
      '<main><p>New</p>\n<h2>Bus</h2></main>',
    ],
    [
      'a section behind another',
      '<main><h2>Bus</h2><h2>Car</h2></main>',
      { kind: 'section', html: '<p>New</p>', after: { name: 'Bus', nth: 0 } },
      '<main><h2>Bus</h2>\n<p>New</p><h2>Car</h2></main>',
    ],
    [
      'a section in an empty main part',
      '<main></main>',
      { kind: 'section', html: '<p>New</p>' },
      '<main><p>New</p>\n</main>',
    ],
    [
      'no section behind one that is not there',
      '<main><h2>Bus</h2></main>',
      { kind: 'section', html: 'x', after: { name: 'Van', nth: 0 } },
      '<main><h2>Bus</h2></main>',
    ],
    [
      'a character set',
      '<head><title>x',
      { kind: 'head', line: 'charset', value: 'utf-8' },
      '<head><meta charset="utf-8"><title>x',
    ],
    [
      'a viewport',
      '<head><meta charset=utf-8>',
      { kind: 'head', line: 'viewport', value: 'width=device-width' },
      '<head><meta charset=utf-8><meta name="viewport" content="width=device-width">',
    ],
    [
      'a language, where there is no tag for it',
      '<!DOCTYPE html><p>x',
      { kind: 'head', line: 'language', value: 'cy' },
      '<!DOCTYPE html><html lang="cy"><p>x',
    ],
    [
      'a document, behind the last section',
      '<main><h2>Bus</h2></main>',
      { kind: 'embed', file: '/a.pdf', label: 'A & B', mediaType: 'application/pdf' },
      '<main><h2>Bus</h2>\n<object data="../../a.pdf" type="application/pdf" style="width: 100%; height: 40rem"></object>\n<p><a href="../../a.pdf">A &amp; B</a></p></main>',
    ],
    [
      'a document that only leads there',
      '<main></main>',
      { kind: 'embed', file: '/a.odt', label: 'A', mediaType: 'x/y' },
      '<main>\n<p><a href="../../a.odt">A</a></p></main>',
    ],
    [
      'a document behind a section, under a base',
      '<base href="/x/"><main><h2>Bus</h2><h2>Car</h2></main>',
      { kind: 'embed', file: '/a.odt', label: 'A', mediaType: 'x/y', after: { name: 'Bus', nth: 0 } },
      '<base href="/x/"><main><h2>Bus</h2>\n<p><a href="/a.odt">A</a></p><h2>Car</h2></main>',
    ],
    [
      'no document that is gone',
      '<main></main>',
      { kind: 'embed', file: '/never', label: 'A', mediaType: 'x/y' },
      '<main></main>',
    ],
    [
      'no document behind a section that is not there',
      '<main></main>',
      { kind: 'embed', file: '/a', label: 'A', mediaType: 'x/y', after: { name: 'Van', nth: 0 } },
      '<main></main>',
    ],
  ])('%s', (_, html, touch, expected) => {
    const whole = { scope: own, ...touch };
    expect(edited(html, whole)).toBe(expected);
    const isThere = expected !== html || touch.kind === 'css';
    expect(outcome(html, whole).places > 0).toBe(isThere);
  });

  it('is a language at the page’s own tag', () => {
    const { attributes, places, edits } = outcome('<html class=x>', {
      kind: 'head',
      scope: own,
      line: 'language',
      value: 'cy',
    });
    expect(attributes.map(({ element, values }) => [element.tagName, values])).toEqual([['html', { lang: 'cy' }]]);
    expect([places, edits]).toEqual([1, []]);
  });

  it('is an order where any of it is there', () => {
    const places = (...order: object[]) => outcome(SECTIONS, { kind: 'sections', scope: own, order }).places;
    expect(places({ name: 'Bus', nth: 0 })).toBe(1);
    expect(places({ name: 'Bus', nth: 0 }, { name: 'Van', nth: 0 })).toBe(1);
    expect(places({ name: 'Van', nth: 0 })).toBe(0);
    expect(
      places(
        { name: 'Bus', nth: 0, out: true },
        { name: 'Car', nth: 0, out: true },
        { name: 'Foot', nth: 0, out: true },
      ),
    ).toBe(1);
  });
});

describe('sections in another order', () => {
  const ref = (name: string, more: object = {}) => ({ name, nth: 0, ...more });
  const arranged = (
    order: { name: string; nth: number; out?: true }[],
    removed: { name: string; nth: number }[] = [],
    edits: { start: number; end: number; text: string }[] = [],
  ) => {
    const document = parsed(SECTIONS);
    return new TextDecoder().decode(
      splice(
        bytes(SECTIONS),
        document.source,
        arrangeEdits(document, arrangeSections(document, order, removed), edits),
      ),
    );
  };
  const names = (...order: { name: string; nth: number; out?: true }[]) => {
    const { kept, slots, out, lost } = arrangeSections(parsed(SECTIONS), order);
    const nameOf = (list: readonly { name: string }[]) => list.map(({ name }) => name).join(' ');
    return [nameOf(kept), nameOf(slots), nameOf(out), nameOf(lost)];
  };

  it('stand where they are told, those not named behind the one they follow', () => {
    expect(findSections(parsed(SECTIONS)).map(({ name }) => name)).toEqual(['Bus', 'Car', 'Foot']);
    expect(names()).toEqual(['Bus Car Foot', 'Bus Car Foot', '', '']);
    expect(names(ref('Foot'), ref('Bus'))).toEqual(['Foot Bus Car', 'Bus Car Foot', '', '']);
    expect(names(ref('Car'))).toEqual(['Bus Car Foot', 'Bus Car Foot', '', '']);
    expect(names(ref('Car'), ref('Bus', { out: true }), ref('Van'))).toEqual(['Car Foot', 'Car Foot', 'Bus', 'Van']);
    expect(names({ name: 'Bus', nth: 1 })).toEqual(['Bus Car Foot', 'Bus Car Foot', '', 'Bus']);
  });

  it('may lose one below another’s heading, but not move it', () => {
    expect(names(ref('Fee', { out: true }))).toEqual(['Bus Car Foot', 'Bus Car Foot', 'Fee', '']);
    expect(names(ref('Fee'))).toEqual(['Bus Car Foot', 'Bus Car Foot', '', 'Fee']);
    // What goes with its section goes once.
    expect(names(ref('Car', { out: true }), ref('Fee', { out: true }))).toEqual(['Bus Foot', 'Bus Foot', 'Car', '']);
  });

  it('change places with what is edited in them; the gap before one that is out goes with it', () => {
    expect(arranged([ref('Foot'), ref('Car'), ref('Bus')])).toBe(
      '<main>\n<h2>Foot</h2>\r\n  <h2>Car</h2>\n<p>Park</p>\n<h3>Fee</h3><p>Two</p>\n<h2>Bus</h2>\n<p>Ten</p>\n</main>',
    );
    expect(arranged([], [ref('Car')])).toBe('<main>\n<h2>Bus</h2>\n<p>Ten</p>\n<h2>Foot</h2>\n</main>');
    const at = SECTIONS.indexOf('Ten');
    const edit = { start: at, end: at + 3, text: 'Nine' };
    expect(arranged([ref('Car'), ref('Bus')], [ref('Foot')], [edit])).toBe(
      '<main>\n<h2>Car</h2>\n<p>Park</p>\n<h3>Fee</h3><p>Two</p>\r\n  <h2>Bus</h2>\n<p>Nine</p>\n</main>',
    );
    expect(arranged([], [ref('Bus')], [edit])).toBe(
      '<main>\r\n  <h2>Car</h2>\n<p>Park</p>\n<h3>Fee</h3><p>Two</p>\n<h2>Foot</h2>\n</main>',
    );
    expect(arranged([ref('Car'), ref('Bus'), ref('Foot'), ref('Fee', { out: true })])).toContain(
      '<main>\n<h2>Car</h2>\n<p>Park</p>\r\n  <h2>Bus</h2>',
    );
  });
});

describe('touches that stand instead of one another', () => {
  it.each([
    ['sections', true],
    ['parts-out', true],
    ['css', true],
    ['text', false],
    ['embed', false],
    ['section', false],
  ])('%s: one at a time is %s', (kind, isOne) => expect(replacesEarlier(kind as Touch['kind'])).toBe(isOne));

  it('are those of one place, picture or line', () => {
    const identity = (touch: object) => identifyTouch({ scope: own, ...touch } as Touch);
    expect(identity({ kind: 'css', css: 'a' })).toBe(identity({ kind: 'css', css: 'b' }));
    expect(identity({ kind: 'css', css: 'a' })).not.toBe(identity({ kind: 'css', css: 'a', scope: everywhere }));
    expect(identity({ kind: 'picture', from: '/a', to: '/b' })).toBe(
      identity({ kind: 'picture', from: '/a', to: '/c' }),
    );
    expect(identity({ kind: 'picture', from: '/a' })).not.toBe(identity({ kind: 'picture', from: '/b' }));
    expect(identity({ kind: 'head', line: 'charset', value: 'a' })).toBe(
      identity({ kind: 'head', line: 'charset', value: 'b' }),
    );
    expect(identity({ kind: 'head', line: 'charset' })).not.toBe(identity({ kind: 'head', line: 'viewport' }));
    expect(identity({ kind: 'link' })).toBeUndefined();
    expect(identity({ kind: 'embed' })).toBeUndefined();
    expect(identity(text('a'))).not.toBe(identity(text('b')));
  });
});
