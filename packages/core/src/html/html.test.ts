import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  findBytePositions,
  findCssUrls,
  decodeSource,
  linkEdits,
  linkPlaces,
  parsePage,
  parseSrcset,
  placeInPage,
  placeInStyle,
  readPage,
  splice,
  editTitle,
} from './index.ts';

const utf8 = (text: string) => new TextEncoder().encode(text);
const text = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
const latin1 = (value: string) => Uint8Array.from(value, (letter) => letter.charCodeAt(0));

describe('finding the encoding (HTML standard 13.2.3.2)', () => {
  it.each([
    ['a byte order mark', Uint8Array.of(0xef, 0xbb, 0xbf, 0x61), 'utf-8', 'bom', 'a'],
    ['UTF-16 with its mark', Uint8Array.of(0xff, 0xfe, 0x61, 0), 'utf-16le', 'bom', 'a'],
    [
      'a declaration',
      latin1('<meta charset="ISO-8859-1">caf\u00e9'),
      'windows-1252',
      'declared',
      '<meta charset="ISO-8859-1">café',
    ],
    [
      'an old declaration',
      latin1('<meta http-equiv="Content-Type" content="text/html; charset=iso-8859-2">\u00b1'),
      'iso-8859-2',
      'declared',
      undefined,
    ],
    ['a declaration of UTF-16, which cannot be', utf8('<meta charset=utf-16>x'), 'utf-8', 'declared', undefined],
    [
      'a declaration in a comment, which does not count',
      latin1('<!-- <meta charset=shift_jis> -->caf\u00e9'),
      'windows-1252',
      'guessed',
      undefined,
    ],
    ['no declaration, but UTF-8', utf8('caf\u00e9'), 'utf-8', 'guessed', 'café'],
    [
      'the letters of windows-1252 that ISO-8859-1 lacks',
      latin1('\u0093\u0080\u0094'),
      'windows-1252',
      'guessed',
      '“€”',
    ],
    ['neither', latin1('caf\u00e9'), 'windows-1252', 'guessed', 'café'],
  ] as const)('%s', (_, bytes, encoding, source, expected) => {
    const decoded = decodeSource(bytes);
    expect(decoded).toMatchObject({ encoding, encodingSource: source });
    if (expected !== undefined) expect(decoded.text).toBe(expected);
  });

  it('says when bytes mean nothing', () => {
    expect(decodeSource(latin1('<meta charset=utf-8>\u00ff\u00fe'))).toMatchObject({ encoding: 'utf-8', valid: false });
  });
});

describe('splicing', () => {
  it('maps every position of a text to its byte, in every encoding', () => {
    const samples = [
      utf8('a\u00e9€\u{1F52D}z'),
      Uint8Array.of(0xef, 0xbb, 0xbf, ...utf8('é𝄞')),
      latin1('<meta charset=latin1>\u00e9\u00ff'),
      Uint8Array.of(0xff, 0xfe, 0x61, 0, 0x3d, 0xd8, 0x2d, 0xdd),
    ];
    for (const bytes of samples) {
      const source = decodeSource(bytes);
      const boundaries = [...source.text].reduce<number[]>(
        (list, character) => [...list, (list.at(-1) ?? 0) + character.length],
        [0],
      );
      const positions = findBytePositions(bytes, source, boundaries);
      const decode = (piece: Uint8Array) => new TextDecoder(source.encoding).decode(piece);
      expect(positions.slice(1).map((end, i) => decode(bytes.subarray(positions[i], end)))).toEqual([...source.text]);
    }
  });

  it('keeps every byte outside an edit', () => {
    const unit = fc.constantFrom('a', '<', 'é', '€', '\u{1F52D}', '\r\n', '\0', '&');
    fc.assert(
      fc.property(
        fc.array(unit, { maxLength: 30 }),
        fc.nat(),
        fc.nat(),
        fc.string({ unit: 'grapheme', maxLength: 5 }),
        (units, a, b, replacement) => {
          const whole = units.join('');
          const at = (n: number) => units.slice(0, units.length === 0 ? 0 : n % (units.length + 1)).join('').length;
          const [start, end] = [Math.min(at(a), at(b)), Math.max(at(a), at(b))];
          const bytes = utf8(whole);
          const edited = splice(bytes, decodeSource(bytes), [{ start, end, text: replacement }]);
          expect(Buffer.from(edited)).toEqual(
            Buffer.from(utf8(whole.slice(0, start) + replacement.toWellFormed() + whole.slice(end))),
          );
        },
      ),
    );
  });

  it('gives the very same bytes back when there is nothing to edit', () => {
    const bytes = utf8('<p>x');
    expect(splice(bytes, decodeSource(bytes), [])).toBe(bytes);
  });

  it('refuses edits that overlap', () => {
    const bytes = utf8('abcdef');
    expect(() =>
      splice(bytes, decodeSource(bytes), [
        { start: 0, end: 3, text: '' },
        { start: 2, end: 4, text: '' },
      ]),
    ).toThrow(RangeError);
  });
});

