import { describe, expect, it } from 'vitest';
import { decodeTable, parseTable } from './csvTable.ts';

describe('a table', () => {
  // Encoding standard, index windows-1252: 0x93, 0x94 curly quotes, 0x80 the euro sign; RFC 3629, section 6: the mark.
  it.each([
    ['of a spreadsheet of western Europe', [0x93, 0x41, 0x94, 0x3b, 0x80], 'windows-1252', '“A”;€'],
    ['of bytes that begin with 0xFF alone', [0xff, 0x41], 'windows-1252', 'ÿA'],
    ['in UTF-8 with its mark', [0xef, 0xbb, 0xbf, 0xc3, 0xa9], 'utf-8', 'é'],
    ['in UTF-8 without one', [0xc3, 0xa9], 'utf-8', 'é'],
    ['in UTF-16, low byte first', [0xff, 0xfe, 0x41, 0x00, 0xac, 0x20], 'utf-16le', 'A€'],
    ['in UTF-16, high byte first', [0xfe, 0xff, 0x00, 0x41, 0x20, 0xac], 'utf-16be', 'A€'],
  ])('%s is read in its encoding', (_, bytes, encoding, text) =>
    expect(decodeTable(Uint8Array.from(bytes))).toEqual({ text, encoding }),
  );

  // RFC 4180, section 2, and what spreadsheets write where the comma is a decimal mark: common practice, no source.
  it.each([
    [
      'a,"b, c"\r\n"d ""e""",f',
      [
        ['a', 'b, c'],
        ['d "e"', 'f'],
      ],
    ],
    [
      'a;b\n1,5;2',
      [
        ['a', 'b'],
        ['1,5', '2'],
      ],
    ],
    [
      'a\tb\n1\t2',
      [
        ['a', 'b'],
        ['1', '2'],
      ],
    ],
  ])('%j has its rows', (text, rows) => expect(parseTable(text)).toEqual(rows));

  it('that ends in the middle of a quote says so', () => {
    expect(() => parseTable('a,"b')).toThrow(expect.objectContaining({ code: 'table-unreadable' }));
  });
});
