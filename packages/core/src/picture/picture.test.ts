/** Sizes of pictures from their first bytes, and SVG that is none. Sources stand beside each. */
import { describe, expect, it } from 'vitest';
import { checkSvg, readPictureSize } from './index.ts';

const bytes = (...parts: readonly (string | readonly number[])[]) =>
  new Uint8Array(parts.flatMap((part) => (typeof part === 'string' ? [...new TextEncoder().encode(part)] : [...part])));

describe('the size of', () => {
  // PNG, third edition, sections 5.2 and 11.2.1; GIF89a, section 18; JPEG: ITU-T T.81, section B.2.2.
  const png = (width: readonly number[], height: readonly number[]) =>
    bytes([0x89], 'PNG\r\n', [0x1a, 0x0a, 0, 0, 0, 13], 'IHDR', width, height, [8, 2, 0, 0, 0, 0, 0, 0, 0]);
  const jpeg = (orientation?: number) =>
    bytes(
      [0xff, 0xd8],
      orientation === undefined
        ? [0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0]
        : [
            0xff,
            0xe1,
            0,
            34,
            0x45,
            0x78,
            0x69,
            0x66,
            0,
            0,
            0x4d,
            0x4d,
            0,
            0x2a,
            0,
            0,
            0,
            8,
            0,
            1,
            0x01,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            orientation,
            0,
            0,
            0,
            0,
            0,
            0,
          ],
      [0xff, 0xc0, 0, 17, 8, 0, 3, 0, 5, 3, 1, 0x11, 0, 2, 0x11, 1, 3, 0x11, 1, 0xff, 0xd9],
    );
  it.each<[string, Uint8Array, [number, number] | undefined]>([
    ['a PNG', png([0, 0, 1, 44], [0, 0, 0, 200]), [300, 200]],
    ['a PNG without height', png([0, 0, 1, 44], [0, 0, 0, 0]), undefined],
    ['a PNG without width', png([0, 0, 0, 0], [0, 0, 0, 200]), undefined],
    ['a GIF', bytes('GIF89a', [7, 0, 9, 0, 0, 0, 0]), [7, 9]],
    ['a JPEG', jpeg(), [5, 3]],
    ['a JPEG as it lies', jpeg(1), [5, 3]],
    // Exif 2.3, tag 0x0112.
    ['a JPEG upside down', jpeg(4), [5, 3]],
    ['a JPEG on its side', jpeg(5), [3, 5]],
    ['a JPEG turned', jpeg(6), [3, 5]],
    ['an SVG', bytes('<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"/>'), [40, 30]],
    ['a text', bytes('no picture at all'), undefined],
    ['nothing', bytes(), undefined],
  ])('%s', (_, of, expected) =>
    expect(readPictureSize(of)).toEqual(expected && { widthPx: expected[0], heightPx: expected[1] }),
  );
});

describe('an SVG', () => {
  const svg = (inside: string, attributes = '') =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`;
  const fault = (text: string) => {
    const found = checkSvg(text);
    return found && [found.code.replace('svg.', ''), ...Object.values(found.parameters)].join(' ');
  };
  // SVG 2, sections 2.2 and 5.7 to 5.9.
  it.each<[string, string | undefined]>([
    [svg('<path d="M0 0url(x)"/>'), undefined],
    [`<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x.dtd">${svg('<g/>')}`, undefined],
    [svg('<use href="#a"/><image href=""/><image xlink:href="data:image/png;base64,AA"/>'), undefined],
    [svg('<rect fill="url(#a)"/><rect style="fill: url(\'#b\')"/><rect fill="url( data:x )"/>'), undefined],
    [svg('<style>a { fill: url(#a); mask: url("#b") }</style>'), undefined],
    [`<!DOCTYPE svg [<!ENTITY a "b">]>${svg('')}`, 'entities'],
    ['<svg><g></svg>', 'damaged'],
    ['no svg', 'damaged'],
    [svg('<g><script>x</script></g>'), 'acts <script>'],
    [svg('<SCRIPT/>'), 'acts <SCRIPT>'],
    [svg('<foreignObject/>'), 'acts <foreignObject>'],
    [svg('<a><b><iframe/></b></a>'), 'acts <iframe>'],
    [svg('<object/>'), 'acts <object>'],
    [svg('<embed/>'), 'acts <embed>'],
    [svg('<audio/>'), 'acts <audio>'],
    [svg('<video/>'), 'acts <video>'],
    [svg('<handler/>'), 'acts <handler>'],
    [svg('', 'onload="x()"'), 'script onload'],
    [svg('<g OnClick="x()"/>'), 'script OnClick'],
    [svg('<image href="x.png"/>'), 'refers'],
    [svg('<image xlink:href="https://a.example/x.png"/>'), 'refers'],
    [svg('<use href="data:text/html,x"/>'), 'refers'],
    [svg('<image href="data:image/svg+xml,x"/>'), 'refers'],
    [svg('<rect fill="url(https://a.example)"/>'), 'loads'],
    [svg('<rect fill="url( \'x\' )"/>'), 'loads'],
    [svg('<style>@import "x";</style>'), 'loads'],
    [svg('<STYLE>a { fill: url(x) }</STYLE>'), 'loads'],
  ])('%s', (text, expected) => expect(fault(text)).toBe(expected));
});
