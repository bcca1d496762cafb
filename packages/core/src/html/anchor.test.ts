/** Places that are found again. What tells one from its like is our own; positions are those of HTML standard 13.2.6.1. */
import { describe, expect, it } from 'vitest';
import { findAnchorAt, listAnchors, parsePage, recognise, recogniseAll, type Anchor } from './index.ts';

const parsed = (html: string) => parsePage(new TextEncoder().encode(html));
const all = (html: string) => [...listAnchors(parsed(html))].map(({ anchor }) => anchor);
const texts = (html: string) => all(html).filter(({ what }) => what === 'text');
/** The anchor of the text that says so, as the page had it. */
function textAnchor(html: string, mark: string, nth = 0): Anchor {
  const found = texts(html).filter((anchor) => anchor.mark === mark)[nth];
  if (!found) throw new Error(`no “${mark}” in ${html}`);
  return found;
}
/** Where an anchor is found in another page: what stands there and before it. */
function found(html: string, anchor: Anchor) {
  const result = recognise(parsed(html), anchor);
  if (result.kind === 'lost') return 'lost';
  const { text, element } = result.place;
  const place = element.sourceCodeLocation;
  return [result.kind, html.slice(text?.start ?? place?.startOffset, text?.end ?? place?.endOffset)];
}

describe('anchors', () => {
  it('are of every element and every text, in the order of the tree', () => {
    expect(all('<body><p>One <b>two</b> three</p>').map(({ what, tag, mark }) => `${what} ${tag} ${mark}`)).toEqual([
      'element html One three two',
      'element head ',
      'element body One three two',
      'element p One three two',
      'text p One',
      'text p three',
      'element b two',
      'text b two',
    ]);
  });

  it('leave out what is no text of the page', () => {
    const raw = ['script', 'style', 'textarea', 'noscript', 'template'].map((tag) => `<${tag}>no</${tag}>`).join('');
    expect(all(`<title>no</title><body>${raw}<p>yes`).filter(({ mark }) => mark.includes('no'))).toEqual([]);
  });

  it('leave out white space between elements, and text a parser moved out of a table', () => {
    expect(texts('<body> <p>a</p>\n\t<p>b</p> ').map(({ mark }) => mark)).toEqual(['a', 'b']);
    const moved = '<body><table>Lost<tr><td>Cell</td></tr>too</table>';
    for (const { text } of listAnchors(parsed(moved)))
      if (text) expect(moved.slice(text.start, text.end)).toBe(text.value);
  });

  it('say of a text where it stands, and what it says without references', () => {
    const html = '<body><p>Salt <i>and</i> &amp; pepper';
    const place = [...listAnchors(parsed(html))].find(({ text }) => text?.value.includes('pepper'))?.text;
    expect(place).toMatchObject({ child: 2, value: ' & pepper' });
    expect(html.slice(place?.start, place?.end)).toBe(' &amp; pepper');
  });

  it('number those that are alike, each kind for itself', () => {
    const html = '<body><p>Day</p><div>Day</div><p>Day</p><p>Night</p>';
    expect(texts(html).map(({ tag, mark, nth }) => `${tag} ${mark} ${nth}`)).toEqual([
      'p Day 0',
      'div Day 0',
      'p Day 1',
      'p Night 0',
    ]);
  });

  it('say which heading stands above', () => {
    const html = '<body><p>a</p><h2>Bus <b>line</b></h2><p>b</p><h6>Car</h6><p>c</p>';
    const under = Object.fromEntries(texts(html).map((anchor) => [anchor.mark, anchor.under]));
    expect(under).toMatchObject({ a: '', b: 'Bus line', c: 'Car' });
    // A heading is above what follows it, and not above itself.
    expect(under['Bus']).toBe('');
  });

  it.each([
    ['a link, by where it leads and what it says', '<a href=" b.html ">Next <b>one</b></a>', 'b.html Next one'],
    ['a picture', '<img src=a.png alt=A>', 'a.png'],
    ['an object', '<object data=a.svg>No</object>', 'a.svg'],
    ['a form', '<form action=/send>Send</form>', '/send'],
    ['a source', '<source srcset="a.png 2x">', 'a.png 2x'],
    ['a video', '<video poster=a.png></video>', 'a.png'],
    ['a link without words', '<a href=b.html></a>', 'b.html '],
    ['an element by its words', '<p>One\n two</p>', 'One two'],
    ['an element without raw text', '<p>One<script>x</script></p>', 'One'],
    ['an element by no more than its beginning', `<p>${'abcde '.repeat(30)}</p>`, 'abcde '.repeat(20)],
    ['an element whose white space goes on', `<p>${'a '.repeat(3)}${' '.repeat(400)}<b>b</b><b>c</b></p>`, 'a a a b c'],
  ])('mark %s', (_, html, mark) => {
    const [, , , anchor] = all(`<body>${html}`).filter(({ what }) => what === 'element');
    expect(anchor?.mark.trimEnd()).toBe(mark.trimEnd());
  });

  it('read no further in a long element than its mark needs', () => {
    const words = Array.from({ length: 200 }, (_, n) => `<b>${n}</b>`).join('');
    const anchor = all(`<body><p>${words}</p>`).find(({ tag }) => tag === 'p');
    expect(anchor?.mark).toBe(
      Array.from({ length: 200 }, (_, n) => n)
        .join(' ')
        .slice(0, 120),
    );
  });

  it.each([
    ['<main><p>a</p><p><b>x</b></p></main>', 'main > p:2 > b:1'],
    ['<main><div id=news><p>a</p><ul></ul><p>x</p></div></main>', '#news > p:2'],
    ['<main><div id=""><p>x</p></div></main>', 'main > div:1 > p:1'],
    ['<nav><a href=a>x</a></nav>', 'nav > a:1'],
    ['<header><p>x', 'header > p:1'],
    ['<footer><p>x', 'footer > p:1'],
    ['<aside><p>x', 'aside > p:1'],
    ['<p id=own>x', 'body > p:1'],
    ['<div><p>a</p><p>b</p><p>x</p><p>d</p></div>', 'body > div:1 > p:3'],
  ])('of %s go %s', (html, way) => expect(textAnchor(`<body>${html}`, 'x').way).toBe(way));

  it('of a landmark are the landmark', () => {
    expect(all('<body><main>x</main>').find(({ tag }) => tag === 'main')?.way).toBe('main');
  });
});