describe('setting a title', () => {
  const set = (html: Uint8Array, title: string) => {
    const document = parsePage(html);
    return splice(html, document.source, [editTitle(document, title)]);
  };

  it.each([
    ['between its tags', '<head><TITLE class=x>Old &amp; gone</TITLE><meta>', '<head><TITLE class=x>New</TITLE><meta>'],
    [
      "not in a picture's title",
      '<body><svg><title>Mark</title></svg>',
      '<title>New</title><body><svg><title>Mark</title></svg>',
    ],
    [
      'after the character set where there is none',
      '<!DOCTYPE html>\r\n<head>\r\n<meta charset="utf-8">\r\n</head>',
      '<!DOCTYPE html>\r\n<head>\r\n<meta charset="utf-8"><title>New</title>\r\n</head>',
    ],
    ['right in the head', '<html><head lang=x></head>', '<html><head lang=x><title>New</title></head>'],
    ['after the doctype of a page without tags', '<!DOCTYPE html>Hello', '<!DOCTYPE html><title>New</title>Hello'],
    ['into an empty file', '', '<title>New</title>'],
    ['before one that never ends', '<title>Endless <p>text', '<title>New</title><title>Endless <p>text'],
  ])('%s', (_, before, after) => expect(text(set(utf8(before), 'New'))).toBe(after));

  it('reads back as it was set, whatever it holds, in whatever encoding', () => {
    const pages = [
      utf8('<title>x</title>é'),
      latin1('<meta charset=latin1><title>\u00e9</title>\u00ff'),
      Uint8Array.of(0xff, 0xfe, ...Array.from('<title>x</title>', (l) => [l.charCodeAt(0), 0]).flat()),
    ];
    fc.assert(
      fc.property(fc.constantFrom(...pages), fc.string({ unit: 'grapheme', minLength: 1 }), (page, wanted) => {
        const title = wanted
          .toWellFormed()
          .replace(/[\0-\x1f\x7f-\x9f]/g, '')
          .replace(/\s+/g, ' ')
          .trim();
        fc.pre(title !== '');
        expect(readPage(set(page, title)).title).toBe(title);
      }),
    );
  });

  it('leaves bytes alone that its encoding cannot read', () => {
    const page = latin1('<meta charset=utf-8><title>x</title>\u00ff\u00fe broken');
    const edited = set(page, 'New');
    expect(Buffer.from(edited).toString('latin1')).toBe('<meta charset=utf-8><title>New</title>\u00ff\u00fe broken');
  });

  it('copes with Shift_JIS, whose letters hold bytes of ASCII', () => {
    // 0x83 0x5c is ソ; its second byte is a backslash in ASCII (JIS X 0208 table, from memory).
    const page = Uint8Array.from([
      ...latin1('<meta charset=shift_jis><p>'),
      0x83,
      0x5c,
      ...latin1('</p><title>x</title>'),
      0x83,
      0x5c,
    ]);
    const edited = Buffer.from(set(page, 'ソ')).toString('latin1');
    expect(edited).toBe(
      Buffer.from([
        ...latin1('<meta charset=shift_jis><p>'),
        0x83,
        0x5c,
        ...latin1('</p><title>&#12477;</title>'),
        0x83,
        0x5c,
      ]).toString('latin1'),
    );
  });
});

