/**
 * Bytes of a page to text and back to byte positions.
 *
 * The encoding is found as a browser finds it for a file without transport headers: byte order
 * mark, then the declaration among the first 1024 bytes (HTML standard, section 13.2.3.2), then
 * UTF-8 if the bytes are valid UTF-8, and windows-1252 otherwise, the standard's fallback for
 * western locales.
 */

import { decodePieces, decodeStrictly, decodeText, findEncoding } from '../text/index.ts';

export type EncodingSource = 'bom' | 'declared' | 'guessed';

export interface SourceText {
  readonly text: string;
  /** Label of the WHATWG Encoding standard, such as `utf-8` or `windows-1252`. */
  readonly encoding: string;
  readonly encodingSource: EncodingSource;
  /** Bytes of the byte order mark, which is no part of `text`. */
  readonly bomBytes: number;
  /** False where some bytes mean nothing in the encoding; they show as U+FFFD. */
  readonly valid: boolean;
}

const PRESCAN_BYTES = 1024;

function detectBom(bytes: Uint8Array): { encoding: string; length: number } | undefined {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', length: 3 };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', length: 2 };
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', length: 2 };
  return undefined;
}

function readDeclaredEncoding(bytes: Uint8Array): string | undefined {
  let head = '';
  for (const byte of bytes.subarray(0, PRESCAN_BYTES)) head += String.fromCharCode(byte);
  const label = /<meta\b[^>]*?\bcharset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)/i.exec(
    head.replace(/<!--[\s\S]*?-->/g, ''),
  )?.[1];
  if (label === undefined) return undefined;
  const encoding = findEncoding(label);
  // "If charset is UTF-16BE/LE, then set charset to UTF-8": it was read as ASCII, so it is not.
  return encoding?.startsWith('utf-16') ? 'utf-8' : encoding;
}

export function decodeSource(bytes: Uint8Array): SourceText {
  const mark = detectBom(bytes);
  const body = mark === undefined ? bytes : bytes.subarray(mark.length);
  const declared = mark?.encoding ?? readDeclaredEncoding(body);
  const bomBytes = mark?.length ?? 0;
  const encodingSource: EncodingSource = mark ? 'bom' : declared ? 'declared' : 'guessed';
  for (const encoding of declared === undefined ? ['utf-8', 'windows-1252'] : [declared]) {
    const text = decodeStrictly(body, encoding);
    if (text !== undefined) return { text, encoding, encodingSource, bomBytes, valid: true };
  }
  const encoding = declared ?? 'windows-1252';
  const text = decodeText(body, encoding);
  return { text, encoding, encodingSource, bomBytes, valid: false };
}

/** Encodings in which a letter may take several bytes (Encoding standard, sections 10 to 14); in all others it takes one. */
const MULTI_BYTE = new Set([
  'utf-8',
  'utf-16le',
  'utf-16be',
  'gbk',
  'gb18030',
  'big5',
  'euc-jp',
  'iso-2022-jp',
  'shift_jis',
  'euc-kr',
]);

function countUtf8(text: string, start: number, end: number): number {
  let length = 0;
  for (let i = start; i < end; i += 1) {
    const unit = text.charCodeAt(i);
    if (unit < 0x80) length += 1;
    else if (unit < 0x800) length += 2;
    // Each half of a surrogate pair counts two of the pair's four bytes.
    else if (unit >= 0xd800 && unit < 0xe000) length += 2;
    else length += 3;
  }
  return length;
}

/**
 * Byte positions in the file for ascending positions in its text.
 * Single-byte encodings and UTF-8 without faults are counted; anything else is decoded once more byte
 * by byte, watching where each character comes out, which is exact for every encoding and only slow.
 */
export function findBytePositions(bytes: Uint8Array, source: SourceText, positions: readonly number[]): number[] {
  const out: number[] = [];
  if (source.encoding === 'utf-8' && source.valid) {
    let at = source.bomBytes;
    let last = 0;
    for (const position of positions) {
      at += countUtf8(source.text, last, position);
      last = position;
      out.push(at);
    }
    return out;
  }
  if (!MULTI_BYTE.has(source.encoding)) return positions.map((position) => source.bomBytes + position);
  const read = decodePieces(source.encoding);
  let units = 0;
  let byte = source.bomBytes;
  for (const position of positions) {
    while (units < position && byte < bytes.length) {
      units += read(bytes.subarray(byte, byte + 1)).length;
      byte += 1;
    }
    out.push(byte);
  }
  return out;
}
