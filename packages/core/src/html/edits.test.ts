/**
 * Edits in a page's source. Sources: HTML standard, sections 13.1.2 (tags, attributes, text), 13.1.4 (character
 * references), 4.2.5 (`meta`), 4.5.1 (links without `href`); Encoding standard, section 4.2.
 */
import { describe, expect, it } from 'vitest';
import { editAttributes } from './attributes.ts';
import { findHeadEnd, findHeadOpening, findHeadStart } from './head.ts';
import {
  decodeSource,
  walkElements,
  escapeAttribute,
  escapeText,
  writeNewPage,
  parsePage,
  splice,
  unlinkEdits,
  withInside,
  withoutOverlaps,
  type Edit,
} from './index.ts';

const utf8 = (text: string) => new TextEncoder().encode(text);
const text = (bytes: Uint8Array | undefined) => bytes && new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
const spliced = (html: string, edits: readonly Edit[]) => text(splice(utf8(html), decodeSource(utf8(html)), edits));

describe('attributes', () => {
  const set = (html: string, values: Readonly<Record<string, string | null>>, withSource = false) => {
    const document = parsePage(utf8(html));
    const element = [...walkElements(document.root)].find(({ tagName }) => !['html', 'head', 'body'].includes(tagName));
    if (!element) throw new Error('no element');
    return spliced(html, editAttributes(element, values, withSource ? html : undefined));
  };

  it.each([
    ['is added behind the name', '<p>x</p>', { id: 'a' }, '<p id="a">x</p>'],
    ['are added in their order', '<p class=b>x</p>', { id: 'a', lang: 'cy' }, '<p id="a" lang="cy" class=b>x</p>'],
    ['is written anew in its place', '<p class=b id=c>x</p>', { class: 'a' }, '<p class="a" id=c>x</p>'],
    ['keeps its bytes where it says the same', "<p class='b'>x</p>", { class: 'b' }, "<p class='b'>x</p>"],
    ['is taken away with the space before it', '<p class=b id=c>x</p>', { class: null }, '<p id=c>x</p>'],
    ['that is missing cannot be taken away', '<p id=c>x</p>', { class: null }, '<p id=c>x</p>'],
    ['is escaped', '<p>x</p>', { title: 'a "b" & c' }, '<p title="a &quot;b&quot; &amp; c">x</p>'],
    ['of an element without an end tag', '<img src=a.png>', { alt: 'A', src: 'b.png' }, '<img alt="A" src="b.png">'],
    ['of an element that is never closed', '<p class=b>x', { class: 'a' }, '<p class="a">x'],
  ])('%s', (_, html, values, expected) => expect(set(html, values)).toBe(expected));

  it.each([
    ['double quotes', '<p class = "b" id=c>', '<p class = "a&quot;&amp;\'" id=c>'],
    ['single quotes', "<p class='b' id=c>", "<p class='a\"&amp;&#39;' id=c>"],
    ['none, which it gets', '<p class=b id=c>', '<p class="a&quot;&amp;\'" id=c>'],
    ['no value at all', '<p class id=c>', '<p class="a&quot;&amp;\'" id=c>'],
    ['another attribute’s quotes behind it', '<p class=b id="c">', '<p class="a&quot;&amp;\'" id="c">'],
  ])('is written between %s', (_, html, expected) => expect(set(html, { class: 'a"&\'' }, true)).toBe(expected));

  it('cannot be set where the source has no such element', () => {
    const document = parsePage(utf8('x'));
    const body = [...walkElements(document.root)].find(({ tagName }) => tagName === 'body');
    expect(body && editAttributes(body, { class: 'a' })).toEqual([]);
  });
});

