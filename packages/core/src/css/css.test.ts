import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hex as referenceRatio } from 'wcag-contrast';
import { parsePage } from '../html/index.ts';
import {
  computeContrastRatio,
  isTooDeep,
  requireRatio,
  createMatcher,
  readSheet,
  computeRelativeLuminance,
  findSeenTexts,
  type Rgb,
} from './index.ts';

const rgb = (hex: string): Rgb => ({
  r: parseInt(hex.slice(1, 3), 16) / 255,
  g: parseInt(hex.slice(3, 5), 16) / 255,
  b: parseInt(hex.slice(5, 7), 16) / 255,
});
const hexOf = fc.stringMatching(/^#[0-9a-f]{6}$/);

describe('contrast', () => {
  // color-contrast-checker's tests (Apache-2.0), "hexToLuminance".
  it.each([
    ['#ffffff', 1],
    ['#0000ff', 0.0722],
    ['#ffff00', 0.9278],
  ])('luminance of %s is %d', (hex, luminance) => {
    expect(computeRelativeLuminance(rgb(hex))).toBeCloseTo(luminance, 10);
  });

  // Published with the registry package wcag-contrast, and widely quoted: the lightest grey that passes on white, and one step more.
  it.each([
    ['#767676', 4.542],
    ['#777777', 4.478],
    ['#000000', 21],
    ['#ffffff', 1],
  ])('%s on white is %d', (hex, ratio) => {
    expect(computeContrastRatio(rgb(hex), rgb('#ffffff'))).toBeCloseTo(ratio, 3);
  });

  it('is what a second implementation says (property; reference: wcag-contrast)', () => {
    fc.assert(
      fc.property(hexOf, hexOf, (a, b) => {
        // The reference uses the threshold of the first draft, 0.03928; no 8-bit colour lies between the two.
        expect(computeContrastRatio(rgb(a), rgb(b))).toBeCloseTo(referenceRatio(a, b), 6);
        expect(computeContrastRatio(rgb(a), rgb(b))).toBe(computeContrastRatio(rgb(b), rgb(a)));
      }),
    );
  });

  it('asks less of large text (WCAG 2.2, 1.4.3)', () => {
    expect([
      requireRatio(16, false),
      requireRatio(24, false),
      requireRatio(18, true),
      requireRatio(18.67, true),
      requireRatio(23.9, false),
    ]).toEqual([4.5, 3, 4.5, 3, 4.5]);
  });
});

const seen = (html: string, css = '') =>
  [...findSeenTexts(parsePage(new TextEncoder().encode(html)), createMatcher(readSheet(css)))].map(
    ({ element, colour, background, sizePx, isBold }) => {
      const hex = ({ r, g, b }: Rgb) =>
        `#${[r, g, b]
          .map((part) =>
            Math.round(part * 255)
              .toString(16)
              .padStart(2, '0'),
          )
          .join('')}`;
      return `${element.tagName} ${hex(colour)} on ${hex(background)} ${Math.round(sizePx)}${isBold ? ' bold' : ''}`;
    },
  );

describe('computed colours', () => {
  it('follow the cascade: specificity, order, importance, inline last', () => {
    expect(seen('<p class="a" id="b">x</p>', 'p { color: red } .a { color: green } #b { color: blue }')).toEqual([
      'p #0000ff on #ffffff 16',
    ]);
    expect(seen('<p class="a" id="b">x</p>', '.a { color: green !important } #b { color: blue }')).toEqual([
      'p #008000 on #ffffff 16',
    ]);
    expect(seen('<p class="a" style="color:#123456">x</p>', '.a { color: green }')).toEqual([
      'p #123456 on #ffffff 16',
    ]);
    expect(seen('<p>x</p>', 'p { color: red } p { color: #00f }')).toEqual(['p #0000ff on #ffffff 16']);
  });

  it('are inherited, with what is behind, sizes and weight', () => {
    expect(seen('<div><h2>x <em>y</em></h2></div>', 'div { color: #eee; background: #222; font-size: 20px }')).toEqual([
      'h2 #eeeeee on #222222 30 bold',
      'em #eeeeee on #222222 30 bold',
    ]);
    expect(seen('<p>x</p>', 'p { color: rgba(0, 0, 0, .5); background-color: hsl(0 0% 100%) }')).toEqual([
      'p #808080 on #ffffff 16',
    ]);
  });

  it('resolve variables with their fallbacks, and end in circles', () => {
    expect(
      seen(
        '<main><p>x</p></main>',
        ':root { --ink: #333 } main { --paper: #fafafa; color: var(--ink) } p { background: var(--none, var(--paper)) }',
      ),
    ).toEqual(['p #333333 on #fafafa 16']);
    expect(() => seen('<p>x</p>', 'p { --a: var(--b); --b: var(--a); color: var(--a) }')).not.toThrow();
  });

  it('say nothing where nobody can know: over pictures, hidden, off their place', () => {
    expect(seen('<header>x</header>', 'header { background: #123 url(a.png); color: #fff }')).toEqual([]);
    expect(seen('<p>x</p><b hidden>y</b><i>z</i>', 'p { display: none } i { position: absolute }')).toEqual([]);
    expect(seen('<p>x</p>', 'p { opacity: .5 }')).toEqual([]);
  });

  it('leave aside what holds only in print, on phones, or under the pointer', () => {
    expect(
      seen(
        '<p>x</p>',
        '@media print { p { color: red } } @media (max-width: 600px) { p { color: red } } p:hover { color: red } @media screen and (min-width: 40em) { p { color: green } }',
      ),
    ).toEqual(['p #008000 on #ffffff 16']);
  });
});

/** Of `<p class="a">x</p>` in a body; nothing where nobody can know. */
const ofText = (css: string, html = '<p class="a">x</p>') => seen(html, css).join('; ');

describe('what a declaration comes to', () => {
  it.each([
    // CSS Color 4: keywords, and what cannot be read changes nothing.
    ['p { color: inherit }', 'p #000000 on #ffffff 16'],
    ['body { color: #111111 } p { color: unset }', 'p #111111 on #ffffff 16'],
    ['body { color: #111111 } p { color: currentcolor }', 'p #111111 on #ffffff 16'],
    ['p { color: nonsense }', 'p #000000 on #ffffff 16'],
    ['p { color: rgb(300 -5 0) }', 'p #ff0000 on #ffffff 16'],
    // CSS Backgrounds 3: the shorthand's colour, and what lets through.
    ['p { background: no-repeat #abc }', 'p #000000 on #aabbcc 16'],
    ['p { background: rgb(1, 2, 3) no-repeat }', 'p #000000 on #010203 16'],
    ['p { color: #123456; background: currentcolor }', 'p #123456 on #123456 16'],
    ['p { background: #123456; background-color: #654321 }', 'p #000000 on #654321 16'],
    ['p { background-color: transparent }', 'p #000000 on #ffffff 16'],
    ['p { background-color: none }', 'p #000000 on #ffffff 16'],
    ['body { background: #202020 } p { background: inherit }', 'p #000000 on #202020 16'],
    ['body { background: #202020 } p { background: initial }', 'p #000000 on #202020 16'],
    ['body { background: #202020 } p { background: nonsense }', 'p #000000 on #202020 16'],
    ['body { background: #000 } p { background: rgba(255, 255, 255, .5) }', 'p #000000 on #808080 16'],
    ['p { background-image: url(x.png) }', ''],
    ['p { background: linear-gradient(red, blue) }', ''],
    ['p { background-image: image(red) }', ''],
    ['body { background: url(x.png) } p { background: #fff }', 'p #000000 on #ffffff 16'],
    ['body { background: url(x.png) } p { background: rgba(0, 0, 0, .5) }', ''],
    // CSS Fonts 4, section 2.5, and CSS Values 4, sections 6.1 and 6.2.
    ['p { font-size: 20px }', 'p #000000 on #ffffff 20'],
    ['body { font-size: 20px } p { font-size: 2em }', 'p #000000 on #ffffff 40'],
    ['body { font-size: 20px } p { font-size: 2rem }', 'p #000000 on #ffffff 32'],
    ['p { font-size: 12pt }', 'p #000000 on #ffffff 16'],
    ['p { font-size: 24pt }', 'p #000000 on #ffffff 32'],
    ['body { font-size: 20px } p { font-size: 150% }', 'p #000000 on #ffffff 30'],
    ['p { font-size: xx-small }', 'p #000000 on #ffffff 9'],
    ['p { font-size: x-small }', 'p #000000 on #ffffff 10'],
    ['p { font-size: small }', 'p #000000 on #ffffff 13'],
    ['body { font-size: 20px } p { font-size: medium }', 'p #000000 on #ffffff 16'],
    ['p { font-size: large }', 'p #000000 on #ffffff 18'],
    ['p { font-size: x-large }', 'p #000000 on #ffffff 24'],
    ['p { font-size: xx-large }', 'p #000000 on #ffffff 32'],
    ['body { font-size: 20px } p { font-size: larger }', 'p #000000 on #ffffff 20'],
    ['p { font-size: 5vw }', 'p #000000 on #ffffff 16'],
    ['p { font: bold 20px/1.5 serif }', 'p #000000 on #ffffff 20 bold'],
    ['p { font: 20px serif }', 'p #000000 on #ffffff 20'],
    ['p { font: italic x-large serif }', 'p #000000 on #ffffff 24'],
    ['p { font: 20px serif; font-size: 30px }', 'p #000000 on #ffffff 30'],
    ['p { font-weight: bolder }', 'p #000000 on #ffffff 16 bold'],
    ['p { font-weight: 700 }', 'p #000000 on #ffffff 16 bold'],
    ['p { font-weight: 600 }', 'p #000000 on #ffffff 16'],
    ['body { font-weight: bold } p { font-weight: lighter }', 'p #000000 on #ffffff 16'],
    ['body { font-weight: bold } p { font-weight: inherit }', 'p #000000 on #ffffff 16 bold'],
    // CSS Custom Properties 1, section 3.
    ['p { --a: #010203; color: var( --a ) }', 'p #010203 on #ffffff 16'],
    ['p { color: var(--none, #040506) }', 'p #040506 on #ffffff 16'],
    ['p { color: var(--none, rgb(4, 5, 6)) }', 'p #040506 on #ffffff 16'],
    ['p { color: var(--none) }', 'p #000000 on #ffffff 16'],
    ['body { --a: #010203 } p { color: var(--b, var(--a)) }', 'p #010203 on #ffffff 16'],
    // What is not seen, or not where it stands.
    ['p { visibility: hidden }', ''],
    ['p { visibility: visible }', 'p #000000 on #ffffff 16'],
    ['p { display: block }', 'p #000000 on #ffffff 16'],
    ['p { position: fixed }', ''],
    ['p { position: sticky }', ''],
    ['p { position: relative }', 'p #000000 on #ffffff 16'],
    ['p { opacity: 1 }', 'p #000000 on #ffffff 16'],
    ['p { opacity: .99 }', ''],
    ['p { filter: blur(2px) }', ''],
    ['p { filter: none }', 'p #000000 on #ffffff 16'],
    ['p { mix-blend-mode: multiply }', ''],
    ['p { clip-path: inset(50%) }', ''],
    // CSS Cascade 5, section 6: importance before weight, weight before order.
    ['.a { color: #010101 !important } p { color: #020202 !important }', 'p #010101 on #ffffff 16'],
    ['p { color: #020202 !important } .a { color: #010101 }', 'p #020202 on #ffffff 16'],
    ['p { COLOR: #010101 }', 'p #010101 on #ffffff 16'],
    ['p { width: 3px }', 'p #000000 on #ffffff 16'],
    ['p { color: #010101 !important; color: #020202 }', 'p #010101 on #ffffff 16'],
    // CSS Cascade 5, section 3: a shorthand says all its parts anew, and what comes later holds.
    ['.a { background: #010101 } p { background-color: #020202 }', 'p #000000 on #010101 16'],
    ['p { background: #010101; background-color: #020202; background: #030303 }', 'p #000000 on #030303 16'],
    ['p { background-color: #010101 !important; background: #020202 }', 'p #000000 on #010101 16'],
    ['p { background-color: #010101; background: none }', 'p #000000 on #ffffff 16'],
    ['p { background: url(x.png) #010101; background-image: none }', 'p #000000 on #010101 16'],
    ['p { background-image: url(x.png); background: #010101 }', 'p #000000 on #010101 16'],
    ['p { font-size: 30px; font-weight: bold; font: 20px serif }', 'p #000000 on #ffffff 20'],
    ['p { font: 20px serif; font-weight: bold }', 'p #000000 on #ffffff 20 bold'],
    ['body { font-weight: bold } p { font: 20px serif }', 'p #000000 on #ffffff 20'],
    ['body { font-weight: bold } p { font: nonsense }', 'p #000000 on #ffffff 16 bold'],
    // CSS Syntax 3: keywords in any case.
    ['p { FONT-SIZE: X-Large; Font-Weight: BOLD }', 'p #000000 on #ffffff 24 bold'],
    ['p { font-size: 2EM }', 'p #000000 on #ffffff 32'],
    ['p { DISPLAY: NONE }', ''],
    ['p { background: Url(x.png) }', ''],
    ['body { color: #111111 } p { color: inheritance }', 'p #111111 on #ffffff 16'],
    ['p { font: bold xx-small serif }', 'p #000000 on #ffffff 9 bold'],
    ['p { font: xx-large/2 serif }', 'p #000000 on #ffffff 32'],
  ])('%s', (css, expected) => expect(ofText(css)).toBe(expected));

  it.each([
    ['<a href="/">x</a>', '', 'a #0000ee on #ffffff 16'],
    ['<a>x</a>', '', 'a #000000 on #ffffff 16'],
    ['<a href="/"><b>x</b></a>', 'a { color: #010101 }', 'b #010101 on #ffffff 16 bold'],
    ['<a href="/"><i>x</i></a>', '', 'i #0000ee on #ffffff 16'],
    ['<h1>x</h1>', '', 'h1 #000000 on #ffffff 32 bold'],
    ['<h3>x</h3>', '', 'h3 #000000 on #ffffff 19 bold'],
    ['<h4>x</h4>', '', 'h4 #000000 on #ffffff 16 bold'],
    ['<h5>x</h5>', '', 'h5 #000000 on #ffffff 13 bold'],
    ['<h6>x</h6>', '', 'h6 #000000 on #ffffff 11 bold'],
    ['<small>x</small>', '', 'small #000000 on #ffffff 13'],
    ['<strong>x</strong>', '', 'strong #000000 on #ffffff 16 bold'],
    // CSS Cascade 5, section 7.3: what resets of style sheets say of headings.
    ['<h1>x</h1>', 'h1 { font: inherit }', 'h1 #000000 on #ffffff 16'],
    ['<h1>x</h1>', 'body { font: bold 20px serif } h1 { font: inherit }', 'h1 #000000 on #ffffff 20 bold'],
    ['<h1>x</h1>', 'h1 { font-size: inherit; font-weight: inherit }', 'h1 #000000 on #ffffff 16'],
    ['<h1>x</h1>', 'h1 { font-size: 100%; font-weight: unset }', 'h1 #000000 on #ffffff 16'],
    ['<h1>x</h1>', 'h1 { font: 20px serif }', 'h1 #000000 on #ffffff 20'],
    ['<a href="/">x</a>', 'body { color: #111111 } a { color: CurrentColor }', 'a #111111 on #ffffff 16'],
    ['<a href="/">x</a>', 'a { color: currentcolours }', 'a #0000ee on #ffffff 16'],
    ['<table><th>x</th><td>y</td></table>', '', 'th #000000 on #ffffff 16 bold; td #000000 on #ffffff 16'],
    ['<button>x</button><select><option>y</select><textarea>z</textarea>', '', ''],
    ['<svg><text>x</text></svg><math><mi>y</mi></math><noscript>z</noscript>', '', ''],
    ['<p> </p><div><p>y</p></div>', '', 'p #000000 on #ffffff 16'],
    ['<p style="color:#010101">x</p>', 'p { color: #020202 !important }', 'p #020202 on #ffffff 16'],
    ['<p style="color:#010101 !important">x</p>', 'p { color: #020202 !important }', 'p #010101 on #ffffff 16'],
  ])('in %s with %j', (html, css, expected) => expect(ofText(css, html)).toBe(expected));
});

describe('a rule holds', () => {
  const MARK = '{ color: #010203 }';
  const holds = (selector: string, html: string) => ofText(`${selector} ${MARK}`, html).includes('#010203');

  // Selectors 4.
  it.each([
    ['p', '<p>x</p>', true],
    ['P', '<p>x</p>', true],
    ['.b', '<p class="a  b">x</p>', true],
    ['.b', '<p class="ab">x</p>', false],
    ['#c', '<p id="c">x</p>', true],
    ['#c', '<p id="d">x</p>', false],
    ['p.b#c', '<p class="b" id="c">x</p>', true],
    ['div p', '<div><b><p>x</p></b></div>', true],
    ['div > p', '<div><p>x</p></div>', true],
    ['div > p', '<div><section><p>x</p></section></div>', false],
    ['h1 + p', '<h1>y</h1><p>x</p>', true],
    ['h1 ~ p', '<h1>y</h1><b></b><p>x</p>', true],
    ['[title]', '<p title>x</p>', true],
    ['[title="a"]', '<p title="a">x</p>', true],
    ['[title="b"]', '<p title="a">x</p>', false],
    ['p:first-child', '<p>x</p>', true],
    ['p:nth-child(2)', '<b></b><p>x</p>', true],
    ['p:not(.a)', '<p>x</p>', true],
    ['p:not(.a)', '<p class="a">x</p>', false],
    [':is(p, b)', '<p>x</p>', true],
    ['p:has(b)', '<p>x<b></b></p>', true],
    ['p:has(b)', '<p>x</p>', false],
    ['p:has(b)', '<p>x<i><b></b></i></p>', true],
    ['p:has(> b)', '<p>x<i><b></b></i></p>', false],
    ['p:has(+ b)', '<p>x</p><b></b>', true],
    [':root > body p', '<p>x</p>', true],
    ['p:only-child', '<p>x</p>', true],
    ['p:only-child', '<b></b><p>x</p>', false],
    ['p:lang(en)', '<p lang="en">x</p>', true],
    ['.b:not([title], #c)', '<p class="b">x</p>', true],
    ['.b:not([title], #c)', '<p class="b" id="c">x</p>', false],
    ['.b[title].c', '<p class="c b" title="x">x</p>', true],
    ['[title^="a."]', '<p title="a.b">x</p>', true],
    ['[title="#d"]', '<p title="#d">x</p>', true],
    ['p[title="x.y"]', '<p title="x.y">x</p>', true],
    [':where(.a) p', '<div class="a"><p>x</p></div>', true],
    [':where(.a)', '<p class="a">x</p>', true],
    [':not(.c)', '<p class="b">x</p>', true],
    ['#c:where(.b)', '<p class="b" id="c">x</p>', true],
    ['h1~p', '<h1>y</h1><p>x</p>', true],
    ['div>p', '<div><p>x</p></div>', true],
    ['p:empty', '<p>x</p>', false],
    ['*', '<p>x</p>', true],
    ['.\\62 ', '<p class="b">x</p>', true],
    ['p:hover', '<p>x</p>', false],
    ['p::before', '<p>x</p>', false],
    ['p:focus-within', '<p>x</p>', false],
    ['p:unknown-thing', '<p>x</p>', false],
    ['b, p', '<p>x</p>', true],
  ])('%s for %s: %s', (selector, html, expected) => expect(holds(selector, html)).toBe(expected));

  // Media Queries 4, on a screen of 1280 CSS pixels.
  it.each([
    ['@media screen', true],
    ['@media all', true],
    ['@media print', false],
    ['@media speech', false],
    ['@media not screen', false],
    ['@media (min-width: 1280px)', true],
    ['@media (min-width: 1281px)', false],
    ['@media (max-width: 1280px)', true],
    ['@media (max-width: 1279px)', false],
    ['@media (min-width: 80em)', true],
    ['@media (min-width: 80.1em)', false],
    ['@media (min-width: 80.1rem)', false],
    ['@media (min-width: 100px) and (max-width: 200px)', false],
    ['@media print, screen', true],
    ['@media (prefers-color-scheme: dark)', false],
    ['@media (orientation: portrait)', false],
    ['@media (hover: hover)', false],
    ['@media (pointer: fine)', false],
    ['@media (forced-colors: active)', false],
    ['@media (color)', false],
    ['@supports (display: grid)', true],
    ['@layer base', true],
    ['@container (min-width: 1px)', false],
    ['@media screen { @media print', false],
  ])('inside %s: %s', (rule, expected) => {
    const css = `${rule} { p ${MARK} } ${rule.includes('{') ? '}' : ''} i { color: red }`;
    expect(ofText(css, '<p>x</p>').includes('#010203')).toBe(expected);
    // What comes behind the block holds again.
    expect(ofText(css, '<i>x</i>')).toBe('i #ff0000 on #ffffff 16');
  });

  it('unless blocks stand in one another more than a hundred times', () => {
    const nested = (times: number) => `${'@media all {'.repeat(times)} p ${MARK} ${'}'.repeat(times)}`;
    expect([isTooDeep(nested(99)), isTooDeep(nested(100))]).toEqual([false, true]);
    expect(readSheet(nested(100))).toEqual([]);
    expect(readSheet(nested(99))).toHaveLength(1);
    // Signs in strings and comments open nothing; what closes without an opening counts for nothing.
    expect(isTooDeep(`p::before { content: "${'('.repeat(200)}" } /* ${'{'.repeat(200)} */`)).toBe(false);
    expect(isTooDeep(`${')'.repeat(200)}${'('.repeat(100)}`)).toBe(false);
    expect(isTooDeep(`${')'.repeat(200)}${'('.repeat(101)}`)).toBe(true);
    expect(isTooDeep('f('.repeat(101))).toBe(true);
    expect(isTooDeep('['.repeat(101))).toBe(true);
  });
});