describe('a place is found again', () => {
  const before = '<body><h2>Bus</h2><p>Day</p><h2>Car</h2><p>Day</p><p>Night</p>';

  it('by what it says, wherever it went', () => {
    const moved = '<body><main><section><p>Night</p></section></main><p>Day</p>';
    expect(found(moved, textAnchor(before, 'Night'))).toEqual(['found', 'Night']);
    expect(found('<body><div>Night</div>', textAnchor(before, 'Night'))).toBe('lost');
  });

  it('by its number where the same heading is above', () => {
    const document = parsed(before);
    const second = recognise(document, textAnchor(before, 'Day', 1));
    expect(second.kind === 'found' && second.place.anchor.under).toBe('Car');
    const first = recognise(document, textAnchor(before, 'Day'));
    expect(first.kind === 'found' && first.place.anchor.under).toBe('Bus');
  });

  it('by the heading where its number is another', () => {
    const turned = '<body><h2>Car</h2><p>Day</p><h2>Bus</h2><p>Day</p>';
    const anchor = textAnchor(before, 'Day', 1);
    const result = recognise(parsed(turned), anchor);
    expect(result.kind === 'found' && result.place.anchor).toMatchObject({ under: 'Car', nth: 0 });
  });

  it('by its number where several stand below one heading', () => {
    const twice = '<body><h2>Bus</h2><p>Day</p><p>Day</p>';
    const result = recognise(parsed(twice), textAnchor(twice, 'Day', 1));
    expect(result.kind === 'found' && result.place.anchor.nth).toBe(1);
  });

  it('not at all where several are alike and nothing tells which', () => {
    const anchor = textAnchor('<body><h2>Bus</h2><p>Day</p>', 'Day');
    expect(found('<body><h2>Van</h2><p>Day</p><h2>Car</h2><p>Day</p>', anchor)).toBe('lost');
    expect(found('<body><h2>Van</h2><p>x</p><p>Day</p><h2>Bus</h2><p>Day</p><p>Day</p>', anchor)).toBe('lost');
  });

  it('as changed where something else stands in its place', () => {
    expect(found('<body><h2>Bus</h2><p>Every day</p>', textAnchor('<body><h2>Bus</h2><p>Day</p>', 'Day'))).toEqual([
      'changed',
      'Every day',
    ]);
    expect(found('<body><h2>Bus</h2>', textAnchor('<body><h2>Bus</h2><p>Day</p>', 'Day'))).toBe('lost');
  });

  it('only as what it was: a text or an element', () => {
    const html = '<body><p>Day</p>';
    const element = all(html).find(({ tag }) => tag === 'p');
    expect(element && found(html, element)).toEqual(['found', '<p>Day</p>']);
    expect(found(html, textAnchor(html, 'Day'))).toEqual(['found', 'Day']);
  });

  it('wherever it stands, where it is to be changed everywhere', () => {
    const html = '<body><p>Day</p><div>Day</div><p>Day</p><p>Night</p>';
    const places = recogniseAll(parsed(html), textAnchor(html, 'Day'));
    expect(places.map(({ text }) => text?.start)).toEqual([html.indexOf('Day'), html.lastIndexOf('Day')]);
    expect(recogniseAll(parsed('<body><p>Dusk</p>'), textAnchor(html, 'Day'))).toEqual([]);
  });

  it('by its position: a whole tag with what is in it, or one of its texts', () => {
    const html = '<body><p>One <b>two</b> three</p><p>Four</p>';
    const document = parsed(html);
    const at = html.indexOf('<p>');
    expect(findAnchorAt(document, at, undefined)).toMatchObject({ what: 'element', tag: 'p' });
    expect(findAnchorAt(document, at, 0)).toMatchObject({ what: 'text', mark: 'One' });
    expect(findAnchorAt(document, at, 2)).toMatchObject({ what: 'text', mark: 'three' });
    expect(findAnchorAt(document, at, 1)).toBeUndefined();
    expect(findAnchorAt(document, html.lastIndexOf('<p>'), 0)).toMatchObject({ mark: 'Four' });
    expect(findAnchorAt(document, at + 1, undefined)).toBeUndefined();
  });
});