describe('edits that meet', () => {
  const edit = (start: number, end: number, name: string): Edit => ({ start, end, text: name });
  const kept = (...edits: Edit[]) => withoutOverlaps(edits).map(({ text: name }) => name);

  it.each([
    ['side by side', [edit(0, 2, 'a'), edit(2, 4, 'b')], ['a', 'b']],
    ['in the order of their places', [edit(4, 5, 'a'), edit(0, 1, 'b'), edit(2, 3, 'c')], ['b', 'c', 'a']],
    ['across each other, the first of the list', [edit(1, 3, 'a'), edit(2, 4, 'b'), edit(0, 2, 'c')], ['a']],
    ['inside another', [edit(0, 9, 'a'), edit(3, 4, 'b')], ['a']],
    ['around another', [edit(3, 4, 'a'), edit(0, 9, 'b')], ['a']],
    ['an insertion in another', [edit(0, 4, 'a'), edit(2, 2, 'b')], ['a']],
    ['insertions at both ends of another', [edit(1, 4, 'a'), edit(1, 1, 'b'), edit(4, 4, 'c')], ['b', 'a', 'c']],
    ['insertions at one place, in the order of the list', [edit(1, 1, 'a'), edit(1, 1, 'b')], ['a', 'b']],
    ['the same twice', [edit(1, 3, 'a'), edit(1, 3, 'b')], ['a']],
  ])('%s', (_, edits, names) => expect(kept(...edits)).toEqual(names));

  it('go along with the piece they lie in', () => {
    const html = 'aa bb cc';
    const turn: Edit = { start: 0, end: 5, text: [{ from: 3, to: 5, edits: [] }, '-', { from: 0, to: 2, edits: [] }] };
    const inside = [edit(3, 4, 'B'), edit(0, 0, '('), edit(5, 5, ')'), edit(6, 8, 'C'), edit(1, 4, 'no')];
    expect(spliced(html, [withInside(turn, inside)])).toBe('Bb)-(aa cc');
    expect(withInside(edit(0, 2, 'x'), inside)).toEqual(edit(0, 2, 'x'));
    const one: Edit = { start: 6, end: 6, text: { from: 0, to: 2, edits: [edit(1, 2, '!')] } };
    // Its own edit stands where another one wants to.
    expect(spliced(html, [withInside(one, [edit(1, 2, '?'), edit(0, 1, 'A')])])).toBe('aa bb A!cc');
  });
});

describe('splicing', () => {
  it('puts pieces of the same source in other places, with their own edits', () => {
    const piece = { from: 1, to: 3, edits: [{ start: 2, end: 3, text: 'é' }] };
    expect(spliced('abcd€f', [{ start: 4, end: 5, text: ['<', piece, '>'] }])).toBe('abcd<bé>f');
    expect(spliced('abcdef', [{ start: 0, end: 0, text: { from: 0, to: 6, edits: [] } }])).toBe('abcdefabcdef');
  });

  it('takes edits in any order, and insertions at one place in their own', () => {
    const edits = [
      { start: 3, end: 4, text: 'D' },
      { start: 1, end: 1, text: '1' },
      { start: 1, end: 2, text: 'B' },
      { start: 1, end: 1, text: '2' },
    ];
    expect(spliced('abcd', edits)).toBe('a12BcD');
  });

  it('keeps a byte order mark before everything', () => {
    const bytes = Uint8Array.of(0xef, 0xbb, 0xbf, ...utf8('ab'));
    expect([...splice(bytes, decodeSource(bytes), [{ start: 0, end: 1, text: 'X' }])]).toEqual([
      0xef, 0xbb, 0xbf, 0x58, 0x62,
    ]);
    const piece: Edit = { start: 2, end: 2, text: { from: 0, to: 1, edits: [] } };
    expect(text(splice(bytes, decodeSource(bytes), [piece]))).toBe('\ufeffaba');
  });

  it.each([
    [
      'UTF-16, the low byte first',
      [0xff, 0xfe, 0x61, 0, 0x62, 0],
      [0xff, 0xfe, 0x61, 0, 0xac, 0x20, 0x3d, 0xd8, 0x2d, 0xdd],
    ],
    [
      'UTF-16, the high byte first',
      [0xfe, 0xff, 0, 0x61, 0, 0x62],
      [0xfe, 0xff, 0, 0x61, 0x20, 0xac, 0xd8, 0x3d, 0xdd, 0x2d],
    ],
  ])('writes every letter in %s', (_, before, after) => {
    const bytes = Uint8Array.from(before);
    expect([...splice(bytes, decodeSource(bytes), [{ start: 1, end: 2, text: '€\u{1F52D}' }])]).toEqual(after);
  });

  it('writes letters that an encoding of bytes has not as character references', () => {
    const bytes = Uint8Array.from('<meta charset=latin1>\u00e9', (letter) => letter.charCodeAt(0));
    const edited = splice(bytes, decodeSource(bytes), [{ start: 21, end: 21, text: 'a\x7f\x80€\u{1F52D}' }]);
    expect(Buffer.from(edited).toString('latin1')).toBe('<meta charset=latin1>a\x7f&#128;&#8364;&#128301;\u00e9');
  });

  it.each([
    ['one behind its end', [{ start: 2, end: 1, text: '' }]],
    ['one behind its piece', [{ start: 0, end: 0, text: { from: 0, to: 2, edits: [{ start: 1, end: 3, text: '' }] } }]],
    ['one before its piece', [{ start: 0, end: 0, text: { from: 1, to: 2, edits: [{ start: 0, end: 1, text: '' }] } }]],
    ['one behind the source', [{ start: 3, end: 9, text: '' }]],
  ])('refuses %s', (_, edits) => expect(() => spliced('abcd', edits)).toThrow(RangeError));

  it('escapes what means something where it is put', () => {
    expect(escapeText('a < b & "c" > d &amp;')).toBe('a &lt; b &amp; "c" > d &amp;amp;');
    expect(escapeAttribute('a < b & "c" \'d\' &amp; "')).toBe("a < b &amp; &quot;c&quot; 'd' &amp;amp; &quot;");
  });
});

