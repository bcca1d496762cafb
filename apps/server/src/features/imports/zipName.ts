/**
 * Names in archives. Source: PKWARE APPNOTE 6.3.10, sections 4.4.4 (bit 11), 4.6.9 (Unicode path
 * extra field 0x7075) and appendix D (CP437 otherwise). That UTF-8 is also written without saying
 * so is common practice.
 */
import { decodeStrictly } from '@fastigium/core/text';
import { crc32 } from 'node:zlib';

const UTF8_FLAG = 1 << 11;
const UNICODE_PATH = 0x7075;

// The upper half of IBM code page 437.
const CP437 =
  'ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜ¢£¥₧ƒáíóúñÑªº¿⌐¬½¼¡«»░▒▓│┤╡╢╖╕╣║╗╝╜╛┐└┴┬├─┼╞╟╚╔╩╦╠═╬╧╨╤╥╙╘╒╓╫╪┘┌█▄▌▐▀αßΓπΣσµτΦΘΩδ∞φε∩≡±≥≤⌠⌡÷≈°∙·√ⁿ²■ ';

export interface ZipName {
  readonly name: string;
  /** True where the letters are a guess. */
  readonly doubtful: boolean;
}

export function decodeZipName(
  raw: Buffer,
  generalPurposeBits: number,
  extraFields: readonly { readonly id: number; readonly data: Buffer }[],
): ZipName {
  const utf8 = decode(raw);
  if (generalPurposeBits & UTF8_FLAG) {
    return utf8 === undefined ? { name: raw.toString('utf8'), doubtful: true } : { name: utf8, doubtful: false };
  }
  for (const { id, data } of extraFields) {
    // Version 1, then the CRC of the name it stands for, so that a renamed entry's old field does not count.
    if (id !== UNICODE_PATH || data.length < 6 || data[0] !== 1 || data.readUInt32LE(1) !== crc32(raw)) continue;
    const name = decode(data.subarray(5));
    if (name !== undefined) return { name, doubtful: false };
  }
  if (utf8 !== undefined) return { name: utf8, doubtful: false };
  const name = Array.from(raw, (byte) => (byte < 0x80 ? String.fromCharCode(byte) : (CP437[byte - 0x80] ?? '?'))).join(
    '',
  );
  return { name, doubtful: true };
}

const decode = (bytes: Uint8Array): string | undefined => decodeStrictly(bytes, 'utf-8');
