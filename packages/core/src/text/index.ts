/**
 * Bytes to text as the Encoding standard says, the same wherever this runs. Nothing else makes a `TextDecoder`: Node.js 20
 * reads windows-1252 as ISO-8859-1 and, told to keep a byte order mark, loses an 0xFF at a start; it is the encoding most
 * old pages and most spreadsheets are in.
 */

export * from './escape.ts';

// Encoding standard, index windows-1252: what stands at 0x80 to 0x9F.
const WINDOWS_1252 = '€\x81‚ƒ„…†‡ˆ‰Š‹Œ\x8dŽ\x8f\x90‘’“”•–—˜™š›œ\x9džŸ';
/** As many arguments as a call can take on every platform. */
const AT_A_TIME = 8192;

/**
 * The name of an encoding by any of its labels (Encoding standard, section 4.2): `windows-1252` for `latin1`; undefined
 * where it is none.
 */
export function findEncoding(label: string): string | undefined {
  try {
    return new TextDecoder(label).encoding;
  } catch {
    return undefined;
  }
}

function decode(bytes: Uint8Array, encoding: string, fatal: boolean): string {
  if (encoding !== 'windows-1252') return new TextDecoder(encoding, { fatal, ignoreBOM: true }).decode(bytes);
  let text = '';
  for (let from = 0; from < bytes.length; from += AT_A_TIME)
    text += String.fromCharCode(...bytes.subarray(from, from + AT_A_TIME));
  return text.replace(/[\x80-\x9f]/g, (control) => WINDOWS_1252[control.charCodeAt(0) - 0x80] ?? control);
}

/**
 * @param encoding a name, as `findEncoding` gives it
 * @returns the text, with U+FFFD for bytes that mean nothing; a byte order mark is a letter of it
 */
export const decodeText = (bytes: Uint8Array, encoding: string): string => decode(bytes, encoding, false);

/** The same; undefined where some bytes mean nothing in that encoding. */
export function decodeStrictly(bytes: Uint8Array, encoding: string): string | undefined {
  try {
    return decode(bytes, encoding, true);
  } catch {
    return undefined;
  }
}

/**
 * A text of its own: one that was cut out of a longer text keeps all of that in memory, in every engine that does not
 * copy what it cuts out.
 */
export const copyText = (text: string): string => ` ${text}`.slice(1);

/** The text without a byte order mark at its start, which is no letter of it (Unicode standard, section 23.8). */
export const withoutMark = (text: string): string => text.replace(/^\uFEFF/, '');

/**
 * For bytes that come in pieces: gives the letters that are whole so far, and what is left over with the last piece,
 * which is `undefined`.
 */
export function decodePieces(encoding: string): (piece: Uint8Array | undefined) => string {
  if (encoding === 'windows-1252') return (piece) => (piece ? decodeText(piece, encoding) : '');
  const decoder = new TextDecoder(encoding, { ignoreBOM: true });
  return (piece) => (piece ? decoder.decode(piece, { stream: true }) : decoder.decode());
}
