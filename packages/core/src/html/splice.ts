/**
 * Edits spliced into a page's source by position: everything outside an edit keeps its bytes.
 */
import { bytePositions, type SourceText } from './decode.ts';

/** Replaces the text from `start` up to `end` (positions in the decoded text, UTF-16 units). */
export interface Edit {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

const utf8 = new TextEncoder();

/**
 * Text as bytes of an encoding. Only UTF-8 and UTF-16 can write every letter; elsewhere letters
 * outside ASCII become character references, which mean the same in text, titles and attributes
 * (HTML standard, section 13.1.4), the only places edits are made.
 */
function encodeFor(text: string, encoding: string): Uint8Array {
  if (encoding === 'utf-8') return utf8.encode(text);
  if (encoding.startsWith('utf-16')) {
    const bytes = new Uint8Array(text.length * 2);
    for (let i = 0; i < text.length; i += 1) {
      const unit = text.charCodeAt(i);
      const [first, second] = encoding === 'utf-16be' ? [unit >> 8, unit & 0xff] : [unit & 0xff, unit >> 8];
      bytes[2 * i] = first;
      bytes[2 * i + 1] = second;
    }
    return bytes;
  }
  let ascii = '';
  for (const character of text) {
    const code = character.codePointAt(0) ?? 0;
    ascii += code < 0x80 ? character : `&#${code};`;
  }
  return utf8.encode(ascii);
}

/** Applies edits that do not overlap. With none, the very same bytes come back. */
export function splice(bytes: Uint8Array, source: SourceText, edits: readonly Edit[]): Uint8Array {
  if (edits.length === 0) return bytes;
  const sorted = [...edits].sort((a, b) => a.start - b.start || a.end - b.end);
  const positions: number[] = [];
  let reached = 0;
  for (const { start, end } of sorted) {
    if (start < reached || end < start) throw new RangeError(`edits overlap at ${start}`);
    reached = end;
    positions.push(start, end);
  }
  const cuts = bytePositions(bytes, source, positions);
  const pieces: Uint8Array[] = [];
  let last = 0;
  sorted.forEach((edit, index) => {
    pieces.push(bytes.subarray(last, cuts[2 * index]), encodeFor(edit.text, source.encoding));
    last = cuts[2 * index + 1] ?? last;
  });
  pieces.push(bytes.subarray(last));
  return concatenate(pieces);
}

function concatenate(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}

/** For the inside of an element such as `<title>`. HTML standard, section 13.1.2.2. */
export function escapeText(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;');
}

/** For a value between double quotes. HTML standard, section 13.1.2.3. */
export function escapeAttribute(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/"/g, '&quot;');
}
