/** Tables that people bring, as CSV (RFC 4180) in whatever encoding their spreadsheet writes. */
import { DomainError } from '@fastigium/contracts/errors';
import { decodeStrictly, decodeText, withoutMark } from '@fastigium/core/text';
import { parse } from 'csv-parse/sync';

/** UTF-8 and UTF-16 by their marks or because they are valid; else as spreadsheets of western Europe write it. */
export function decodeTable(bytes: Uint8Array): { text: string; encoding: string } {
  const [a, b] = bytes;
  if ((a === 0xff && b === 0xfe) || (a === 0xfe && b === 0xff)) {
    const encoding = a === 0xff ? 'utf-16le' : 'utf-16be';
    return { text: withoutMark(decodeText(bytes, encoding)), encoding };
  }
  const utf8 = decodeStrictly(bytes, 'utf-8');
  return utf8 === undefined
    ? { text: decodeText(bytes, 'windows-1252'), encoding: 'windows-1252' }
    : { text: withoutMark(utf8), encoding: 'utf-8' };
}

/** Fields are parted by commas; by semicolons or tabs where the first line has more of those, as spreadsheets in many countries write it. */
export function parseTable(text: string): string[][] {
  const first = text.slice(0, text.search(/[\r\n]|$/));
  const count = (sign: string) => first.split(sign).length;
  const delimiter = [',', ';', '\t'].reduce((best, sign) => (count(sign) > count(best) ? sign : best));
  try {
    return parse(text, { bom: true, delimiter, relax_column_count: true, skip_empty_lines: true });
  } catch (error) {
    throw new DomainError(
      'table-unreadable',
      { detail: error instanceof Error ? (error.message.split('\n')[0]?.slice(0, 200) ?? '') : '' },
      { cause: error },
    );
  }
}
