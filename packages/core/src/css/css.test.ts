import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hex as referenceRatio } from 'wcag-contrast';
import { parsePage } from '../html/index.ts';
import { contrastRatio, leastRatio, matcherOf, readSheet, relativeLuminance, seenTexts, type Rgb } from './index.ts';

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
    expect(relativeLuminance(rgb(hex))).toBeCloseTo(luminance, 10);
  });

  // Published with the registry package wcag-contrast, and widely quoted: the lightest grey that passes on white, and one step more.
  it.each([
    ['#767676', 4.542],
    ['#777777', 4.478],
    ['#000000', 21],
    ['#ffffff', 1],
  ])('%s on white is %d', (hex, ratio) => {
    expect(contrastRatio(rgb(hex), rgb('#ffffff'))).toBeCloseTo(ratio, 3);
  });

  it('is what a second implementation says (property; reference: wcag-contrast)', () => {
    fc.assert(
      fc.property(hexOf, hexOf, (a, b) => {
        // The reference uses the threshold of the first draft, 0.03928; no 8-bit colour lies between the two.
        expect(contrastRatio(rgb(a), rgb(b))).toBeCloseTo(referenceRatio(a, b), 6);
        expect(contrastRatio(rgb(a), rgb(b))).toBe(contrastRatio(rgb(b), rgb(a)));
      }),
    );
  });

  it('asks less of large text (WCAG 2.2, 1.4.3)', () => {
    expect([
      leastRatio(16, false),
      leastRatio(24, false),
      leastRatio(18, true),
      leastRatio(18.67, true),
      leastRatio(23.9, false),
    ]).toEqual([4.5, 3, 4.5, 3, 4.5]);
  });
});

const seen = (html: string, css = '') =>
  [...seenTexts(parsePage(new TextEncoder().encode(html)), matcherOf(readSheet(css)))].map(
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