describe('the head', () => {
  const at = (html: string, where: typeof findHeadStart) => {
    const position = where(parsePage(utf8(html)));
    return `${html.slice(0, position)}|${html.slice(position)}`;
  };

  it.each([
    ['<head><meta charset=utf-8><link></head>', '<head><meta charset=utf-8>|<link></head>'],
    ['<head><meta http-equiv=Content-Type content=x><p>', '<head><meta http-equiv=Content-Type content=x>|<p>'],
    ['<head><meta http-equiv=refresh content=1><p>', '<head>|<meta http-equiv=refresh content=1><p>'],
    ['<head><meta name=x content=y></head>', '<head>|<meta name=x content=y></head>'],
    ['<html lang=cy><body><meta charset=utf-8>', '<html lang=cy>|<body><meta charset=utf-8>'],
    ['<!DOCTYPE html><p>x', '<!DOCTYPE html>|<p>x'],
    ['<p>x', '|<p>x'],
    ['<!-- a --><p>x', '|<!-- a --><p>x'],
  ])('begins in %s', (html, expected) => expect(at(html, findHeadStart)).toBe(expected));

  it('opens before its character set', () => {
    expect(at('<html><head><meta charset=utf-8></head>', findHeadOpening)).toBe(
      '<html><head>|<meta charset=utf-8></head>',
    );
  });

  it.each([
    ['<head><title>x</title></head><p>', '<head><title>x</title>|</head><p>'],
    ['<head><title>x</title><link>\n<p>', '<head><title>x</title><link>\n|<p>'],
    ['<title>x</title><p>y', '<title>x</title>|<p>y'],
    ['<html><p>y', '<html>|<p>y'],
    ['<svg><head></head></svg>', '|<svg><head></head></svg>'],
  ])('ends in %s', (html, expected) => expect(at(html, findHeadEnd)).toBe(expected));
});