describe('references of a page', () => {
  const hrefs = (html: string) =>
    [...linkPlaces(parsePage(utf8(html)))].flatMap(({ hrefs: found, attribute }) =>
      found.map((href) => `${attribute} ${href}`),
    );

  it('are found wherever HTML has them', () => {
    expect(
      hrefs(`<link rel=stylesheet href=a.css><link rel=preconnect href=//no.example><script src=b.js></script>
      <body background=c.png><a href=" d.html ">x</a><img src=e.png srcset="f.png 1x, g,h.png 2x" longdesc=i.html>
      <picture><source srcset="j.webp"></picture><video poster=k.png src=l.mp4></video><form action=m.php><button formaction=n.php></button></form>
      <iframe src=o.html></iframe><object data=p.svg></object><blockquote cite=q.html></blockquote><meta http-equiv=refresh content="5; URL='r.html'">
      <div style="background:url(s.png)"></div><style>@import "t.css"; p{background:url('u.png')}</style><svg><image href=v.png /><use href="#w"/></svg><area href=x.html>
      <template><a href=y.html></a></template>`),
    ).toEqual([
      'href a.css',
      'src b.js',
      'background c.png',
      'href d.html',
      'src e.png',
      'srcset f.png',
      'srcset g,h.png',
      'longdesc i.html',
      'srcset j.webp',
      'poster k.png',
      'src l.mp4',
      'action m.php',
      'formaction n.php',
      'src o.html',
      'data p.svg',
      'cite q.html',
      'content r.html',
      'style s.png',
      'style t.css',
      'style u.png',
      'href v.png',
      'href #w',
      'href x.html',
      'href y.html',
    ]);
  });

  it('reads a srcset as the standard parses it (4.8.4.2)', () => {
    expect(parseSrcset(' a.png 1x ,b.png 2x,, c.png?x=1,2 (odd, thing) 3x, d.png,').map(({ url }) => url)).toEqual([
      'a.png',
      'b.png',
      'c.png?x=1,2',
      'd.png',
    ]);
  });

  it('reads addresses of style sheets and writes them in their own form', () => {
    const css =
      '@import url("a.css") screen; @import \'b.css\'; /* url(no.png) */ p { background: URL( c\\20 d.png ), url(); content: "url(e.png)" }';
    expect(findCssUrls(css).map(({ url }) => url)).toEqual(['a.css', 'b.css', 'c d.png']);
  });
});

describe('the place of a reference', () => {
  it('is shown with its line and the lines around', () => {
    const page = utf8('<!DOCTYPE html>\r\n<title>x</title>\r\n<p>See <a href="/lost/">this</a>\r\n<p>end');
    const place = placeInPage(page, '/lost/');
    expect(place?.line).toBe(3);
    expect(place?.lines.map(({ number, text: line }) => `${number} ${line}`)).toEqual([
      '2 <title>x</title>',
      '3 <p>See <a href="/lost/">this</a>',
      '4 <p>end',
    ]);
    const marked = place?.lines[1];
    expect(marked?.text.slice(marked.mark?.start, marked.mark?.end)).toBe('href="/lost/"');
    expect(placeInPage(page, '/other/')).toBeUndefined();
  });

  it('is found in an endless line, and in style sheets', () => {
    const long = placeInPage(utf8(`${'<b>x</b>'.repeat(5000)}<a href=/lost/>y</a>${'z'.repeat(9000)}`), '/lost/');
    const [line] = long?.lines ?? [];
    expect(line?.text.slice(line.mark?.start, line.mark?.end)).toBe('href=/lost/');
    expect(line?.text.length).toBeLessThan(300);
    expect(placeInStyle(utf8('a{}\nb{background:url(lost.png)}'), 'lost.png')?.line).toBe(2);
  });
});

