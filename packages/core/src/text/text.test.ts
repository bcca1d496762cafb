import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { decodePieces, decodeStrictly, decodeText, findEncoding, withoutMark } from './index.ts';

const bytesOf = (...bytes: number[]) => Uint8Array.from(bytes);

describe('windows-1252', () => {
  it('is read as iconv of the GNU C library reads it, in every byte that has a letter there', () => {
    // Those five mean nothing to iconv; the Encoding standard gives the control characters of their numbers.
    const nothing = [0x81, 0x8d, 0x8f, 0x90, 0x9d];
    const all = Array.from({ length: 256 }, (_, byte) => byte).filter((byte) => !nothing.includes(byte));
    const read = execFileSync('iconv', ['-f', 'CP1252', '-t', 'UTF-8'], { input: Buffer.from(all), encoding: 'utf8' });
    expect(decodeText(Uint8Array.from(all), 'windows-1252')).toBe(read);
    expect(decodeText(Uint8Array.from(nothing), 'windows-1252')).toBe('\x81\x8d\x8f\x90\x9d');
  });

  it('keeps a first byte of 0xFF, and is the same in one piece and in many', () => {
    expect(decodeText(bytesOf(0xff, 0xfe, 0x41), 'windows-1252')).toBe('ÿþA');
    const long = Uint8Array.from({ length: 20_000 }, (_, n) => n % 256);
    const read = decodePieces('windows-1252');
    const pieces = [long.subarray(0, 9000), long.subarray(9000), undefined];
    expect(pieces.map((piece) => read(piece)).join('')).toBe(decodeText(long, 'windows-1252'));
  });
});

describe('an encoding', () => {
  // Encoding standard, section 4.2, “Names and labels”.
  it.each([
    ['latin1', 'windows-1252'],
    ['ISO-8859-1', 'windows-1252'],
    ['us-ascii', 'windows-1252'],
    ['utf8', 'utf-8'],
    [' UTF-8 ', 'utf-8'],
    ['x-sjis', 'shift_jis'],
    ['no such thing', undefined],
    ['', undefined],
  ])('“%s” is %s', (label, name) => expect(findEncoding(label)).toBe(name));

  it('is read strictly, or with what means nothing marked', () => {
    const broken = bytesOf(0x61, 0xc3, 0x28);
    expect(decodeStrictly(broken, 'utf-8')).toBeUndefined();
    expect(decodeText(broken, 'utf-8')).toBe('a\ufffd(');
    expect(decodeStrictly(bytesOf(0xef, 0xbb, 0xbf, 0x61), 'utf-8')).toBe('\ufeffa');
  });

  it('is left without its mark where that is no letter', () => {
    expect(['\ufeffa', 'a\ufeff', '\ufeff\ufeff', ''].map(withoutMark)).toEqual(['a', 'a\ufeff', '\ufeff', '']);
  });

  it('of any letters comes to the same however its bytes are cut', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.array(fc.nat({ max: 60 })), (text, cuts) => {
        for (const [encoding, bytes] of [
          ['utf-8', Buffer.from(text, 'utf8')],
          ['utf-16le', Buffer.from(text, 'utf16le')],
        ] as const) {
          const places = [0, ...cuts.map((cut) => Math.min(cut, bytes.length)).sort((a, b) => a - b), bytes.length];
          const read = decodePieces(encoding);
          const pieces = places.slice(1).map((end, n) => read(bytes.subarray(places[n], end)));
          expect(pieces.join('') + read(undefined)).toBe(text.toWellFormed());
        }
      }),
    );
  });
});