describe('links that become words', () => {
  const unlinked = (html: string, page = '/visit/') =>
    spliced(
      html,
      unlinkEdits(parsePage(utf8(html)), page, (path) => path === '/bus/'),
    );

  it.each([
    [
      'the tags go, and nothing between them',
      '<p>By <a class=x href="/bus/">the <b>bus</b></a>.',
      '<p>By the <b>bus</b>.',
    ],
    ['one of another page stays', '<a href="/car/">Car</a>', '<a href="/car/">Car</a>'],
    ['a relative one', '<a href=../bus/#stops>Bus</a>', 'Bus'],
    [
      'one on another host stays',
      '<a href="https://lanternmoor.example/bus/">Bus</a>',
      '<a href="https://lanternmoor.example/bus/">Bus</a>',
    ],
    ['one with an id stays, and leads nowhere', '<a id=b href="/bus/">Bus</a>', '<a id=b>Bus</a>'],
    ['one without space before its address', '<a id="b"href="/bus/" class=c>Bus</a>', '<a id="b" class=c>Bus</a>'],
    ['one that is never closed', '<a href="/bus/">Bus', '<a>Bus'],
    ['an area of a picture', '<map><area shape=rect href="/bus/"></map>', '<map><area shape=rect></map>'],
    [
      'what is no link',
      '<link href="/bus/"><img src="/bus/"><a name=x>Bus</a>',
      '<link href="/bus/"><img src="/bus/"><a name=x>Bus</a>',
    ],
    ['one of a picture', '<svg><a href="/bus/">Bus</a></svg>', '<svg><a href="/bus/">Bus</a></svg>'],
    [
      'under a base, which makes every reference lead elsewhere',
      '<base href="/bus/"><a href="">Bus</a><a href="#x">Bus</a>',
      '<base href="/bus/">BusBus',
    ],
  ])('%s', (_, html, expected) => expect(unlinked(html)).toBe(expected));

  it('leaves alone what leads to places of its own page', () => {
    expect(unlinked('<a href="#top">Top</a><a href="">Here</a>', '/bus/')).toBe(
      '<a href="#top">Top</a><a href="">Here</a>',
    );
    expect(unlinked('<a href="./">Here</a>', '/bus/')).toBe('Here');
  });

  it('tells which element it asks about', () => {
    const asked: string[] = [];
    unlinkEdits(parsePage(utf8('<a href="/bus/">a</a><area href="/car/">')), '/', (path, { tagName }) => {
      asked.push(`${tagName} ${path}`);
      return false;
    });
    expect(asked).toEqual(['a /bus/', 'area /car/']);
  });
});

describe('a new page after the pattern of another', () => {
  const made = (html: string) =>
    text(writeNewPage(utf8(html), { title: 'Bus & co', heading: 'By <bus>', paragraphs: ['Ten & two', 'Daily'] }));
  const content = '\n<h1>By &lt;bus></h1>\n<p>Ten &amp; two</p>\n<p>Daily</p>\n';

  it('has what stands around its content, and other content', () => {
    expect(made('<title>Old</title><header>H</header><main class=m><h1>Old</h1>x</main><footer>F</footer>')).toBe(
      `<title>Bus &amp; co</title><header>H</header><main class=m>${content}</main><footer>F</footer>`,
    );
  });

  it('has it from its first section to its last where only the body holds them', () => {
    expect(
      made('<title>Old</title><body><nav>N</nav><h1>Old</h1><p>x</p><h2>More</h2><p>y</p><footer>F</footer></body>'),
    ).toBe(`<title>Bus &amp; co</title><body><nav>N</nav>${content}<footer>F</footer></body>`);
    expect(made('<title>Old</title><main><h1>Old</h1>x<h2>More</h2>')).toBe(
      `<title>Bus &amp; co</title><main>${content}`,
    );
  });

  it('says nothing that was said of the pattern for machines', () => {
    const own = [
      '<meta name=Description content=x>',
      '<meta property="og:title" content=x>',
      '<meta name="dc:date" content=x>',
      '<link rel=canonical href="/old/">',
      '<link rel="Alternate stylesheet" hreflang=cy href="/cy/">',
    ].join('');
    const everyones = [
      '<meta name=viewport content=x>',
      '<meta charset=utf-8>',
      '<meta name="1:x" content=x>',
      '<link rel=stylesheet href=a.css>',
      '<link rel=alternate type="application/rss+xml" href=feed>',
      '<link rel=noncanonical href=x>',
      '<link rel="canonical-x" href=x>',
      '<link href=x hreflang=cy rel=alternates>',
      '<link href=x>',
    ].join('');
    const body = '<body><main><p>x</p></main>';
    expect(made(`<head>${own}${everyones}<title>Old</title></head>${body}`)).toBe(
      `<head>${everyones}<title>Bus &amp; co</title></head><body><main>${content}</main>`,
    );
  });

  it('cannot be made where the content cannot be told', () => {
    expect(made('<title>Old</title><body><p>All there is</p></body>')).toBeUndefined();
    expect(made('<frameset><frame src=a.html></frameset>')).toBeUndefined();
  });
});