describe('links that follow', () => {
  const moved = new Map([
    ['/old/', '/new/place/'],
    ['/old/index.html', '/new/place/'],
    ['/old', '/new/place/'],
  ]);
  const rewrite = (html: string, before: string, after = before) => {
    const bytes = utf8(html);
    const document = parsePage(bytes);
    return text(
      splice(bytes, document.source, linkEdits(document, { before, after, movedTo: (path) => moved.get(path) })),
    );
  };

  it.each([
    ['a rooted link', '<a href="/old/">', '/x/', '<a href="/new/place/">'],
    ['a relative link', '<a href=../old/index.html?a=1&amp;b#part>', '/x/', '<a href=../new/place/?a=1&amp;b#part>'],
    ['one without its slash', "<a href='/old'>", '/x/', "<a href='/new/place/'>"],
    [
      'no link that leads elsewhere',
      '<a href="/older/"><a href="https://old.example/old/"><a href="#old">',
      '/x/',
      '<a href="/older/"><a href="https://old.example/old/"><a href="#old">',
    ],
    ['one address in a srcset', '<img srcset="a.png 1x, /old/ 2x">', '/x/', '<img srcset="a.png 1x, /new/place/ 2x">'],
    [
      'with no byte more than the path',
      "<A\tHREF = '../old/?a=&amp;b&#x23;'  class=x>",
      '/x/',
      "<A\tHREF = '../new/place/?a=&amp;b&#x23;'  class=x>",
    ],
    [
      'a bare one, and one with a picture beside it',
      '<a href=/old/#a><img srcset="/old/?x, /old/ 2x">',
      '/x/',
      '<a href=/new/place/#a><img srcset="/new/place/?x, /new/place/ 2x">',
    ],
    [
      'one in a style, its quotes kept',
      '<p style="background: url(\'/old/?x\')"><style>p{background:url( "/old/" )}</style>',
      '/x/',
      '<p style="background: url(\'/new/place/?x\')"><style>p{background:url( "/new/place/" )}</style>',
    ],
    [
      'one whose path is written with character references',
      '<a href="/ol&#100;/?a">',
      '/x/',
      '<a href="/new/place/?a">',
    ],
    [
      'none that climbs above the root',
      '<link href="../../../css/x.css"><img src="../../x.png">',
      '/x/',
      '<link href="../../../css/x.css"><img src="../../x.png">',
    ],
    [
      'links under a base',
      '<base href="/deep/down/"><a href="../../old/">',
      '/x/',
      '<base href="/deep/down/"><a href="/new/place/">',
    ],
  ])('%s', (_, html, page, expected) => expect(rewrite(html, page)).toBe(expected));

  it.each([
    [
      'relative links of a page that moved',
      '<link rel=stylesheet href="../style/a.css"><a href="sub/">',
      '/welcome/',
      '/',
      '<link rel=stylesheet href="style/a.css"><a href="welcome/sub/">',
    ],
    [
      'not its rooted ones',
      '<a href="/visit/"><a href="#here"><a href="">',
      '/welcome/',
      '/',
      '<a href="/visit/"><a href="#here"><a href="">',
    ],
    ['not those that happen to be right still', '<a href="../c/">', '/a/', '/b/', '<a href="../c/">'],
    [
      'not one that climbs above the root before and after',
      '<link href="../../../../css/x.css">',
      '/a/b/',
      '/c/',
      '<link href="../../../../css/x.css">',
    ],
    [
      'addresses in its own styles',
      '<style>p{background:url(../p.png)}</style><p style="background:url(../q.png)">',
      '/a/b/',
      '/',
      '<style>p{background:url(a/p.png)}</style><p style="background:url(a/q.png)">',
    ],
  ])('%s', (_, html, before, after, expected) => expect(rewrite(html, before, after)).toBe(expected));
});

describe('hostile pages', () => {
  it('are read without a call stack for each level', () => {
    const deep = `${'<div>'.repeat(20_000)}<a href="/x/">x</a>`;
    const reading = readPage(utf8(deep));
    expect(reading.links.map(({ href }) => href)).toEqual(['/x/']);
  });

  it('may hold NUL bytes, half tags and no HTML at all', () => {
    expect(readPage(utf8('<title>a\0b</title><p \0x=1><a href="/y/')).title).toBe('a\ufffdb');
    expect(readPage(new Uint8Array()).title).toBeUndefined();
  });
});
